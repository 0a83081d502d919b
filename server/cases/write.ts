import { CASE_FORMAT, Case } from '../../core/cases/shape/case'
import { factAt, withFacts, type Change } from '../../core/cases/facts/facts'
import { known } from '../../core/cases/shape/fact'
import { mergeByFact, type Clash, type PastChange } from '../../core/cases/facts/merge'
import { sameValue } from '../../core/cases/shape/same-value'
import { isBeingWorked, refusalOf, type CaseState } from '../../core/cases/shape/states'
import { DAY_MS } from '../../core/cases/shape/moment'
import type { RunReportInput, SafetyReport } from '../../core/cases/shape/run'
import type { Playbook } from '../../core/playbook/playbook'
import { fullPlanOf } from '../../core/ranking/explain/plan'
import { GATE_NAMES } from '../../core/playbook/kinds/route-kind'
import { CONSENT, SAFETY, type PlanOption } from '../../core/ranking/situation/plan-shape'
import type { Database } from '../db/open'
import { Failure, invalid, refused } from '../failure'
import { withClientCard } from './clients'
import { keepOutcome, readEvidence } from './evidence'
import { nextCode } from './codes'
import {
  historySince,
  insertCase,
  readStored,
  updateCase,
  type Handle,
  type Happening,
  type StoredCase,
  type Writer,
} from './rows'

export interface Written {
  readonly stored: StoredCase
  readonly clashes: readonly Clash[]
}

const written = (stored: StoredCase, clashes: readonly Clash[] = []): Written => ({ stored, clashes })
const iso = (now: number) => new Date(now).toISOString()

/** Every write is one transaction that holds the write lock from its first read on. */
function writing<T>(database: Database, work: (handle: Handle) => T): T {
  return database.transaction((transaction) => work(transaction), { behavior: 'immediate' })
}

/** A new case with these facts already set. */
export function logCase(database: Database, changes: readonly Change[], playbook: Playbook, writer: Writer): Written {
  return writing(database, (handle) => {
    const code = nextCode(handle, playbook.shop.codePrefix)
    const begun = Case.parse({
      format: CASE_FORMAT,
      version: 1,
      code,
      logged: iso(writer.now),
      state: { name: 'logged', since: iso(writer.now) },
    })
    const set = withFacts(begun, changes)
    if (!set.ok) throw invalid(set.faults, 'The case')
    const logged = withClientCard(handle, withConsentStamps(begun, set.changed, writer), writer)
    return written(
      insertCase(
        handle,
        logged,
        [{ kind: 'logged', fact: '', was: null, is: { code } }, ...factHappenings(begun, logged, changes)],
        writer,
      ),
    )
  })
}

/** A case from a case file, under the next code of this shop; the code that it had stands in its history. */
export function importCase(database: Database, read: Case, playbook: Playbook, writer: Writer): Written {
  return writing(database, (handle) => {
    const code = nextCode(handle, playbook.shop.codePrefix)
    const stays = {
      ...read,
      code,
      with: null,
      logged: read.logged ?? iso(writer.now),
      client: { ...read.client, id: null },
    }
    const kept = withClientCard(handle, stays, writer)
    return written(
      insertCase(handle, kept, [{ kind: 'imported', fact: '', was: null, is: { code, was: read.code } }], writer),
    )
  })
}

/**
 * Sets facts. What others changed since the version that the writer saw is merged fact by fact; facts
 * that two people set differently are answered as clashes and stay as they are.
 */
export function changeFacts(
  database: Database,
  code: string,
  version: number,
  changes: readonly Change[],
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const since = pastChanges(handle, before, version)
    const { apply, clashes } = mergeByFact(before.case, changes, since)
    const real = apply.filter((change) => !sameValue(factAt(before.case, change.fact) ?? null, change.is ?? null))
    if (real.length === 0) return written(before, clashes)
    const set = withFacts(before.case, real)
    if (!set.ok) throw invalid(set.faults, 'The case')
    const touchesClient = real.some((change) => change.fact.startsWith('client'))
    const stamped = withConsentStamps(before.case, set.changed, writer)
    const after = touchesClient ? withClientCard(handle, stamped, writer) : stamped
    return written(updateCase(handle, before, after, factHappenings(before.case, after, real), writer), clashes)
  })
}

