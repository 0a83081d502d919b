import { numberWords } from '../../../local/numbers'
import { numberOfWord } from './number-words'

/** Powers by the unit's first letter; sizes count by 1000, as makers print them, and by 1024 where said so (GiB). */
const POWERS: Record<string, number> = { b: 0, k: 1, m: 2, g: 3, t: 4 }

export type ReadAmount =
  { readonly ok: true; readonly amount: number } | { readonly ok: false; readonly message: string }

/**
 * Reads a size as people say it ("128 GB", "about 4.1gb", "500 megabytes") into bytes.
 * A bare number up to 4 digits is taken as gigabytes, as on the label of a card.
 */
export function readSize(said: string): ReadAmount {
  const words = said
    .trim()
    .toLowerCase()
    .replace(/,(?=\d{3}\b)/g, '')
    .replace(',', '.')
  const match =
    /^(?:about |around |roughly |~ ?)?(\d{1,15}(?:\.\d{1,6})?) ?(bytes?|[kmgt]i?b?|b|kilobytes?|megabytes?|gigs?|gigabytes?|terabytes?)?$/.exec(
      words,
    )
  const number = Number(match?.[1])
  if (!match || (!match[2] && number > 9999))
    return { ok: false, message: 'This is not a size. Try “128 GB” or “4.1 GB”.' }
  const unit = match[2] ?? 'gb'
  const bytes = Math.round(number * (/^[kmgt]ib$/.test(unit) ? 1024 : 1000) ** POWERS[unit.charAt(0)]!)
  return bytes <= Number.MAX_SAFE_INTEGER
    ? { ok: true, amount: bytes }
    : { ok: false, message: 'That is more than any medium holds.' }
}

/** Rough counts as people say them. */
const SPOKEN_COUNTS: Readonly<Record<string, number>> = {
  'a dozen': 12,
  dozens: 36,
  'a few': 3,
  'a couple': 2,
  'a hundred': 100,
  hundreds: 300,
  'a thousand': 1000,
  thousands: 3000,
}

