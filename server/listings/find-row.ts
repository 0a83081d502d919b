import type { Case } from '../../core/cases/shape/case'
import { known } from '../../core/cases/shape/fact'
import { spanOf } from '../../core/cases/shape/moment'
import { dayIn } from '../../core/bench/days'
import { wantedBy, wantedByFetched } from '../../core/bench/match'
import { extensionOf } from '../../core/files/kinds'
import type { LinkItem } from '../../core/bench/item'
import type { Keep } from '../../core/bench/keep'
import type { Evidence } from '../../core/bench/medium'
import { writeStoredFind } from '../db/stored-find'
import type { NewFind } from './store-finds'

/** What a found item is judged by. */
export interface Judging {
  readonly ofCase: Case
  /** the client's own device or medium: what is present on it is not lost */
  readonly isOwn: boolean
  /** somebody fetched these items for the case */
  readonly isFetched?: boolean
  readonly zone: string
}

/** The row of a found item. */
export function rowOf(
  listingId: number,
  keep: Pick<Keep, 'id' | 'kind' | 'title' | 'asOf'>,
  item: LinkItem,
  { ofCase, isOwn, isFetched = false, zone }: Judging,
  evidence: Evidence | null = null,
): NewFind {
  const made = item.made ?? item.changed
  const isStillThere = isOwn && item.presence === 'present' && keep.kind !== 'sim'
  // Of an overwritten item only the name is left, and nobody wants that back.
  const canBeWanted = !isStillThere && item.whole !== 'overwritten'
  const row: NewFind['row'] = {
    listingId,
    item: `${keep.id}/${item.id}`,
    name: item.name,
    extension: extensionOf(item.name),
    place: [keep.title, ...item.place].join(' / '),
    type: item.type,
    bytes: item.bytes,
    made,
    day: made === null ? null : dayIn(zone, Date.parse(made)),
    goneAt: item.goneAt,
    presence: item.presence,
    whole: item.whole,
    wanted: canBeWanted ? wantedOf(item, ofCase, isFetched) : null,
    startByte: evidence?.extents.find(([offset]) => offset >= 0)?.[0] ?? null,
  }
  return { row, body: writeStoredFind({ ...item, keep: keep.id, keepTitle: keep.title, asOf: keep.asOf, evidence }) }
}

const wantedOf = (item: LinkItem, { wanted, loss }: Case, isFetched: boolean) =>
  isFetched ? wantedByFetched(item, wanted, known(loss.when) ? spanOf(loss.when).from : null) : wantedBy(item, wanted)
