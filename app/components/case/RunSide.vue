<script setup lang="ts">
import { firstRouteOf, isAllBack, type FullPlan, type Plan } from '~~/core/ranking/situation/plan-shape'
import { opensNothing } from '~~/core/playbook/kinds/route-kind'
import { sheetOf } from '~~/core/ranking/explain/sheet'
import { isBeingWorked } from '~~/core/cases/shape/states'
import { openingStop } from '~~/core/cases/shape/permission'
import { openRunsOf, runAt } from '~~/core/cases/shape/open-runs'

/** The current run: what the chosen route needs and its steps, or how the open run ended. */
const props = defineProps<{ full: FullPlan; chosen: string | null }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const playbooks = usePlaybookStore()
const isBusy = ref(false)

const emit = defineEmits<{ choose: [id: string | null] }>()
const openRuns = computed(() => openRunsOf(store.current))
/** The open run that is shown: the chosen one, or the one being worked on; none while another route is chosen. */
const openRun = computed(() => {
  const chosen = openRuns.value.find((run) => run.option === props.chosen)
  return chosen ?? (props.chosen === null ? runAt(store.current, null) : null)
})
/** The plan before the last result and the run that had it, until somebody goes on. */
const recorded = shallowRef<{ plan: Plan; run: string } | null>(null)
const isAfterwards = computed(
  () => recorded.value !== null && !openRuns.value.some(({ id }) => id === recorded.value?.run),
)
function record(run: string) {
  recorded.value = { plan: props.full.plan, run }
  emit('choose', null)
}
/** The first route to try that is not under way, in the technician's own order where there is one. */
const first = computed(() =>
  (props.full.override?.order ?? props.full.plan.order).find((id) => !openRuns.value.some((run) => run.option === id)),
)
const option = computed(() => {
  const wanted = props.chosen ?? first.value
  return props.full.plan.options.find((one) => one.id === wanted) ?? null
})
const sheet = computed(() => {
  const { playbook } = playbooks
  return option.value && playbook ? sheetOf({ option: option.value.id, kind: option.value.kind }, playbook) : null
})
const stop = computed(() => (option.value && opensNothing(option.value.family) ? null : openingStop(store.asItIs)))
const isNext = computed(() => option.value !== null && option.value.id === first.value)
const missing = computed(() => {
  const id = option.value?.id
  return id
    ? props.full.plan.holds.filter(
        (hold) => hold.protects.includes(id) && !store.current.holds.some((mark) => mark.hold === hold.id),
      )
    : []
})
/** From this share of everything back on, a route has brought enough. */
const ENOUGH = 0.85

/** What follows the first route, once it has come back with all or with nothing. */
const follows = computed(() => {
  const { next, plan, override } = props.full
  if (!isNext.value || !next || override || option.value?.id !== firstRouteOf(plan)?.id) return null
  const then = plan.options.find((one) => one.id === next.then)
  const ends = Math.round(next.ends * 100)
  const isEnough = next.back >= ENOUGH
  const after = isEnough
    ? 'it brings enough, and you are done'
    : `it works, with ${percent(next.back)} back, and nothing after it is worth its price then`
  const enough = ends > 0 ? `In ${ends} of 100 cases ${after}. ` : ''
  return then ? `${enough}If it brings nothing, next is: ${then.title}.` : `${enough}Nothing follows it yet.`
})
/** What comes next where no step is left: the client, another copy, or the end of the case. */
const afterAll = computed(() => {
  if (isAllBack(props.full.sets))
    return {
      what: 'All is back: the client is next',
      how: 'Go through the items with them, and agree how they are returned.',
      isReady: true,
    }
  return store.current.runs.length === 0
    ? {
        what: 'Ask for another copy',
        how: 'Accounts, backups, people who have some of it: add them in the docket.',
        isReady: false,
      }
    : {
        what: 'Nothing is left to try',
        how: 'Set the case to ready, or add what you learned to the docket.',
        isReady: false,
      }
})
const isWorkable = computed(() => isBeingWorked(store.current.state.name))
const warning = computed(() => (option.value?.standing === 'harmful' ? option.value.says : null))

async function start() {
  if (!option.value || isBusy.value) return
  isBusy.value = true
  recorded.value = null
  if (await store.startRun(option.value.id)) emit('choose', null)
  isBusy.value = false
}

/** Asking the client is a step whose outcome is a fact. */
function agreed(is: 'given' | 'refused') {
  const what = option.value?.id.startsWith('consent-erase') ? 'erase' : 'laboratory'
  store.set([{ fact: `consent.${what}.answer`, is }])
}

const firstMissing = computed(() => missing.value[0] ?? null)