/** Reads a rough count ("about 310", "2,000", "a dozen", "1") into a whole number of at least 1. */
export function readCount(said: string): ReadAmount {
  const words = said
    .trim()
    .toLowerCase()
    .replace(/^(?:about|around|roughly|some|maybe|~) ?/, '')
    .replace(/[ ,.'](?=\d{3}\b)/g, '')
  const spoken = Object.hasOwn(SPOKEN_COUNTS, words) ? SPOKEN_COUNTS[words]! : numberOfWord(words)
  const amount = spoken ?? (/^\d{1,8}$/.test(words) ? Number(words) : NaN)
  return amount >= 1 ? { ok: true, amount } : { ok: false, message: 'This is not a count. Try “about 310” or “1”.' }
}

/** Reads a whole number from 0 up: "8", "none", "about 5 times". */
export function readNumber(said: string): ReadAmount {
  const words = said
    .trim()
    .toLowerCase()
    .replace(/ ?(?:times?|tries|wrong codes?|codes?)$/, '')
  if (/^(?:0|none|no|never|zero)$/.test(words)) return { ok: true, amount: 0 }
  const read = readCount(words === 'once' ? '1' : words === 'twice' ? '2' : words)
  return read.ok && read.amount <= 1000 ? read : { ok: false, message: 'This is not a number. Try “8” or “none”.' }
}

export type ReadRange =
  { readonly ok: true; readonly from: number; readonly to: number } | { readonly ok: false; readonly message: string }

/** Words for amounts written that people use instead of a size, in bytes. */
const SPOKEN_SIZES: Readonly<Record<string, readonly [number, number]>> = {
  nothing: [0, 0],
  none: [0, 0],
  'hardly anything': [0, 100e6],
  'very little': [0, 100e6],
  'a little': [100e6, 1e9],
  'a few gb': [2e9, 5e9],
  'a few gigabytes': [2e9, 5e9],
  'a few gigs': [2e9, 5e9],
  'a lot': [10e9, 60e9],
}

/** Reads a size or a range of sizes ("2 to 5 GB", "between 500 MB and 2 GB", "up to 3 GB") into bytes. */
export function readSizeRange(said: string): ReadRange {
  const words = said.trim().toLowerCase().replace(/\s+/g, ' ')
  const spoken = Object.hasOwn(SPOKEN_SIZES, words) ? SPOKEN_SIZES[words] : undefined
  if (spoken) return { ok: true, from: spoken[0], to: spoken[1] }
  const most = /^(?:up to|at most|less than|under) (.+)$/.exec(words)
  const [first = '', second] = words
    .replace(/^(?:between|from) /, '')
    .split(/ (?:to|and|or) | ?[–—] ?| - |(?<=\d)-(?=\d)/)
  if (!most && second !== undefined) {
    const to = readSize(second)
    // "2 to 5 GB": the unit of the second holds for the first.
    const unit = /[a-z].*$/.exec(second.replace(/^(?:about|around|roughly) /, ''))?.[0] ?? ''
    const from = readSize(/[a-z]$/.test(first) ? first : `${first} ${unit}`.trim())
    if (from.ok && to.ok && from.amount <= to.amount) return { ok: true, from: from.amount, to: to.amount }
    return { ok: false, message: 'This is not a size. Try “2 to 5 GB” or “4.1 GB”.' }
  }
  const read = readSize(most?.[1] ?? words)
  if (!read.ok) return { ok: false, message: 'This is not a size. Try “2 to 5 GB” or “4.1 GB”.' }
  return { ok: true, from: most ? 0 : read.amount, to: read.amount }
}

const DAYS: Readonly<Record<string, number>> = { day: 1, week: 7, month: 30, year: 365 }

/** Reads a period ("7 days", "a week", "2 to 3 months", "30") into days. */
export function readPeriod(said: string): ReadRange {
  const NOT_READ: ReadRange = { ok: false, message: 'This is not a period. Try “7 days” or “2 to 3 weeks”.' }
  const match =
    /^(?:for |about |around |the last )*(an?|\d{1,4}|[a-z]+)(?:(?: to | or | ?[–-] ?| and )(\d{1,4}|[a-z]+))? ?(days?|weeks?|months?|years?|nights?)?$/.exec(
      said.trim().toLowerCase(),
    )
  if (!match) return NOT_READ
  const number = (words: string) => (/^an?$/.test(words) ? 1 : (numberOfWord(words) ?? Number(words)))
  const unit = DAYS[(match[3] ?? 'day').replace(/s$/, '').replace('night', 'day')]!
  const from = number(match[1]!) * unit
  const to = match[2] === undefined ? from : number(match[2]) * unit
  return from >= 0 && to >= from && to <= 3660 ? { ok: true, from, to } : NOT_READ
}

/** Reads an amount of money ("120", "up to 120.50") in the shop's currency. */
export function readMoney(said: string): ReadAmount {
  const words = said
    .trim()
    .toLowerCase()
    .replace(/^(?:up to|about|max(?:imum)?) ?/, '')
    .replace(/[^\d.,]/g, '')
    .replace(/[.,](?=\d{3}\b)/g, '')
    .replace(',', '.')
  return /^\d{1,7}(?:\.\d{1,2})?$/.test(words)
    ? { ok: true, amount: Number(words) }
    : { ok: false, message: 'This is not an amount of money. Try “120”.' }
}

const UNITS = ['bytes', 'kB', 'MB', 'GB', 'TB'] as const

/** "2 to 5 GB", "up to 3 GB": a range of sizes in words. */
export function sayByteRange({ from, to }: { readonly from: number; readonly to: number }): string {
  if (from === to) return sayBytes(from)
  if (from === 0) return `up to ${sayBytes(to)}`
  const [one, other] = [sayBytes(from), sayBytes(to)]
  const [unit, otherUnit] = [one.split(' ')[1], other.split(' ')[1]]
  return unit === otherUnit ? `${one.split(' ')[0]} to ${other}` : `${one} to ${other}`
}

/** "7 days", "14 to 21 days": a period in words. */
export const sayDays = (minDays: number, maxDays: number): string =>
  minDays === maxDays ? `${minDays} ${minDays === 1 ? 'day' : 'days'}` : `${minDays} to ${maxDays} days`

/** A size in the units that people read, with at most one decimal below 100: 980 bytes, 4.1 GB, 12.5 GB, 128 GB. */
export function sayBytes(bytes: number): string {
  let [unit, size] = [0, bytes]
  while (size >= 1000 && unit < UNITS.length - 1) {
    size /= 1000
    unit++
  }
  const rounded = size >= 100 || unit === 0 ? Math.round(size) : Math.round(size * 10) / 10
  return `${numberWords(rounded, { useGrouping: false })} ${UNITS[unit]}`
}
