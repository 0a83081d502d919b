import { Case } from '../../../core/cases/shape/case'
import { isBeingWorked, type CaseState } from '../../../core/cases/shape/states'
import { openRunsOf, refusalOfAnother } from '../../../core/cases/shape/open-runs'
import type { RunReport, RunReportInput, SafetyReport } from '../../../core/cases/shape/run'
import { startedClock, switched } from '../../../core/cases/shape/run-clock'
import type { Playbook } from '../../../core/playbook/playbook'
import { fullPlanOf } from '../../../core/ranking/explain/plan'
import { GATE_NAMES, opensNothing } from '../../../core/playbook/kinds/route-kind'
import { CONSENT, SAFETY, type PlanOption } from '../../../core/ranking/situation/plan-shape'
import type { Database } from '../../db/open'
import { Failure, invalid, refused } from '../../failure'
import { readEvidence } from '../evidence'
import { requireConsent } from '../consent'
import { forgetSecretsOfRun } from '../secrets'
import { readStored, updateCase, type Happening, type Writer } from '../rows'
import { openRun } from './open-run'
import { handsOff } from './run-sheet'
import { type Written, written, iso, writing } from './writing'

/** Starts a run of a route of the present plan, and stores what the plan expected of it. */
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
    const another = refusalOfAnother(openRunsOf(before.case), { option: option.id, kind: option.kind }, (kind) =>
      isExclusive(kind, playbook),
    )
    if (another) throw refused(another)
    if (option.standing === 'closed') throw refused(`This route is closed. ${option.says}`)
    const marked = new Set(before.case.holds.map((mark) => mark.hold))
    const missing = plan.holds.filter((hold) => hold.protects.includes(optionId) && !marked.has(hold.id))
    if (missing.length > 0)
      throw new Failure('refused', `Tick or waive these holds first: ${missing.map((hold) => hold.says).join(' ')}`, {
        fields: missing.map((hold) => ({ path: `holds.${hold.id}`, message: hold.says })),
      })
    if (option.family === CONSENT) throw refused('Ask the client, and record the answer in the docket.')
    if (!opensNothing(option.family)) requireConsent(before)
    refuseUnsafe(before.case, option, playbook)
    const run = {
      id: `r${before.case.runs.length + 1}`,
      option: option.id,
      kind: option.kind,
      copy: option.copy,
      title: option.title,
      by: writer.by,
      started: iso(writer.now),
      clock: startedClock('hands-on', writer.now),
      predicted: {
        chance: option.chance[1],
        share: option.share[1],
        reach: option.reach,
        gates: openGates(option),
        place: placeIn(before.case.override?.order ?? plan.order, option.id),
      },
    }
    const atBench: CaseState =
      before.case.state.name === 'at-bench'
        ? before.case.state
        : { name: 'at-bench', waitingFor: null, since: iso(writer.now), reason: '' }
    const after = Case.parse({
      ...before.case,
      with: before.case.with ?? writer.by,
      state: atBench,
      runs: [...before.case.runs.map((one) => handsOff(one, writer.now)), run],
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

/** Steps that erase or turn back, and the copies that keep safe what those would take, overlap no other run. */
function isExclusive(kind: string, playbook: Playbook): boolean {
  const effects = playbook.kinds.find((one) => one.id === kind)?.effects
  return kind === SAFETY || effects?.erasesDevice === true || effects?.turnsBack === true
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

/** The place of a route in an order, from 1; null where it is not in it. */
function placeIn(order: readonly string[], option: string): number | null {
  const at = order.indexOf(option)
  return at < 0 ? null : at + 1
}

/** The gates that are not known to be met. */
function openGates(option: PlanOption): string[] {
  const gates: readonly string[] = GATE_NAMES
  return option.factors
    .filter((factor) => gates.includes(factor.name) && factor.value > 0 && factor.value < 1)
    .map((factor) => factor.name)
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
    const run = openRun(before.case, runId)
    const strange = (report.results ?? []).find((result) => !before.case.wanted.some((set) => set.id === result.wanted))
    if (strange)
      throw invalid([
        { path: 'report.results', message: `names a wanted set that the case does not have (${strange.wanted})` },
      ])
    refuseEmptySafetyCopy(run.kind, report)
    const clock = run.clock && switched(run.clock, 'off', writer.now)
    const ended = { ...run, ...report, ...causeOf(report), clock, ended: iso(writer.now) }
    const after = Case.parse({ ...before.case, runs: before.case.runs.map((one) => (one.id === runId ? ended : one)) })
    forgetSecretsOfRun(handle, before.id, after, run)
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

/** Leaves an ended run out of the odds, with a reason, or counts it again (null). */
export function leaveOutRun(
  database: Database,
  code: string,
  runId: string,
  reason: string | null,
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const run = before.case.runs.find((one) => one.id === runId)
    if (!run) throw new Failure('not-found', 'There is no such run.')
    if (run.ended === null) throw refused('This run is still open. Record its result first.')
    if ((run.leftOut?.reason ?? null) === reason) return written(before)
    const leftOut = reason === null ? null : { reason, by: writer.by, at: iso(writer.now) }
    const runs = before.case.runs.map((one) => (one.id === runId ? { ...one, leftOut } : one))
    const after = Case.parse({ ...before.case, runs })
    const is = { title: run.title, reason }
    return written(updateCase(handle, before, after, [{ kind: 'run-left-out', fact: runId, was: null, is }], writer))
  })
}

/** The cause of a failed run and its gate agree: a gate names which, any other cause is a failure without one. */
function causeOf({ cause, failedOn, hasFailed }: RunReportInput): Pick<RunReport, 'cause' | 'failedOn' | 'hasFailed'> {
  if (cause === 'gate' && !failedOn)
    throw invalid([{ path: 'report.failedOn', message: 'must say which condition was not met' }], 'The report')
  if (failedOn) return { cause: 'gate', failedOn, hasFailed: false }
  return { cause: cause ?? null, failedOn: null, hasFailed: hasFailed === true || (cause ?? null) !== null }
}

/** A step that protects the client's data from being erased needs evidence; an empty form is none. */
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
 * A safety copy that was made and verified at the bench counts as the run that the plan asks for, whoever made it: the
 * step that it protects from then destroys nothing any more.
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
