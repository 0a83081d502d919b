import type { Fact } from '../../shape/fact'
import { Moment } from '../../shape/moment'
import type { PartHeld } from '../../shape/part-held'
import type { Crowd } from '../../shape/wanted'
import { momentWords } from '../words'
import { readCount } from './amounts'
import { percent } from './figures'
import { readTime } from './times'

interface Context {
  /** ms since the epoch */
  readonly now: number
  readonly zone: string
}
type Read<T> = { readonly ok: true; readonly read: T } | { readonly ok: false; readonly message: string }

/** Shares as people say them. */
const SHARES: Readonly<Record<string, number>> = {
  'nearly all': 0.95,
  'almost all': 0.95,
  most: 0.8,
  'most of them': 0.8,
  'two thirds': 2 / 3,
  half: 0.5,
  'about half': 0.5,
  'half of them': 0.5,
  'a third': 1 / 3,
  'a quarter': 0.25,
  'a few': 0.1,
  some: 0.25,
  'some of them': 0.25,
}
const ALL = /^(?:all|all of them|everything|the whole|yes)$/
const NONE = /^(?:none|none of them|nothing|no)$/

/** A share as people say it: "half", "most", "20 %"; null where it is none. */
function shareSaid(words: string): number | null {
  if (Object.hasOwn(SHARES, words)) return SHARES[words]!
  const percentage = Number(/^(?:about )?(\d{1,3}) ?(?:%|percent)$/.exec(words)?.[1] ?? NaN)
  return percentage <= 100 ? percentage / 100 : null
}

/** Reads which part of a set there is: "all", "none", "about 40", "half", "20 %", "only those of 2024". */
export function readPart(said: string, context: Context): Read<PartHeld> {
  const words = said
    .trim()
    .toLowerCase()
    .replace(/^(?:only|just) /, '')
    .replace(/ of (?:them|those|it)$/, '')
  if (ALL.test(words)) return { ok: true, read: 'all' }
  if (NONE.test(words)) return { ok: true, read: 'none' }
  const share = shareSaid(words)
  if (share !== null) return { ok: true, read: { share } }
  const count = readCount(words)
  if (count.ok) return { ok: true, read: { count: count.amount } }
  const time = readTime(words.replace(/^(?:those|the ones|what was)(?: made)? (?:of|in|from)? ?/, ''), {
    ...context,
    direction: 'past',
  })
  return time.ok
    ? { ok: true, read: time.moment }
    : { ok: false, message: 'This is not a part of them. Try “all”, “about 40”, “half” or “those of 2024”.' }
}

/** A part in words; null where it is not known. */
export function partWords(part: Fact<PartHeld>, { now, zone }: Context): string | null {
  if (part === 'unknown') return null
  if (part === 'all' || part === 'none') return part
  if ('count' in part) return String(part.count)
  if ('share' in part) return shareWords(part.share)
  return `those of ${momentWords(part, zone, now)}`
}

const SPOKEN: readonly string[] = ['nearly all', 'most', 'two thirds', 'half', 'a third', 'a quarter']
const shareWords = (share: number) => SPOKEN.find((word) => SHARES[word] === share) ?? percent(share)

/** A share in words or per cent, the longest words first. */
const SHARE = `${Object.keys(SHARES)
  .sort((one, other) => other.length - one.length)
  .join('|')}|\\d{1,3} ?(?:%|percent)`
const SHARE_FIRST = new RegExp(`^(?:about )?(${SHARE})(?: of them)?(?: were| was)?(?: made)?(?: (.*))?$`)
const MADE_AND_MOST = new RegExp(`^(.+?)[,;]? (?:but |and |of these )?((?:${SHARE}) .+)$`)

/** "1 to 14 nov, most on 12 nov" in its two parts: when they were made, and when most of them; null where it has only one. */
export function madeAndMost(said: string): readonly [made: string, most: string] | null {
  const match = MADE_AND_MOST.exec(said.trim().toLowerCase())
  return match ? [match[1]!, match[2]!] : null
}

const EVENLY = /^(?:evenly|even|all over|over the whole time|no)$/
/** What part "most in august" means. */
const MOST = 0.8

/**
 * Reads when most of the items were made: "august", "half on 12 sep", "nearly all on 19 sep"; several parts are
 * separated by semicolons. Null for "evenly".
 */
export function readCrowds(said: string, context: Context): Read<Crowd[] | null> {
  if (EVENLY.test(said.trim().toLowerCase())) return { ok: true, read: null }
  const crowds: Crowd[] = []
  for (const part of said.split(';')) {
    const words = part.trim().toLowerCase()
    const split = SHARE_FIRST.exec(words)
    const share = split ? (shareSaid(split[1]!) ?? MOST) : MOST
    const time = readTime((split?.[2] ?? words).replace(/^(?:from|in|on) /, ''), { ...context, direction: 'past' })
    if (!time.ok) return { ok: false, message: 'This is not a time. Try “most in august” or “half on 12 sep”.' }
    crowds.push({ made: time.moment, share })
  }
  const sum = crowds.reduce((so, { share }) => so + share, 0)
  return sum > 1.0001
    ? { ok: false, message: 'These parts are more than all of them together.' }
    : { ok: true, read: crowds }
}

/** "most 3 to 8 Nov", "half 12 Sep; 20% 13 Sep". */
export const crowdWords = (crowds: readonly Crowd[], { now, zone }: Context): string =>
  crowds.map(({ made, share }) => `${shareWords(share)} ${momentWords(Moment.parse(made), zone, now)}`).join('; ')