/** A consent that was given or refused says who recorded it, and when. */
function withConsentStamps(before: Case, after: Case, writer: Writer): Case {
  const stamped = Object.entries(after.consent).map(([what, agreement]) => {
    const isNew = agreement.answer !== before.consent[what as keyof Case['consent']].answer
    return [
      what,
      !isNew
        ? agreement
        : agreement.answer === 'unknown'
          ? { answer: 'unknown' }
          : { ...agreement, by: writer.by, at: iso(writer.now) },
    ]
  })
  return { ...after, consent: Object.fromEntries(stamped) as Case['consent'] }
}

function factHappenings(before: Case, after: Case, changes: readonly Change[]): Happening[] {
  return changes.map(({ fact }) => ({
    kind: 'fact',
    fact,
    was: factAt(before, fact) ?? null,
    is: factAt(after, fact) ?? null,
  }))
}

function pastChanges(handle: Handle, stored: StoredCase, version: number): PastChange[] {
  if (version > stored.version)
    throw new Failure('invalid', 'That version of the case does not exist yet.', {
      fields: [{ path: 'version', message: 'is newer than the case' }],
    })
  return historySince(handle, stored.id, version)
    .filter((entry) => entry.kind === 'fact')
    .map((entry) => ({ fact: entry.fact, is: entry.is, by: entry.by }))
}

interface HoldChange {
  readonly hold: string
  readonly mark: 'ticked' | 'waived' | null
  readonly reason: string
}

/** Ticks or waives a hold, or takes the mark back. Two people who tick the same hold agree. */
export function markHold(
  database: Database,
  code: string,
  { hold, mark, reason }: HoldChange,
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const old = before.case.holds.find((one) => one.hold === hold) ?? null
    if (old === null && mark === null) return written(before)
    if (old && mark === old.mark && (mark === 'ticked' || reason === old.reason)) return written(before)
    if (mark === 'waived' && reason.trim() === '')
      throw invalid([{ path: 'reason', message: 'is empty; give a reason to waive a hold' }])
    const others = before.case.holds.filter((one) => one.hold !== hold)
    const next =
      mark === null ? null : { hold, mark, reason: mark === 'waived' ? reason : '', by: writer.by, at: iso(writer.now) }
    const after = { ...before.case, holds: next ? [...others, next] : others }
    return written(updateCase(handle, before, after, [{ kind: 'hold', fact: hold, was: old, is: next }], writer))
  })
}

