import type { Case } from '../cases/shape/case'
import { known } from '../cases/shape/fact'
import { spanOf, type Span } from '../cases/shape/moment'
import { countOf } from '../cases/shape/wanted'
import { COPY_KIND_WORDS, TYPE_WORDS } from '../cases/telling/words'
import { lossRangeOf } from '../ranking/situation/loss-range'
import type { FullPlan } from '../ranking/situation/plan-shape'

/** One wanted set as a band of every row of the map. */
export interface Band {
  readonly wanted: string
  readonly label: string
  /** edges of its slices in ms; null where it is not known when its items were created */
  readonly edges: readonly number[] | null
}

/** Something that is marked on the axis; a moment where both ends are the same. */
export interface Mark extends Span {
  readonly kind: 'must-have' | 'loss' | 'copy' | 'in-step' | 'now'
  readonly label: string
}

/** What the rows of a reach map have in common: bands, axis and marks. */
export interface ReachMap {
  readonly bands: readonly Band[]
  /** when the items were created (ms), over all bands; null where that is not known of any */
  readonly made: Span | null
  readonly now: number
  readonly marks: readonly Mark[]
}

/** The axis and the bands of a case's reach map: must-have sets first, larger ones before smaller. */
export function reachMapOf(ofCase: Case, { sets }: Pick<FullPlan, 'sets'>, now: number): ReachMap {
  const bands = sets
    .map((set) => ({ set, wanted: ofCase.wanted.find((one) => one.id === set.wanted) }))
    .flatMap(({ set, wanted }) => (wanted ? [{ set, wanted }] : []))
    .sort(
      (one, other) =>
        Number(isMustHave(other.wanted.mustHave)) - Number(isMustHave(one.wanted.mustHave)) ||
        countOf(other.wanted) - countOf(one.wanted),
    )
    .map(({ set, wanted }) => ({
      wanted: wanted.id,
      label: known(wanted.title) ? wanted.title : known(wanted.type) ? TYPE_WORDS[wanted.type] : 'not said yet',
      edges: set.edges.length > 1 ? set.edges : null,
    }))
  const dated = bands.flatMap((band) => (band.edges ? [band.edges[0]!, band.edges.at(-1)!] : []))
  const made = dated.length > 0 ? { from: Math.min(...dated), to: Math.max(...dated) } : null
  return { bands, made, now, marks: marksOf(ofCase, now) }
}

const isMustHave = (mustHave: Case['wanted'][number]['mustHave']) => known(mustHave) && mustHave !== 'none'

function marksOf(ofCase: Case, now: number): Mark[] {
  const mustHaves = ofCase.wanted.flatMap((set): Mark[] =>
    known(set.mustHave) && typeof set.mustHave === 'object'
      ? [{ kind: 'must-have', label: 'must have', ...spanOf(set.mustHave) }]
      : [],
  )
  const loss: Mark[] = known(ofCase.loss.when)
    ? [{ kind: 'loss', label: 'lost', ...onlySpan(lossRangeOf(ofCase, now)) }]
    : []
  const copies = ofCase.copies.flatMap((copy): Mark[] => {
    if (known(copy.taken)) return [{ kind: 'copy', label: COPY_KIND_WORDS[copy.kind], ...spanOf(copy.taken) }]
    return known(copy.syncedUntil) ? [{ kind: 'in-step', label: 'in step until', ...spanOf(copy.syncedUntil) }] : []
  })
  return [...mustHaves, ...copies, ...loss, { kind: 'now', label: 'now', from: now, to: now }]
}

const onlySpan = ({ from, to }: Span): Span => ({ from, to })

/** Neighbouring slices with the same figure, in whole per cent, as one span. */
export interface Stretch {
  /** first slice, and the one after the last */
  readonly from: number
  readonly to: number
  readonly value: number
}

/** The stretches of one band of one row. */
export function stretchesOf(values: readonly number[]): Stretch[] {
  const stretches: { from: number; to: number; value: number }[] = []
  for (const [index, value] of values.entries()) {
    const last = stretches.at(-1)
    if (last && Math.round(last.value * 100) === Math.round(value * 100)) last.to = index + 1
    else stretches.push({ from: index, to: index + 1, value })
  }
  return stretches
}

/** How bright each slice of each band is for one route: the chance times the share that it reaches there. */
export function litBy(
  map: ReachMap,
  option: { readonly reach: Readonly<Record<string, readonly number[]>>; readonly chance: readonly number[] },
): number[][] {
  return map.bands.map((band) => (option.reach[band.wanted] ?? []).map((share) => share * option.chance[1]!))
}

/** The same for everything together. */
export function litTogether(map: ReachMap, { sets }: Pick<FullPlan, 'sets'>): number[][] {
  return map.bands.map((band) => [...(sets.find((set) => set.wanted === band.wanted)?.reached ?? [])])
}

/** The slice of a band that contains a time; the nearest one for a time outside it. */
export function sliceAt({ edges }: Band, time: number): number {
  if (!edges) return 0
  const after = edges.findIndex((edge) => edge > time)
  return after < 0 ? edges.length - 2 : Math.max(0, after - 1)
}
