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

function fits(item: Judged, set: WantedSet): boolean {
  if (known(set.type) && set.type !== 'files' && set.type !== item.type) return false
  const isNamed = known(set.names) ? namesFit(item, set.names) : null
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