async function seeTo() {
  if (!firstMissing.value || isBusy.value) return
  isBusy.value = true
  await store.markHold(firstMissing.value.id, 'ticked')
  isBusy.value = false
}

/** S does the next thing: it opens the hold that is still open, or starts the run. */
function next() {
  if (openRun.value !== null || !isWorkable.value) return
  if (firstMissing.value) void seeTo()
  else if (!stop.value && option.value?.family !== 'consent' && !store.supposed && session.may('work')) void start()
}
useSingleKeys({
  s: ['the next step: confirm a hold, or start', next],
  b: ['to the bench', () => session.may('work') && void navigateTo(`/bench/${store.code}`)],
})
</script>

<template>
  <section aria-label="The run at hand">
    <nav
      v-if="openRuns.length > 1 || (openRuns.length > 0 && !openRun)"
      aria-label="Open runs"
      class="mb-3 text-[14px]"
    >
      <p class="section-name">Under way</p>
      <button
        v-for="run in openRuns"
        :key="run.id"
        type="button"
        class="block min-h-[24px] max-w-full truncate text-left underline decoration-dotted"
        :class="run.id === openRun?.id ? 'font-bold' : ''"
        :aria-current="run.id === openRun?.id"
        @click="emit('choose', run.option)"
      >
        {{ run.title }}{{ run.clock?.phase === 'waiting' ? ', waiting' : '' }}
      </button>
    </nav>
    <PlanChange v-if="isAfterwards" :before="recorded!.plan" :after="full.plan" class="mb-4" @close="recorded = null" />
    <RunAtHand v-if="openRun" :key="openRun.id" :run="openRun" :full="full" @recording="record(openRun.id)" />
    <template v-else-if="option && isWorkable">
      <p class="text-[14px] text-soft">{{ isNext ? 'Next' : 'Chosen' }}</p>
      <h2 class="mt-0.5 text-[21px] leading-tight" data-test="next-route">{{ option.title }}</h2>
      <p v-if="follows" class="mt-1.5 text-[14px]" data-test="follows">{{ follows }}</p>
      <p v-if="warning" class="mt-2 font-bold text-russet-ink">▲ {{ warning }}</p>
      <div v-if="firstMissing" class="mt-3 border-2 border-held p-3 text-[14px]" data-test="first-hold">
        <p>
          <strong class="text-held">First{{ missing.length > 1 ? ` (${missing.length} holds left)` : '' }}:</strong>
          {{ firstMissing.says }}
        </p>
        <button type="button" class="main-action mt-2 w-full" @click="seeTo">
          Confirm done
          <KeyCap shipped="S" />
        </button>
      </div>
      <p v-else-if="store.supposed" class="mt-4 text-[14px] text-soft">
        Keep or discard the what-if facts before starting a run.
      </p>
      <OpeningStop v-else-if="stop" :stop="stop" class="mt-3" />
      <div v-else-if="option.family === 'consent'" class="mt-4 flex gap-2" data-test="consent">
        <button type="button" class="main-action flex-1" @click="agreed('given')">Client agrees</button>
        <button type="button" class="quiet-action" @click="agreed('refused')">Client refuses</button>
      </div>
      <button
        v-else-if="session.may('work')"
        type="button"
        class="main-action mt-4 w-full"
        :disabled="isBusy || option.standing === 'closed'"
        data-test="start"
        @click="start"
      >
        Start run
        <KeyCap shipped="S" />
      </button>
      <slot />
      <RunSheet v-if="sheet" :sheet="sheet" class="mt-4 border-t border-line pt-3" />
    </template>
    <template v-else-if="!isWorkable">
      <p class="text-[14px] text-soft">The case is</p>
      <h2 class="text-[21px] leading-tight">{{ store.current.state.name.replace('-', ' ') }}</h2>
      <NuxtLink :to="`/hand-over/${store.code}`" class="main-action mt-3 w-full">Go to the hand-over</NuxtLink>
      <p class="mt-2 text-[14px] text-soft">To try another route, bring it back to the bench.</p>
    </template>
    <template v-else>
      <p class="text-[14px] text-soft">Next</p>
      <h2 class="mt-0.5 text-[21px] leading-tight">{{ afterAll.what }}</h2>
      <p class="mt-1 text-[14px] text-soft">{{ afterAll.how }}</p>
      <NuxtLink
        v-if="afterAll.isReady"
        :to="`/hand-over/${store.code}`"
        class="main-action mt-3 w-full"
        data-test="all-back"
      >
        Go to the hand-over
      </NuxtLink>
      <slot />
    </template>
  </section>
</template>
