import { Case } from '../../../core/cases/shape/case'
import { frozenBy } from '../../../core/cases/shape/freeze'
import { known } from '../../../core/cases/shape/fact'
import { refusalOf, type CaseState } from '../../../core/cases/shape/states'
import { DAY_MS } from '../../../core/cases/shape/moment'
import type { Database } from '../../db/open'
import { Failure, refused } from '../../failure'
import { forgetSecretsOfCase } from '../secrets'
import { historySince, readStored, updateCase, type Writer } from '../rows'
import { type Written, written, iso, writing } from './writing'

interface MoveChange {
  readonly version: number
  readonly to: CaseState['name']
  readonly waitingFor: CaseState['waitingFor']
  readonly reason: string
}

/** Moves a case to another state by the core's rules; refused where somebody else moved it since the writer read it. */
export function moveCase(database: Database, code: string, move: MoveChange, writer: Writer): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const { state } = before.case
    if (frozenBy(before.case.freezes)) throw refused('This case is stopped. An owner lifts the stop first.')
    if (before.case.wiping.data && move.to === 'at-bench')
      throw refused('The data of this case were wiped. Log a new case to begin again.')
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
    forgetSecretsOfCase(handle, before.id, after)
    return written(updateCase(handle, before, after, [{ kind: 'moved', fact: 'state', was: state, is: next }], writer))
  })
}
