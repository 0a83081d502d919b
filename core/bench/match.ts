import { foundAs } from '../cases/shape/data-types'
import { known } from '../cases/shape/fact'
import { DAY_MS, spanOf } from '../cases/shape/moment'
import type { WantedSet } from '../cases/shape/wanted'
import { extensionOf } from '../files/kinds'
import type { LinkItem } from './item'

/** How far a date may be outside what a client said: clocks are wrong and zones are crossed. */
const SLACK_MS = DAY_MS

/** What an item is judged by. */
export type Judged = Pick<LinkItem, 'name' | 'place' | 'type' | 'made' | 'changed' | 'presence'>

/** When an item was created, as far as it is known; ms. */
export function madeOf(item: Pick<LinkItem, 'made' | 'changed'>): number | null {
  const told = item.made ?? item.changed
  return told === null ? null : Date.parse(told)
}

/**
 * The wanted set that an item belongs to: its type fits, its name where names are known, and its date where dates are.
 * An item without a date belongs to a set with dates only by its name. Null where it fits none.
 */
export function wantedBy(item: Judged, sets: readonly WantedSet[]): string | null {
  return sets.find((set) => fits(item, set))?.id ?? null
}

/**
 * The wanted set of an item that somebody fetched for it: as above, and an item whose date is not known belongs to the first
 * set whose type and names fit. A date from after the loss is that of the fetching, and so is none of the item's. `lost`: the
 * earliest moment of the loss in ms, null where it is unknown.
 */
export function wantedByFetched(item: Judged, sets: readonly WantedSet[], lost: number | null): string | null {
  const isOfFetching = item.made === null && item.changed !== null && lost !== null && Date.parse(item.changed) >= lost
  const judged = isOfFetching ? { ...item, changed: null } : item
  const found = wantedBy(judged, sets)
  if (found !== null || madeOf(judged) !== null) return found
  return sets.find((set) => fitsByName(judged, set) !== false)?.id ?? null
}

/** Whether type and names of an item fit a set: null where the set tells no names. */
function fitsByName(item: Judged, set: WantedSet): boolean | null {
  if (known(set.type) && set.type !== 'files' && foundAs(set.type) !== foundAs(item.type)) return false
  return known(set.names) ? namesFit(item, set.names) : null
}

function fits(item: Judged, set: WantedSet): boolean {
  const isNamed = fitsByName(item, set)
  if (isNamed === false) return false
  if (!known(set.made)) return true
  const made = madeOf(item)
  if (made === null) return isNamed === true
  const span = spanOf(set.made)
  return made >= span.from - SLACK_MS && made <= span.to + SLACK_MS
}

/** Whether one of the names or extensions that a client gave ("chapter4, *.tex") is in an item's name. */
function namesFit(item: Judged, names: string): boolean {
  const name = plain(item.name)
  const extension = extensionOf(item.name)
  return names
    .split(/[,;]|\bor\b/)
    .map((one) => one.trim().toLowerCase())
    .filter((one) => one !== '')
    .some((one) => {
      const asExtension = one.replace(/^\*?\./, '')
      if (one.startsWith('.') || one.startsWith('*.')) return extension === asExtension
      return name.includes(plain(one)) || extension === one
    })
}

const plain = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[\p{M}_\-.\s]+/gu, '')
