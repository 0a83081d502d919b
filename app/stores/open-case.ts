import { emptyCase, type Case } from '~~/core/cases/shape/case'
import { replaced, withFacts, withMissingParts, type Change } from '~~/core/cases/facts/facts'
import type { Fault } from '~~/core/cases/shape/faults'
import type { Clash } from '~~/core/cases/facts/merge'
import type { RunReport } from '~~/core/cases/shape/run'
import type { CaseState } from '~~/core/cases/shape/states'
import { CaseAnswer, CaseIfNewer } from '~~/core/cases/facts/writing'
import { FactQueue, type Saving } from '~/utils/fact-queue'

const pathOf = (code: string) => `/api/cases/${encodeURIComponent(code)}`

/** The case that is open on the log, the case or the bench page: its facts, what is only supposed, and all writes to it. */
export const useOpenCaseStore = defineStore('open-case', () => {
  const session = useSessionStore()
  const me = () => session.person?.id ?? 0
  const view = shallowRef({
    code: null as string | null,
    version: 0,
    current: emptyCase(),
    clashes: [] as readonly Clash[],
    saving: 'kept' as Saving,
  })
  const queue = new FactQueue({
    send: (code, base, changes) =>
      code === null
        ? api(CaseAnswer, 'POST', '/api/cases', { changes })
        : api(CaseAnswer, 'PATCH', pathOf(code), { version: base, changes }),
    judge: (error) =>
      !(error instanceof ApiFailure)
        ? 'refused'
        : error.isOffline
          ? 'offline'
          : error.isSignedOut
            ? 'signed-out'
            : 'refused',
    tell: tellFailure,
    read: (key) => readWaiting(me(), key),
    keep: (key, waiting) => keepWaiting(me(), key, waiting),
    isLocked: () => session.lock !== null,
    pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
    changed: () => {
      const { code, version, current, clashes, saving } = queue
      view.value = { code, version, current, clashes, saving }
    },
  })
  const code = computed(() => view.value.code)
  const current = computed(() => view.value.current)
  /** facts that are only supposed, to see what the plan would be; null while nothing is */
  const supposed = shallowRef<Change[] | null>(null)
  /** the case that the plan is shown for: as it stands, or as it would be */
  const shown = computed<Case>(() => {
    if (!supposed.value || supposed.value.length === 0) return current.value
    const set = withFacts(current.value, supposed.value)
    return set.ok ? set.changed : current.value
  })

  function keepSupposed() {
    const changes = supposed.value ?? []
    supposed.value = null
    if (changes.length > 0) queue.set(changes)
  }

  function begin() {
    supposed.value = null
    queue.begin()
  }

  async function open(which: string) {
    if (await queue.open(which, () => api(CaseAnswer, 'GET', pathOf(which)))) supposed.value = null
  }

  /** Sets facts, or supposes them while something is supposed; answers what is wrong with them. */
  function set(changes: readonly Change[]): Fault[] {
    if (!supposed.value) return queue.set(changes)
    const next = replaced(supposed.value, withMissingParts(shown.value, changes))
    const tried = withFacts(current.value, next)
    if (!tried.ok) return tried.faults
    supposed.value = next
    return []
  }

  /** Looks for what others have changed; what waits here stays on top of it. */
  const refresh = () =>
    queue.refresh(async () => {
      const answer = await api(CaseIfNewer, 'GET', `${pathOf(queue.code ?? '')}?seen=${queue.version}`)
      return 'case' in answer ? answer : null
    })

  watch(
    () => session.lock,
    (lock) => {
      if (lock === null) void queue.flush()
    },
  )

  /** Other writes go at once, after what waits; they answer the case as it then is. */
  async function write(method: 'POST' | 'PUT', path: string, body: object): Promise<boolean> {
    await queue.flush()
    try {
      queue.take(await api(CaseAnswer, method, pathOf(queue.code ?? '') + path, { version: queue.version, ...body }))
      return true
    } catch (error) {
      tellFailure(error)
      await refresh()
      return false
    }
  }

  return {
    code,
    version: computed(() => view.value.version),
    current: shown,
    /** the case without what is only supposed */
    asItIs: current,
    supposed,
    suppose: () => (supposed.value ??= []),
    keepSupposed,
    dropSupposed: () => (supposed.value = null),
    clashes: computed(() => view.value.clashes),
    saving: computed(() => view.value.saving),
    begin,
    open,
    set,
    refresh,
    markHold: (hold: string, mark: 'ticked' | 'waived' | null, reason = '') =>
      write('POST', '/holds', { hold, mark, reason }),
    startRun: (option: string) => write('POST', '/runs', { option }),
    override: (order: readonly string[] | null, reason: string) => write('POST', '/override', { order, reason }),
    endRun: (run: string, report: RunReport) => write('PUT', `/runs/${run}`, { report }),
    move: (to: CaseState['name'], waitingFor: CaseState['waitingFor'], reason: string) =>
      write('POST', '/move', { to, waitingFor, reason }),
    settle: (clash: Clash, isMine: boolean) => queue.settle(clash, isMine),
  }
})
