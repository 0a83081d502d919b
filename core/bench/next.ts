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

/** What is not listed like a place: a backup is chosen, a state is turned back to, a restore point holds no items. */
const NOT_LISTED: readonly KeepKind[] = ['backup', 'earlier-state', 'restore-point']

/** Whether keeps of this kind are listed among everything that a link keeps. */
export const isListed = (kind: KeepKind) => !NOT_LISTED.includes(kind)

/** The kinds of data that a case wants back, as far as they are known. */
export const wantedTypes = ({ wanted }: Pick<Case, 'wanted'>): DataType[] =>
  wanted.flatMap(({ type }) => (known(type) ? [type] : []))

/**
 * Where to look next: the one place in which most of what is wanted can be, `EVERYTHING` where no single one stands out,
 * null where nothing can be listed. What was deleted waits in a bin; what was saved over is in earlier states, of which the
 * right one is chosen by its time.
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

/** Whether the rows of a link's apps have to be read before what is wanted of them can be listed. */
export function needsReading(keeps: readonly Keep[], ofCase: Pick<Case, 'wanted'>): boolean {
  const types = wantedTypes(ofCase)
  return keeps.some(
    (keep) => keep.kind === 'apps' && keep.closed !== null && keep.types.some((type) => types.includes(type)),
  )
}

/** A deep scan after a format, and where the run that is open asks for the content; otherwise the records come first. */
export function firstPass(ofCase: Pick<Case, 'loss' | 'runs'>): PassOptions['pass'] {
  const run = ofCase.runs.find(({ ended }) => ended === null)
  return ofCase.loss.how === 'formatted' || run?.kind.endsWith('deep-scan') || run?.kind.startsWith('formatted-')
    ? 'both'
    : 'quick'
}

export const FOUND_VIEWS = ['days', 'folders', 'list'] as const
export type FoundView = (typeof FOUND_VIEWS)[number]

/** What is made at a moment and looked at in the order of the days. */
const DATED: readonly DataType[] = ['photos', 'videos', 'audio']

/** The ways in which found items can be laid out, the one to begin with first. */
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
