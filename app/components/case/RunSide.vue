<script setup lang="ts">
import type { FullPlan } from '~~/core/ranking/plan'
import { SAFETY } from '~~/core/ranking/plan-shape'
import { SAFETY_SHEET } from '~~/core/ranking/safety-copy'
import { isBeingWorked } from '~~/core/cases/states'

/** The run at hand: what is to be ready and done for the chosen route, or how the open run ended. */
const props = defineProps<{ full: FullPlan; chosen: string | null }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const isBusy = ref(false)

const openRun = computed(() => store.current.runs.find((run) => run.ended === null) ?? null)
const option = computed(() => {
  const wanted = openRun.value?.option ?? props.chosen ?? props.full.plan.order[0]
  return props.full.plan.options.find((one) => one.id === wanted) ?? null
})
const kind = computed(
  () => session.playbook?.kinds.find((one) => one.id === (openRun.value?.kind ?? option.value?.kind)) ?? null,
)
const sheet = computed(() => (option.value?.kind === SAFETY ? SAFETY_SHEET : kind.value?.sheet) ?? null)
const isNext = computed(() => option.value !== null && option.value.id === props.full.plan.order[0])
const missing = computed(() => {
  const id = option.value?.id
  return id
    ? props.full.plan.holds.filter(
        (hold) => hold.protects.includes(id) && !store.current.holds.some((mark) => mark.hold === hold.id),
      )
    : []
})
const isWorkable = computed(() => isBeingWorked(store.current.state.name))
const warning = computed(() => (option.value?.standing === 'harmful' ? option.value.says : null))

async function start() {
  if (!option.value || isBusy.value) return
  isBusy.value = true
  await store.startRun(option.value.id)
  isBusy.value = false
}

const firstMissing = computed(() => missing.value[0] ?? null)

async function seeTo() {
  if (!firstMissing.value || isBusy.value) return
  isBusy.value = true
  await store.markHold(firstMissing.value.id, 'ticked')
  isBusy.value = false
}

/** S is the next thing to do: the hold that is still open, then the run itself. */
function next() {
  if (openRun.value !== null || !isWorkable.value) return
  if (firstMissing.value) void seeTo()
  else if (session.may('work')) void start()
}
useSingleKeys({ s: next })
</script>

<template>
  <section aria-label="The run at hand">
    <template v-if="openRun">
      <p class="text-[14px] text-soft">Under way, {{ openRun.by }}</p>
      <h2 class="mt-0.5 text-[21px] leading-tight">{{ openRun.title }}</h2>
      <details v-if="sheet" class="mt-2 text-[14px]">
        <summary class="min-h-[24px] cursor-pointer text-russet-ink underline decoration-dotted">the steps</summary>
        <RunSheet :sheet="sheet" class="mt-2" />
      </details>
      <RunReportForm v-if="session.may('work')" :key="openRun.id" :run="openRun" :kind="kind" class="mt-3" />
    </template>
    <template v-else-if="option && isWorkable">
      <p class="text-[14px] text-soft">{{ isNext ? 'Next' : 'Chosen' }}</p>
      <h2 class="mt-0.5 text-[21px] leading-tight" data-test="next-route">{{ option.title }}</h2>
      <p v-if="warning" class="mt-2 font-bold text-russet-ink">▲ {{ warning }}</p>
      <RunSheet v-if="sheet" :sheet="sheet" class="mt-3" />
      <div v-if="firstMissing" class="mt-4 border-2 border-held p-3 text-[14px]" data-test="first-hold">
        <p>
          <strong class="text-held">First{{ missing.length > 1 ? ` (${missing.length} holds to go)` : '' }}:</strong>
          {{ firstMissing.says }}
        </p>
        <button type="button" class="main-action mt-2 w-full" @click="seeTo">
          That is done
          <kbd class="key-cap">S</kbd>
        </button>
      </div>
      <button
        v-else-if="session.may('work')"
        type="button"
        class="main-action mt-4 w-full"
        :disabled="isBusy || option.standing === 'closed'"
        data-test="start"
        @click="start"
      >
        Start this run
        <kbd class="key-cap">S</kbd>
      </button>
    </template>
    <template v-else-if="!isWorkable">
      <p class="text-[14px] text-soft">The case is</p>
      <h2 class="text-[21px] leading-tight">{{ store.current.state.name.replace('-', ' ') }}</h2>
      <p class="mt-1 text-[14px] text-soft">To try another route, bring it back to the bench.</p>
    </template>
    <template v-else>
      <p class="text-[14px] text-soft">Next</p>
      <h2 class="mt-0.5 text-[21px] leading-tight">
        {{ store.current.runs.length === 0 ? 'Ask for one more copy' : 'Nothing is left to try' }}
      </h2>
      <p class="mt-1 text-[14px] text-soft">
        {{
          store.current.runs.length === 0
            ? 'Accounts, backups, people who have some of it: add them in the docket.'
            : 'Call it ready, or add what you learned to the docket.'
        }}
      </p>
    </template>
  </section>
</template>