/** Begins a run of a route of the plan as it is now, and keeps what the plan expected of it. */
export function startRun(
  database: Database,
  code: string,
  optionId: string,
  playbook: Playbook,
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const evidence = readEvidence(database)
    const { plan } = fullPlanOf(before.case, playbook, writer.now, { evidence, depth: 'order' })
    const option = plan.options.find((one) => one.id === optionId)
    if (!option) throw refused('The plan has no such route. Reload the case.')
    if (!isBeingWorked(before.case.state.name))
      throw refused(`The case is ${before.case.state.name.replace('-', ' ')}; move it back to the bench first.`)
    const open = before.case.runs.find((run) => run.ended === null)
    if (open) throw refused(`A run is already open: ${open.title}. Record its result first.`)
    if (option.standing === 'closed') throw refused(`This route is closed. ${option.says}`)
    const marked = new Set(before.case.holds.map((mark) => mark.hold))
    const missing = plan.holds.filter((hold) => hold.protects.includes(optionId) && !marked.has(hold.id))
    if (missing.length > 0)
      throw new Failure('refused', `Tick or waive these holds first: ${missing.map((hold) => hold.says).join(' ')}`, {
        fields: missing.map((hold) => ({ path: `holds.${hold.id}`, message: hold.says })),
      })
    if (option.family === CONSENT) throw refused('Ask the client, and record the answer in the docket.')
    refuseUnsafe(before.case, option, playbook)
    const run = {
      id: `r${before.case.runs.length + 1}`,
      option: option.id,
      kind: option.kind,
      copy: option.copy,
      title: option.title,
      by: writer.by,
      started: iso(writer.now),
      predicted: { chance: option.chance[1], share: option.share[1], reach: option.reach, gates: openGates(option) },
    }
    const atBench: CaseState =
      before.case.state.name === 'at-bench'
        ? before.case.state
        : { name: 'at-bench', waitingFor: null, since: iso(writer.now), reason: '' }
    const after = Case.parse({
      ...before.case,
      with: before.case.with ?? writer.by,
      state: atBench,
      runs: [...before.case.runs, run],
    })
    const moved: Happening[] =
      atBench === before.case.state ? [] : [{ kind: 'moved', fact: 'state', was: before.case.state, is: atBench }]
    return written(
      updateCase(
        handle,
        before,
        after,
        [...moved, { kind: 'run-started', fact: run.id, was: null, is: after.runs.at(-1) }],
        writer,
      ),
    )
  })
}

/** A step that destroys something does not start without what keeps it safe and the client's recorded consent. */
function refuseUnsafe(ofCase: Case, option: PlanOption, playbook: Playbook): void {
  const kind = playbook.kinds.find((one) => one.id === option.kind)
  if (!kind) return
  if (kind.effects.needsSafetyCopy && option.harm > 0)
    throw refused(
      kind.effects.turnsBack
        ? 'This replaces what is newer: save today’s list first.'
        : 'This erases the device: make the safety copy first.',
    )
  if (kind.effects.erasesDevice && ofCase.consent.erase.answer !== 'given')
    throw refused('This erases the device: record the client’s consent first.')
}

/** The gates of which nobody knows yet whether they are met. */
function openGates(option: PlanOption): string[] {
  const gates: readonly string[] = GATE_NAMES
  return option.factors
    .filter((factor) => gates.includes(factor.name) && factor.value > 0 && factor.value < 1)
    .map((factor) => factor.name)
}

/** Puts an order of somebody's own in the place of the best one, or goes back to the best one. */
export function overrideOrder(
  database: Database,
  code: string,
  { order, reason }: { readonly order: readonly string[] | null; readonly reason: string },
  playbook: Playbook,
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    if (order === null && before.case.override === null) return written(before)
    if (order !== null && reason.trim() === '')
      throw invalid([{ path: 'reason', message: 'is empty; give a reason for changing the order' }])
    if (order !== null) {
      const { plan } = fullPlanOf(before.case, playbook, writer.now, { depth: 'order' })
      const strange = order.find((id) => !plan.options.some((option) => option.id === id))
      if (strange) throw invalid([{ path: 'order', message: `names a route that the plan does not have (${strange})` }])
    }
    const override =
      order === null ? null : { order: [...order], reason: reason.trim(), by: writer.by, at: iso(writer.now) }
    const after = Case.parse({ ...before.case, override })
    return written(
      updateCase(
        handle,
        before,
        after,
        [{ kind: 'override', fact: 'override', was: before.case.override, is: override }],
        writer,
      ),
    )
  })
}

