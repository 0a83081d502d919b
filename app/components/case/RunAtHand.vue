<script setup lang="ts">
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'
import { sheetOf } from '~~/core/ranking/explain/sheet'
import type { Run } from '~~/core/cases/shape/run'

/** An open run: its timers, its sheet with what has to be ready, notes, and how it ended. */
const props = defineProps<{ run: Run; full: FullPlan }>()
defineEmits<{ recording: [] }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const playbooks = usePlaybookStore()

const kind = computed(() => playbooks.playbook?.kinds.find((one) => one.id === props.run.kind) ?? null)
const option = computed(() => props.full.plan.options.find((one) => one.id === props.run.option) ?? null)
const sheet = computed(() => (playbooks.playbook ? sheetOf(props.run, playbooks.playbook) : null))
const link = useRunLink(toRef(() => props.run))
const gates = computed(() => gateLines(kind.value, option.value, link.value, store.current))
</script>

<template>
  <div data-test="run">
    <p class="text-[14px] text-soft">Under way, {{ run.by }}</p>
    <h2 class="mt-0.5 text-[21px] leading-tight">{{ run.title }}</h2>
    <RunClock :run="run" class="mt-2" />
    <NuxtLink
      v-if="session.may('work')"
      :to="`/bench/${store.code}`"
      class="main-action mt-2 w-full"
      data-test="to-bench"
    >
      Go to the bench
      <KeyCap shipped="B" />
    </NuxtLink>
    <NuxtLink
      v-if="session.may('work')"
      :to="{ path: `/bench/${store.code}`, query: { bring: run.id } }"
      class="mt-1 inline-block min-h-[24px] text-[14px] underline decoration-dotted"
      data-test="bring"
    >
      Carried out by hand: bring in its files …
    </NuxtLink>
    <RunSheet v-if="sheet" :sheet="sheet" :run="run" :gates="gates" class="mt-3" />
    <RunNotes :run="run" class="mt-3 border-t border-line pt-3" />
    <RunReportForm
      v-if="session.may('work')"
      :key="run.id"
      :run="run"
      :kind="kind"
      class="mt-3 border-t border-line pt-3"
      @recording="$emit('recording')"
    />
  </div>
</template>
