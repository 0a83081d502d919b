import type { Case } from './case'
import type { Run } from './run'

/** The runs of a case whose result is not recorded yet, the earliest first. */
export const openRunsOf = ({ runs }: Pick<Case, 'runs'>): Run[] => runs.filter((run) => run.ended === null)

/** The ids of the parts of a case that a run reads: the part behind the colon of its option, and its copy. */
export const partsReadBy = ({ option, copy }: Pick<Run, 'option' | 'copy'>): (string | null)[] => [
  option.slice(option.indexOf(':') + 1),
  copy,
]

/** The part of a case that is the batch of files with this number, brought for a run or for the case alone. */
export const partOfBatch = (id: number, run: string | null): string =>
  run === null ? `batch-${id}` : `batch-${id}-for-${run}`

const BATCH = /^batch-\d+(?:-for-(.+))?$/

/**
 * The open run that work on a part of the case belongs to: the one that reads the part, otherwise the one that is being
 * worked on, otherwise the one that was started last. Files that were brought for a run belong to that one alone. `part`:
 * id of a device or copy, null where it is not known. Null where no such run is open.
 */
export function runAt(ofCase: Pick<Case, 'runs' | 'copies'>, part: string | null): Run | null {
  const open = openRunsOf(ofCase)
  const brought = BATCH.exec(part ?? '')
  if (brought) return open.find(({ id }) => id === brought[1]) ?? null
  const device = ofCase.copies.find((copy) => copy.id === part)?.device ?? null
  return (
    open.findLast((run) => part !== null && partsReadBy(run).includes(part)) ??
    open.findLast((run) => device !== null && partsReadBy(run).includes(device)) ??
    open.findLast((run) => run.clock?.phase === 'hands-on') ??
    open.at(-1) ??
    null
  )
}

/** Why a second run cannot start beside those that are open, in a sentence; null where it can. */
export function refusalOfAnother(
  open: readonly Pick<Run, 'option' | 'kind' | 'title'>[],
  next: Pick<Run, 'option' | 'kind'>,
  isExclusive: (kind: string) => boolean,
): string | null {
  const same = open.find((run) => run.option === next.option)
  if (same) return `This route is already under way: ${same.title}. Record its result first.`
  const inTheWay = isExclusive(next.kind) ? open[0] : open.find((run) => isExclusive(run.kind))
  return inTheWay ? `A run is open that this one must not overlap: ${inTheWay.title}. Record its result first.` : null
}