/** Records how a run ended: minutes, money, what came back, and what it failed on. */
export function endRun(
  database: Database,
  code: string,
  runId: string,
  report: RunReportInput,
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const run = before.case.runs.find((one) => one.id === runId)
    if (!run) throw new Failure('not-found', 'There is no such run.')
    if (run.ended !== null)
      throw refused(`${run.by} has already recorded the result of this run. Reload the case to see it.`)
    const strange = (report.results ?? []).find((result) => !before.case.wanted.some((set) => set.id === result.wanted))
    if (strange)
      throw invalid([
        { path: 'report.results', message: `names a wanted set that the case does not have (${strange.wanted})` },
      ])
    refuseEmptySafetyCopy(run.kind, report)
    const ended = { ...run, ...report, ended: iso(writer.now) }
    const after = Case.parse({ ...before.case, runs: before.case.runs.map((one) => (one.id === runId ? ended : one)) })
    keepOutcome(handle, before.id, after, runId, ended.ended)
    return written(
      updateCase(
        handle,
        before,
        after,
        [{ kind: 'run-ended', fact: runId, was: run, is: after.runs.find((one) => one.id === runId) }],
        writer,
      ),
    )
  })
}

/** What stands between a client's data and an erase is not believed on an empty form. */
function refuseEmptySafetyCopy(kind: string, { failedOn, hasFailed, safetyCopy }: RunReportInput): void {
  if (kind !== SAFETY || failedOn || hasFailed || safetyCopy) return
  throw invalid(
    [
      {
        path: 'report.safetyCopy',
        message: 'must say that it was read back, where it is and how many items it holds',
      },
    ],
    'The report',
  )
}

/**
 * A safety copy that was made and read back at the bench is the run that the plan asks for, whoever began
 * it: what it protects from then destroys nothing any more.
 */
export function recordSafetyCopy(
  database: Database,
  code: string,
  part: string,
  { note, ...safetyCopy }: SafetyReport & { readonly note: string },
  writer: Writer,
): void {
  writing(database, (handle) => {
    const before = readStored(handle, code)
    const option = `${SAFETY}:${part}`
    const at = iso(writer.now)
    const open = before.case.runs.find((run) => run.option === option && run.ended === null)
    const ended = open
      ? { ...open, ended: at, note, safetyCopy }
      : {
          id: `r${before.case.runs.length + 1}`,
          option,
          kind: SAFETY,
          title: 'Safety copy, read back',
          by: writer.by,
          started: at,
          ended: at,
          note,
          safetyCopy,
        }
    const runs = open ? before.case.runs.map((run) => (run.id === open.id ? ended : run)) : [...before.case.runs, ended]
    const after = Case.parse({ ...before.case, runs })
    const is = after.runs.find((run) => run.id === ended.id)
    updateCase(handle, before, after, [{ kind: 'run-ended', fact: ended.id, was: open ?? null, is }], writer)
  })
}

interface MoveChange {
  readonly version: number
  readonly to: CaseState['name']
  readonly waitingFor: CaseState['waitingFor']
  readonly reason: string
}

/** Moves a case to another state by the core's rules; refused where somebody moved it since the writer looked. */
export function moveCase(database: Database, code: string, move: MoveChange, writer: Writer): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const { state } = before.case
    const moved = historySince(handle, before.id, move.version).findLast((entry) => entry.kind === 'moved')
    if (moved && state.name !== move.to)
      throw new Failure(
        'clash',
        `${moved.by} has moved the case to “${state.name.replace('-', ' ')}” in the meantime.`,
        {
          safe: 'Nothing was changed. Reload the case.',
        },
      )
    const days = state.since ? (writer.now - Date.parse(state.since)) / DAY_MS : 0
    const why = refusalOf(state.name, move, {
      wantedKnown: before.case.wanted.some((set) => known(set.type)),
      clientKnown: known(before.case.client.name),
      runsOpen: before.case.runs.filter((run) => run.ended === null).length,
      runsEnded: before.case.runs.filter((run) => run.ended !== null).length,
      dayCountInState: days,
    })
    if (why) throw refused(why)
    const next: CaseState = {
      name: move.to,
      waitingFor: move.to === 'waiting' ? move.waitingFor : null,
      since: iso(writer.now),
      reason: move.reason,
    }
    const after = Case.parse({ ...before.case, state: next })
    return written(updateCase(handle, before, after, [{ kind: 'moved', fact: 'state', was: state, is: next }], writer))
  })
}
