import { emptyCase, type Case } from '~~/core/cases/shape/case'
import { replaced, withFacts, withMissingParts, type Change } from '~~/core/cases/facts/facts'
import type { Fault } from '~~/core/cases/shape/faults'
import type { Clash } from '~~/core/cases/facts/merge'
import type { RunReport } from '~~/core/cases/shape/run'
import type { CaseState } from '~~/core/cases/shape/states'
import { CaseAnswer, CaseIfNewer, type RunMark } from '~~/core/cases/facts/writing'
import type { HandoverInput } from '~~/core/handover/writes'
import { FactQueue, type Saving } from '~/utils/fact-queue'

const pathOf = (code: string) => `/api/cases/${encodeURIComponent(code)}`

/** The open case on the log, case and bench pages: its facts, the what-if facts, and every write to it. */
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
  /** what-if facts; null while there are none */
  const supposed = shallowRef<Change[] | null>(null)
  /** the case that the plan is made for: as stored, or with the what-if facts */
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

  /** Sets facts, or what-if facts while there are some; returns what is wrong with them. */
  function set(changes: readonly Change[]): Fault[] {
    if (!supposed.value) return queue.set(changes)
    const next = replaced(supposed.value, withMissingParts(shown.value, changes))
    const tried = withFacts(current.value, next)
    if (!tried.ok) return tried.faults
    supposed.value = next
    return []
  }

  /** Asks for changes by others; unsent changes stay on top of them. */
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

  /** Other writes go at once, after the unsent facts; the answer is the case as it is then. */
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
    /** the case without the what-if facts */
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
    markRun: (run: string, mark: RunMark) => write('POST', `/runs/${run}/sheet`, { mark }),
    endRun: (run: string, report: RunReport) => write('PUT', `/runs/${run}`, { report }),
    handOver: (done: HandoverInput) => write('POST', '/hand-over', { write: done }),
    move: (to: CaseState['name'], waitingFor: CaseState['waitingFor'], reason: string) =>
      write('POST', '/move', { to, waitingFor, reason }),
    settle: (clash: Clash, isMine: boolean) => queue.settle(clash, isMine),
  }
})
