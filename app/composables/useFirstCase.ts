import { useIntervalFn, useLocalStorage } from '@vueuse/core'

/** The demo's case that is worked as a first one: a worn card, from its plan to the report. */
const FIRST_CASE = 'SL-0017'
const MEDIUM = 'medium-worn-card'
const LOOK_EVERY_MS = 3000

/** One step: what to do, and where. */
interface FirstStep {
  readonly says: string
  readonly where: string
}
const CASE_PAGE = `/cases/${FIRST_CASE}`
const BENCH_PAGE = `/bench/${FIRST_CASE}?on=${MEDIUM}`
const STEPS = {
  open: { says: 'Open the case of the heron watch. Its line on the counter says what closes first.', where: CASE_PAGE },
  start: {
    says: 'Read what to try first, and why. Confirm what has to hold, then start it: the card is read only.',
    where: CASE_PAGE,
  },
  scan: { says: 'At the bench, start the scan that is proposed. Finds appear while it reads.', where: BENCH_PAGE },
  copy: {
    says: 'Ask the sentence for what is wanted, select it, and copy it to the shelf. Every copy is read back.',
    where: BENCH_PAGE,
  },
  result: { says: 'Record the result on the right: how much came back. The odds learn from it.', where: BENCH_PAGE },
  report: { says: 'On the hand-over page, make the report for the client.', where: `/hand-over/${FIRST_CASE}` },
  done: { says: 'That was a case, from its plan to the report. The ledger counts it now.', where: '/ledger' },
} satisfies Record<string, FirstStep>
type StepName = keyof typeof STEPS
const ORDER = Object.keys(STEPS) as StepName[]

/** Whether the first case is being worked here, and whether it can be: in the demo, by who works at the bench. */
export function useFirstCaseOffer() {
  const session = useSessionStore()
  const isOn = useLocalStorage('lantern:first-case', false)
  return { isOn, canOffer: computed(() => session.demoPeople.length > 0 && session.may('work')) }
}

/** How far the first case has come, by what is on record of it; null while nobody works it. */
export function useFirstCase() {
  const session = useSessionStore()
  const route = useRoute()
  const { isOn, canOffer } = useFirstCaseOffer()
  const name = ref<StepName | null>(null)

  async function look() {
    if (!isOn.value || !canOffer.value || session.lock) return
    try {
      name.value = await reached()
    } catch {
      // Shown again as soon as the server answers.
      name.value = null
    }
  }
  async function reached(): Promise<StepName> {
    const [{ CaseAnswer }, { BenchAnswer }, { HandoverAnswer }] = await Promise.all([
      import('~~/core/cases/facts/writing'),
      import('~~/core/bench/bench'),
      import('~~/core/handover/answers'),
    ])
    const path = `/api/cases/${FIRST_CASE}`
    const { runs } = (await api(CaseAnswer, 'GET', path)).case
    if (runs.some(({ ended }) => ended !== null)) {
      const { papers } = await api(HandoverAnswer, 'GET', `${path}/hand-over`)
      return papers.some(({ kind }) => kind === 'report' || kind === 'annex') ? 'done' : 'report'
    }
    if (runs.length === 0) return route.path === CASE_PAGE ? 'start' : 'open'
    const { passes, shelf } = await api(BenchAnswer, 'GET', `${path}/bench`)
    if (shelf.verified > 0) return 'result'
    return passes.some(({ state }) => state === 'done' || state === 'enough') ? 'copy' : 'scan'
  }
  useIntervalFn(() => void look(), LOOK_EVERY_MS)
  watch([isOn, () => route.fullPath, () => session.person?.id], () => void look(), { immediate: true })
  const step = computed(() => {
    if (!isOn.value || !canOffer.value || name.value === null) return null
    return { name: name.value, at: ORDER.indexOf(name.value) + 1, of: ORDER.length, ...STEPS[name.value] }
  })
  return { isOn, step }
}
