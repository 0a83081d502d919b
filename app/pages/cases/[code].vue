<script setup lang="ts">
import { useEventListener, useIntervalFn, useMediaQuery } from '@vueuse/core'
import { deviceWords } from '~~/core/cases/telling/words'
import { runAt } from '~~/core/cases/shape/open-runs'
import { isBeingWorked } from '~~/core/cases/shape/states'
import { titleOf } from '~~/core/cases/telling/title'

const route = useRoute()
const store = useOpenCaseStore()
const session = useSessionStore()
const now = useServerNow()
const full = usePlan(now)
const trouble = ref<string | null>(null)
const chosen = ref<string | null>(null)

async function load() {
  trouble.value = null
  try {
    await store.open(String(route.params.code))
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
// First guesses and the plan need the playbook; if it does not load, the page says so and works without it.
await Promise.all([
  load(),
  usePlaybookStore()
    .need()
    .catch(() => undefined),
])

useSingleKeys({ escape: ['back to the counter', () => void navigateTo('/')] })
useIntervalFn(() => void store.refresh(), 1500)
useEventListener('focus', () => void store.refresh())
// When the order changes, a choice of a route that is done no longer applies.
watch(
  () => full.value?.plan.options.find((option) => option.id === chosen.value)?.standing,
  (standing) => {
    if (standing === 'closed') chosen.value = null
  },
)

/** one column: the next step, the plan, the facts, and then what is read now and then */
const isNarrow = useMediaQuery('(max-width: 900px)')
const isWorked = computed(() => isBeingWorked(store.current.state.name))
const openOption = computed(() => runAt(store.current, null)?.option ?? null)
const title = computed(() => titleOf(store.current))
const device = computed(() => (store.current.devices[0] ? deviceWords(store.current.devices[0]) : 'device not known'))
useHead({ title: () => title.value })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else-if="full">
    <div class="flex flex-wrap items-center gap-x-8 gap-y-2 border-b border-line px-5 py-2.5">
      <div class="min-w-0 flex-1">
        <h1 class="truncate text-[22px]" :title="title">{{ title }}</h1>
        <p class="touch-links flex flex-wrap gap-x-3 text-[14px] text-soft">
          <span class="figure text-ink">{{ store.code }}</span>
          <span>{{ device }}</span>
          <NuxtLink :to="`/log/${store.code}`" class="underline decoration-dotted">the telling</NuxtLink>
          <NuxtLink :to="`/hand-over/${store.code}`" class="underline decoration-dotted" data-test="to-hand-over">
            hand-over
          </NuxtLink>
          <NuxtLink
            v-if="store.current.client.id && session.may('work')"
            :to="`/clients/${store.current.client.id}`"
            class="underline decoration-dotted"
          >
            client
          </NuxtLink>
          <NuxtLink :to="`/compare?case=${store.code}`" class="underline decoration-dotted" data-test="to-compare">
            routes compared
          </NuxtLink>
          <a :href="`/api/cases/${store.code}/file`" download class="underline decoration-dotted">case file</a>
          <a
            v-if="session.may('close')"
            :href="`/api/cases/${store.code}/bundle`"
            download
            class="underline decoration-dotted"
          >
            with attachments
          </a>
          <TrainingMark />
          <SavingNote />
        </p>
      </div>
      <BackSoFar :full="full" class="w-[330px]" />
      <MoveCase />
    </div>
    <ClashNotes class="mx-5 mt-3" />
    <div class="case-grid">
      <CaseDocket class="docket-column" />
      <div class="plan-column">
        <WhatIf v-if="store.supposed" :full="full" class="mb-3" />
        <HoldCards :holds="full.plan.holds" :order="full.plan.order" :chosen="chosen ?? openOption" />
        <PlanRows :full="full" :now="now" :chosen="chosen" class="mt-3" @choose="(id: string) => (chosen = id)" />
      </div>
      <div class="side-column">
        <RunSide :full="full" :chosen="chosen" @choose="(id: string | null) => (chosen = id)">
          <template v-if="isWorked && !openOption">
            <BestQuestion :full="full" class="mt-4 border-t border-line pt-3" />
            <WaitingCost :full="full" :now="now" class="mt-3 border-t border-line pt-3" />
          </template>
        </RunSide>
        <template v-if="!isNarrow">
          <SavedBy v-if="store.current.wanted.length > 0" class="mt-6 border-t border-line pt-3" />
          <CaseHistory class="mt-6 border-t border-line pt-3" />
        </template>
      </div>
      <div v-if="isNarrow" class="after-column">
        <SavedBy v-if="store.current.wanted.length > 0" />
        <CaseHistory class="mt-6 border-t border-line pt-3" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.case-grid {
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr) 290px;
}
.case-grid > * {
  padding: 12px 18px 40px;
}
.plan-column {
  border-left: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
@media (max-width: 1100px) {
  .case-grid {
    grid-template-columns: minmax(0, 1fr) 280px;
  }
  .plan-column {
    border-left: 0;
  }
  .docket-column {
    grid-column: 1 / -1;
    grid-row: 2;
    columns: 2;
    border-top: 1px solid var(--line);
  }
  .docket-column > :deep(section) {
    break-inside: avoid;
  }
}
/* On a tablet held upright and on a phone the next step comes first, the plan after it, the facts last. */
@media (max-width: 900px) {
  .case-grid {
    grid-template-columns: minmax(0, 1fr);
  }
  .side-column {
    grid-row: 1;
    padding-bottom: 16px;
  }
  .plan-column {
    grid-row: 2;
    border-right: 0;
    border-top: 1px solid var(--line);
  }
  .docket-column {
    grid-row: 3;
  }
  .after-column {
    grid-row: 4;
    border-top: 1px solid var(--line);
  }
}
@media (max-width: 640px) {
  .docket-column {
    columns: 1;
  }
}
</style>
