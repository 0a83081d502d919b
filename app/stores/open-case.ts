import type { Case } from '~~/core/cases/shape/case'
import { emptyCase } from '~~/core/cases/shape/case'
import { factAt, withFacts, type Change } from '~~/core/cases/facts/facts'
import type { Fault } from '~~/core/cases/shape/faults'
import type { Clash } from '~~/core/cases/facts/merge'
import type { RunReport } from '~~/core/cases/shape/run'
import type { CaseState } from '~~/core/cases/shape/states'
import { CaseAnswer, CaseIfNewer } from '~~/core/cases/facts/writing'

export type Saving = 'kept' | 'saving' | 'offline'

const NEW = 'new'
const RETRY_MS = 3000

/**
 * The case that is open on the log or the case page. Facts show at once, wait in this machine's storage
 * until the server has them, and are sent one batch after the other, so that nothing typed is lost.
 */
export const useOpenCaseStore = defineStore('open-case', () => {
  const session = useSessionStore()
  const code = ref<string | null>(null)
  const version = ref(0)
  /** the case as the server last told it */
  const told = shallowRef<Case>(emptyCase())
  const pending = shallowRef<Change[]>([])
  const clashes = shallowRef<Clash[]>([])
  const saving = ref<Saving>('kept')
  /** the version that the first of the waiting changes was made on; what others set since is merged from there */
  let base = 0
  let isSending = false
  let visit = 0

  /** the case as it stands on the screen: what the server told and what waits to be sent */
  const current = computed<Case>(() => {
    if (pending.value.length === 0) return told.value
    const set = withFacts(told.value, pending.value)
    return set.ok ? set.changed : told.value
  })
  /** facts that are only supposed, to see what the plan would be; null while nothing is */
  const supposed = shallowRef<Change[] | null>(null)
  /** the case that the plan is shown for: as it stands, or as it would be */
  const shown = computed<Case>(() => {
    if (!supposed.value || supposed.value.length === 0) return current.value
    const set = withFacts(current.value, supposed.value)
    return set.ok ? set.changed : current.value
  })

  function suppose() {
    supposed.value ??= []
  }
  function dropSupposed() {
    supposed.value = null
  }
  function keepSupposed() {
    const changes = supposed.value ?? []
    supposed.value = null
    if (changes.length > 0) set(changes)
  }

  function keepPending(changes: Change[]) {
    if (pending.value.length === 0) base = version.value
    pending.value = changes
    keepWaiting(me(), code.value ?? NEW, { base, changes })
  }

  /** What waits is kept for whoever typed it. */
  const me = () => session.person?.id ?? 0

  /** What waited of this person when this machine was last at the case; kept out where it no longer fits. */
  function restorePending(key: string) {
    pending.value = []
    const kept = readWaiting(me(), key)
    if (!kept || kept.base > version.value || !withFacts(told.value, kept.changes).ok) return
    base = kept.base
    pending.value = kept.changes
    void flush()
  }

  function begin() {
    visit++
    code.value = null
    version.value = 0
    told.value = emptyCase()
    clashes.value = []
    supposed.value = null
    saving.value = 'kept'
    restorePending(NEW)
  }

  async function open(which: string) {
    const own = ++visit
    const answer = await api(CaseAnswer, 'GET', `/api/cases/${encodeURIComponent(which)}`)
    if (own !== visit) return
    code.value = which
    clashes.value = []
    supposed.value = null
    take(answer)
    saving.value = 'kept'
    restorePending(which)
  }

  function take(answer: CaseAnswer) {
    version.value = answer.version
    told.value = answer.case
  }

  /** Sets facts, or answers what is wrong with them and leaves the case as it was. */
  function set(changes: Change[]): Fault[] {
    const complete = [...missingParts(changes), ...changes]
    if (supposed.value) {
      const next = [
        ...supposed.value.filter((one) => !complete.some((change) => change.fact === one.fact)),
        ...complete,
      ]
      const tried = withFacts(current.value, next)
      if (!tried.ok) return tried.faults
      supposed.value = next
      return []
    }
    const next = [
      ...pending.value.filter(
        (one) =>
          !complete.some((change) => change.fact === one.fact && !one.fact.match(/^(devices|wanted|copies)\.[^.]+$/)),
      ),
      ...complete,
    ]
    const tried = withFacts(told.value, next)
    if (!tried.ok) return tried.faults
    keepPending(next)
    void flush()
    return []
  }

  /** Facts of a part that is not there yet bring the part with them, once. */
  function missingParts(changes: readonly Change[]): Change[] {
    const parts = changes.flatMap(({ fact }) => {
      const [list, id, ...rest] = fact.split('.')
      const isInPart = (list === 'devices' || list === 'wanted' || list === 'copies') && rest.length > 0
      return isInPart ? [`${list}.${id}`] : []
    })
    const missing = [...new Set(parts)].filter((part) => factAt(current.value, part) === undefined)
    return missing.map((fact) => ({ fact, is: {} }))
  }

  async function flush() {
    if (isSending || session.lock) return
    isSending = true
    const own = visit
    while (pending.value.length > 0 && own === visit && !session.lock) {
      saving.value = saving.value === 'offline' ? 'offline' : 'saving'
      const batch = pending.value
      const key = code.value ?? NEW
      const kept = JSON.stringify(readWaiting(me(), key))
      try {
        const answer =
          code.value === null
            ? await api(CaseAnswer, 'POST', '/api/cases', { changes: batch })
            : await api(CaseAnswer, 'PATCH', `/api/cases/${encodeURIComponent(code.value)}`, {
                version: base,
                changes: batch,
              })
        if (own === visit) sent(batch, answer)
        // Whoever has left the case meanwhile must not send the same again on coming back.
        else if (JSON.stringify(readWaiting(me(), key)) === kept) keepWaiting(me(), key, null)
      } catch (error) {
        if (!(await survived(error, batch))) break
      }
    }
    isSending = false
    if (pending.value.length > 0 && own !== visit) void flush()
  }

  function sent(batch: Change[], answer: CaseAnswer) {
    const rest = pending.value.filter((change) => !batch.includes(change))
    take(answer)
    base = answer.version
    if (code.value === null) {
      keepWaiting(me(), NEW, null)
      code.value = answer.case.code
    }
    keepPending(rest)
    clashes.value = [
      ...clashes.value.filter((one) => !answer.clashes.some((clash) => clash.fact === one.fact)),
      ...answer.clashes,
    ]
    saving.value = rest.length > 0 ? 'saving' : 'kept'
  }

  /** True where sending goes on after a failure: later where the server is away, not at all where it refused. */
  async function survived(error: unknown, batch: Change[]): Promise<boolean> {
    if (error instanceof ApiFailure && error.isOffline) {
      saving.value = 'offline'
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS))
      return true
    }
    // The page locks; what waits is sent once the same person has signed in again.
    if (error instanceof ApiFailure && error.isSignedOut) return false
    keepPending(pending.value.filter((change) => !batch.includes(change)))
    saving.value = 'kept'
    tellFailure(error)
    return true
  }

  /** Looks for what others have changed; what waits here stays on top of it. */
  async function refresh() {
    if (code.value === null || isSending || session.lock) return
    const own = visit
    try {
      const answer = await api(CaseIfNewer, 'GET', `/api/cases/${encodeURIComponent(code.value)}?seen=${version.value}`)
      if (own === visit && 'case' in answer && answer.version > version.value && !isSending) take(answer)
      if (saving.value === 'offline' && pending.value.length === 0) saving.value = 'kept'
    } catch (error) {
      if (error instanceof ApiFailure && error.isOffline) saving.value = 'offline'
    }
  }

  watch(
    () => session.lock,
    (lock) => {
      if (lock === null && pending.value.length > 0) void flush()
    },
  )

  /** Other writes go at once, after what waits; they answer the case as it then is. */
  async function write(method: 'POST' | 'PUT', path: string, body: object): Promise<boolean> {
    await flush()
    try {
      take(
        await api(CaseAnswer, method, `/api/cases/${encodeURIComponent(code.value ?? '')}${path}`, {
          version: version.value,
          ...body,
        }),
      )
      return true
    } catch (error) {
      tellFailure(error)
      await refresh()
      return false
    }
  }

  return {
    code,
    version,
    current: shown,
    /** the case without what is only supposed */
    asItIs: current,
    supposed,
    suppose,
    keepSupposed,
    dropSupposed,
    clashes,
    saving,
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
    settle(clash: Clash, isMine: boolean) {
      clashes.value = clashes.value.filter((one) => one.fact !== clash.fact)
      if (isMine) set([{ fact: clash.fact, is: clash.yours }])
    },
  }
})
