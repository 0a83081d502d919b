import { openRunsOf } from '../cases/shape/open-runs'
import { known } from '../cases/shape/fact'
import { DELETIONS } from '../cases/shape/loss'
import type { Case } from '../cases/shape/case'
import type { DataType } from '../cases/shape/data-types'
import type { FindCounts, FindFilter } from './filter'
import type { Keep, KeepKind } from './keep'
import type { PassOptions } from './medium'
import type { LinkState } from './state'

/** All keeps of a link at once. */
export const EVERYTHING = '*'

/**
 * Keeps that are not listed like a place: a backup is chosen, an earlier state is restored, a restore point has no
 * items.
 */
const NOT_LISTED: readonly KeepKind[] = ['backup', 'earlier-state', 'restore-point']

/** Whether keeps of this kind are listed when everything of a link is listed. */
export const isListed = (kind: KeepKind) => !NOT_LISTED.includes(kind)

/** The kinds of data that a case wants back, as far as they are known. */
export const wantedTypes = ({ wanted }: Pick<Case, 'wanted'>): DataType[] =>
  wanted.flatMap(({ type }) => (known(type) ? [type] : []))

/**
 * Where to look next: the one place that is likely to have most of what is wanted, `EVERYTHING` where no single one
 * stands out, null where nothing can be listed. Deleted items are in a bin; what was saved over is in earlier states,
 * of which the right one is chosen by its time.
 */
export function nextKeep(keeps: readonly Keep[], ofCase: Pick<Case, 'wanted' | 'loss'>): string | null {
  const types = wantedTypes(ofCase)
  const open = keeps.filter(({ closed, isOn, count, kind }) => closed === null && isOn && count > 0 && isListed(kind))
  const fitting = open.filter((keep) => keep.types.some((type) => types.includes(type) || types.includes('files')))
  const { how } = ofCase.loss
  const bins = fitting.filter(({ kind }) => kind === 'bin')
  if ((!known(how) || DELETIONS.includes(how)) && bins.length === 1) return bins[0]!.id
  if (fitting.length === 1) return fitting[0]!.id
  return open.length > 0 ? EVERYTHING : null
}

/** Whether the rows of a link's apps must be read before the wanted items in them can be listed. */
export function needsReading(keeps: readonly Keep[], ofCase: Pick<Case, 'wanted'>): boolean {
  const types = wantedTypes(ofCase)
  return keeps.some(
    (keep) => keep.kind === 'apps' && keep.closed !== null && keep.types.some((type) => types.includes(type)),
  )
}

/** A deep scan after a format, and where the open run asks for content; otherwise a quick pass comes first. */
export function firstPass(ofCase: Pick<Case, 'loss' | 'runs'>): PassOptions['pass'] {
  const isByContent = openRunsOf(ofCase).some(({ kind }) => kind.endsWith('deep-scan') || kind.startsWith('formatted-'))
  return ofCase.loss.how === 'formatted' || isByContent ? 'both' : 'quick'
}

export const FOUND_VIEWS = ['days', 'folders', 'list'] as const
export type FoundView = (typeof FOUND_VIEWS)[number]

/** Types whose items are created at a moment and are viewed by day. */
const DATED: readonly DataType[] = ['photos', 'videos', 'audio']

/** The ways to lay out found items, the first one to begin with. */
export function viewsOf(
  counts: Pick<FindCounts, 'types' | 'total'> | null,
  { type }: Pick<FindFilter, 'type'>,
  isMedium: boolean,
): FoundView[] {
  const dated = (counts?.types ?? []).filter((one) => DATED.includes(one.type)).reduce((sum, one) => sum + one.count, 0)
  const isByDay = type ? DATED.includes(type) : dated * 2 > (counts?.total ?? 0)
  const views: FoundView[] = isMedium ? ['folders', 'list'] : ['list']
  return isByDay ? ['days', ...views] : views
}

/** Whether a link can be restored onto: a device that offers it. */
export const canRestoreOnto = ({ kind, actions }: Pick<LinkState, 'kind' | 'actions'>): boolean =>
  kind === 'phone' && actions.some(({ action }) => action === 'restore')
