import { ne } from 'drizzle-orm'
import { Case } from '../../core/cases/shape/case'
import { updateCase, type Handle, type Happening, type Writer } from '../cases/rows'
import { cases } from '../db/tables'

/** The open cases that somebody has, or in which a run of theirs is open. */
function heldBy(handle: Handle, name: string) {
  return handle
    .select()
    .from(cases)
    .where(ne(cases.state, 'closed'))
    .all()
    .flatMap(({ id, version, body }) => {
      const ofCase = Case.parse(JSON.parse(body))
      const isHeld = ofCase.with === name || ofCase.runs.some((run) => run.ended === null && run.by === name)
      return isHeld ? [{ id, version, case: ofCase }] : []
    })
}

export const countHeldBy = (handle: Handle, name: string): number => heldBy(handle, name).length

/** Passes the open cases of somebody who leaves on to another, with their open runs; their name stays in the history. */
export function passOn(handle: Handle, from: string, to: string, writer: Writer): void {
  for (const stored of heldBy(handle, from)) {
    const before = stored.case
    const runs = before.runs.map((run) => (run.ended === null && run.by === from ? { ...run, by: to } : run))
    const after = { ...before, with: before.with === from ? to : before.with, runs }
    const passed = runs.filter((run, at) => run !== before.runs[at])
    const happenings: Happening[] = [
      ...(after.with === before.with
        ? []
        : [{ kind: 'fact' as const, fact: 'with', was: before.with, is: after.with }]),
      ...passed.map(({ id, title }) => ({
        kind: 'run-sheet' as const,
        fact: id,
        was: null,
        is: { says: `passed “${title}” on from ${from} to ${to}` },
      })),
    ]
    updateCase(handle, stored, after, happenings, writer)
  }
}
