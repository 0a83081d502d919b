import type { Case } from '../../../core/cases/shape/case'
import type { Run } from '../../../core/cases/shape/run'
import { Failure, refused } from '../../failure'

/** The open run of a case with this id; throws a Failure where there is none, or where its result is recorded already. */
export function openRun({ runs }: Case, id: string): Run {
  const run = runs.find((one) => one.id === id)
  if (!run) throw new Failure('not-found', 'There is no such run.')
  if (run.ended !== null)
    throw refused(`The result of the run “${run.title}” is recorded already. Reload the case to see it.`)
  return run
}
