import { z } from 'zod'
import { DATA_TYPES, USUAL_ITEM_BYTES } from './data-types'
import { bytes, choice, fact, known, name, partId, yesNo } from './fact'
import { Moment } from './moment'

export const PLACES = ['device', 'card', 'cloud', 'app'] as const

/** Where items lived; `from` says since when, as for a card that was put in later. */
const Place = z.object({ place: z.enum(PLACES), from: fact(Moment) })

/** A share (0 to 1) of the items that were made within a part of the time. */
export const Crowd = z.object({ made: Moment, share: z.number().min(0, 'is below zero').max(1, 'is more than all') })
export type Crowd = z.infer<typeof Crowd>

/** One group of items that the client wants back. */
export const WantedSet = z.object({
  id: partId,
  type: choice(DATA_TYPES),
  /** in the client's words: "survey photos" */
  title: fact(name(80)),
  /** rough number of items */
  count: fact(z.int().min(1, 'is below one').max(100_000_000)),
  bytes: fact(bytes),
  /** when the items were made */
  made: fact(Moment),
  /** which of them must come back: all, none, or those made in a range */
  mustHave: fact(z.union([z.enum(['all', 'none']), Moment])),
  /** names or extensions, where they are known */
  names: fact(name(200)),
  lived: fact(z.array(Place).min(1).max(8)),
  /** ids of the devices and media (copies) that it was on, where there are several */
  on: fact(z.array(partId).min(1).max(20)),
  /** where they are unevenly spread over the time in which they were made: so much of them in this range */
  spread: fact(z.array(Crowd).min(1).max(12)),
  /** on the device there were only placeholders: the content was in the cloud */
  placeholders: yesNo,
})
export type WantedSet = z.infer<typeof WantedSet>

/** Whether any items of a set must come back. */
export const isMustHave = ({ mustHave }: Pick<WantedSet, 'mustHave'>): boolean => known(mustHave) && mustHave !== 'none'

/** Rough number of items, 1 where it is not known. */
export function countOf(set: WantedSet): number {
  return known(set.count) ? set.count : 1
}

/** Mean size of one item in bytes, from size and count where known, otherwise the usual size of the type. */
export function itemBytesOf(set: WantedSet): number {
  if (known(set.bytes) && known(set.count)) return set.bytes / set.count
  return known(set.type) ? USUAL_ITEM_BYTES[set.type] : USUAL_ITEM_BYTES.files
}
