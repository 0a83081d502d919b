import { Case } from '../../../core/cases/shape/case'
import { MAX_NOTES, type Run } from '../../../core/cases/shape/run'
import { startedClock, switched, type ClockPhase } from '../../../core/cases/shape/run-clock'
import type { RunMark } from '../../../core/cases/facts/writing'
import { lineWords, sheetOf } from '../../../core/ranking/explain/sheet'
import type { Playbook } from '../../../core/playbook/playbook'
import type { Database } from '../../db/open'
import { refused } from '../../failure'
import { readStored, updateCase, type Writer } from '../rows'
import { openRun } from './open-run'
import { type Written, written, iso, writing } from './writing'

/** Ticks a line of an open run's sheet, switches its clock, or adds a note to it. */
export function markRun(
  database: Database,
  code: string,
  runId: string,
  mark: RunMark,
  playbook: Playbook,
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const run = openRun(before.case, runId)
    const done = marked(run, mark, playbook, writer)
    if (!done) return written(before)
    const { phase } = done.next.clock ?? {}
    const others = before.case.runs.map((one) => (one.id === runId ? done.next : one))
    const runs =
      phase === 'hands-on' ? others.map((one) => (one.id === runId ? one : handsOff(one, writer.now))) : others
    const after = Case.parse({ ...before.case, runs })
    return written(
      updateCase(
        handle,
        before,
        after,
        [{ kind: 'run-sheet', fact: runId, was: null, is: { says: done.says } }],
        writer,
      ),
    )
  })
}

/** Nobody has their hands at two runs of a case at once: one that is left waits. */
export function handsOff(run: Run, now: number): Run {
  if (run.ended !== null || run.clock?.phase !== 'hands-on') return run
  return { ...run, clock: switched(run.clock, 'waiting', now) }
}

const PHASE_WORDS: Record<ClockPhase, string> = {
  off: 'stopped the timers',
  'hands-on': 'started the hands-on timer',
  waiting: 'started the waiting timer',
}

/** A run after a mark, and what was done in a sentence; null where it changes nothing. */
function marked(run: Run, mark: RunMark, playbook: Playbook, { by, now }: Writer): { next: Run; says: string } | null {
  if ('phase' in mark) {
    const clock = run.clock ?? startedClock('off', Date.parse(run.started))
    if (clock.phase === mark.phase) return null
    return {
      next: { ...run, clock: switched(clock, mark.phase, now) },
      says: `${PHASE_WORDS[mark.phase]} of “${run.title}”`,
    }
  }
  if ('note' in mark) {
    if (run.notes.length >= MAX_NOTES)
      throw refused('This run has as many notes as it can hold. What is noted is kept; write the rest into its result.')
    return {
      next: { ...run, notes: [...run.notes, { at: iso(now), by, text: mark.note }] },
      says: `noted on “${run.title}”: ${mark.note}`,
    }
  }
  const words = lineWords(mark.line, sheetOf(run, playbook))
  if (words === null) throw refused('The run sheet has no such line any more. Reload the case.')
  const isDone = run.checks.some(({ line }) => line === mark.line)
  if (isDone === mark.isDone) return null
  const rest = run.checks.filter(({ line }) => line !== mark.line)
  return {
    next: { ...run, checks: mark.isDone ? [...rest, { line: mark.line, by, at: iso(now) }] : rest },
    says: `${mark.isDone ? 'ticked' : 'unticked'} on the sheet of “${run.title}”: ${words}`,
  }
}
