import { askingOf, factOf, type Asking, type Control, type Option } from './asking'
import type { Case } from '../shape/case'
import { known } from '../shape/fact'
import { factAt, type Change, type FactPath } from '../facts/facts'
import { Moment } from '../shape/moment'
import { readCount, readMoney, readSize, sayBytes } from './saying/amounts'
import { readTime } from './saying/times'
import { momentWords } from './words'

export interface AnswerContext {
  /** ms since the epoch */
  readonly now: number
  readonly zone: string
  readonly currency: string
}

export type Answer = { readonly ok: true; readonly change: Change } | { readonly ok: false; readonly message: string }

/** What people type for a fact that they do not know. */
export const NOT_KNOWN = '?'
const SAYS_NOT_KNOWN =
  /^(?:\?|(?:it is )?not (?:known|sure)|unknown|no idea|(?:i |they |she |he )?do(?:n.t|es ?n.t| not) know|nobody knows)$/i

type Places = { place: string; from: unknown }[]

/** Places where items live, as one answer each. */
export const PLACE_OPTIONS: readonly (Option & { readonly places: readonly string[] })[] = [
  { value: 'device', words: 'on the device', places: ['device'] },
  { value: 'card', words: 'on its card', places: ['card'] },
  { value: 'device+card', words: 'on the device, later its card', places: ['device', 'card'] },
  { value: 'device+cloud', words: 'on the device and in the cloud', places: ['device', 'cloud'] },
  { value: 'cloud', words: 'in the cloud only', places: ['cloud'] },
  { value: 'app', words: 'inside one app', places: ['app'] },
]
const MUST_HAVE_OPTIONS: readonly Option[] = [
  { value: 'all', words: 'all of them' },
  { value: 'none', words: 'none more than others' },
]

/** The answers to choose from, where the control offers some. */
export function optionsOf(control: Control): readonly Option[] {
  if (control.by === 'choice' || control.by === 'several') return control.options
  if (control.by === 'places') return PLACE_OPTIONS
  return control.by === 'must-have' ? MUST_HAVE_OPTIONS : []
}

/** The first answer whose words, or one of whose words, begin with what was typed. */
export function optionFor(options: readonly Option[], typed: string): Option | null {
  return optionsMatching(options, typed)[0] ?? null
}

/** The answers that typed text can mean: first those that begin with it, then those with a word that does. */
export function optionsMatching(options: readonly Option[], typed: string): Option[] {
  const plain = (words: string) => words.toLowerCase().replace(/^(an?|the) /, '')
  const sought = plain(typed.trim())
  if (sought === '') return [...options]
  const begins = options.filter((option) => plain(option.words).startsWith(sought))
  const within = options.filter(
    (option) =>
      !begins.includes(option) &&
      plain(option.words)
        .split(/[ -]/)
        .some((word) => word.startsWith(sought)),
  )
  return [...begins, ...within]
}

/**
 * Reads what was typed for a fact into a change: an answer of the list, a time, a size … A question mark means unknown.
 * What cannot be read is returned as a sentence.
 */
export function answer(ofCase: Case, path: FactPath, typed: string, context: AnswerContext): Answer {
  const asking = askingOf(path)
  if (!asking) return { ok: false, message: 'There is no such fact.' }
  const words = typed.trim()
  const isAnswer = words !== NOT_KNOWN && optionFor(optionsOf(asking.control), words) !== null
  if (words === '' || (SAYS_NOT_KNOWN.test(words) && !isAnswer))
    return { ok: true, change: unknownChange(ofCase, path, asking) }
  const read = readers[asking.control.by](words, asking.control as never, context, ofCase, path)
  return 'message' in read
    ? { ok: false, message: read.message }
    : { ok: true, change: { fact: factOf(path), is: read.value } }
}

function unknownChange(ofCase: Case, path: FactPath, { control }: Asking): Change {
  if (control.by === 'card-since') return { fact: factOf(path), is: withCardSince(ofCase, path, 'unknown') }
  return { fact: path, is: path === 'title' ? '' : path === 'with' ? null : 'unknown' }
}

type Read = { readonly value: unknown } | { readonly message: string }
type Reader<By extends Control['by']> = (
  words: string,
  control: Extract<Control, { by: By }>,
  context: AnswerContext,
  ofCase: Case,
  path: FactPath,
) => Read

const amountOf = (read: ReturnType<typeof readSize>): Read =>
  read.ok ? { value: read.amount } : { message: read.message }

const readers: { readonly [By in Control['by']]: Reader<By> } = {
  choice: (words, { options }) => {
    const option = optionFor(options, words)
    return option
      ? { value: option.value }
      : { message: `Choose one of: ${options.map((one) => one.words).join(', ')}.` }
  },
  several: (words, { options }) => {
    const chosen = words
      .split(/,| and /)
      .map((part) => part.trim())
      .filter((part) => part !== '')
      .map((part) => optionFor(options, part))
    return chosen.length > 0 && chosen.every((option) => option !== null)
      ? { value: [...new Set(chosen.map((option) => option.value))] }
      : { message: `Choose only from: ${options.map((one) => one.words).join(', ')}.` }
  },
  text: (words) => ({ value: words }),
  size: (words) => amountOf(readSize(words)),
  count: (words) => amountOf(readCount(words)),
  money: (words) => amountOf(readMoney(words)),
  time: (words, { direction }, { now, zone }) => moment(words, direction, now, zone),
  'must-have': (words, _control, { now, zone }) => {
    const option = optionFor(MUST_HAVE_OPTIONS, words)
    return option ? { value: option.value } : moment(words, 'past', now, zone)
  },
  places: (words) => {
    const option =
      PLACE_OPTIONS.find((one) => one.value === words) ??
      (optionFor(PLACE_OPTIONS, words) as (typeof PLACE_OPTIONS)[number] | null)
    return option
      ? { value: option.places.map((place) => ({ place, from: 'unknown' })) }
      : { message: `Choose one of: ${PLACE_OPTIONS.map((one) => one.words).join(', ')}.` }
  },
  'card-since': (words, _control, { now, zone }, ofCase, path) => {
    const read = moment(words, 'past', now, zone)
    return 'message' in read ? read : { value: withCardSince(ofCase, path, read.value) }
  },
}

function moment(words: string, direction: 'past' | 'future', now: number, zone: string): Read {
  const read = readTime(words, { now, zone, direction })
  return read.ok ? { value: read.moment } : { message: read.message }
}

function withCardSince(ofCase: Case, path: FactPath, from: unknown): unknown {
  const lived = factAt(ofCase, factOf(path))
  return Array.isArray(lived)
    ? (lived as Places).map((place) => (place.place === 'card' ? { ...place, from } : place))
    : 'unknown'
}

/** The value of a fact in the words of a sentence, or null while it is not known. */
export function wordsOf(ofCase: Case, path: FactPath, context: AnswerContext): string | null {
  return valueWords(path, factAt(ofCase, factOf(path)), context)
}

/** A value of the fact at a path in the words of a sentence, or null where it is unknown or empty. */
export function valueWords(path: FactPath, value: unknown, { now, zone, currency }: AnswerContext): string | null {
  if (value === null || value === undefined || value === '' || !known(value)) return null
  const control = askingOf(path)?.control
  if (control?.by === 'card-since') {
    const from = (value as Places).find((place) => place.place === 'card')?.from
    return from && known(from) ? momentWords(from as Moment, zone, now) : null
  }
  if (typeof value === 'object' && !Array.isArray(value))
    return Moment.safeParse(value).success ? momentWords(value as Moment, zone, now) : null
  if (control?.by === 'places') {
    const places = (value as Places).map((place) => place.place).join('+')
    return PLACE_OPTIONS.find((option) => option.value === places)?.words ?? places.replaceAll('+', ', ')
  }
  if (Array.isArray(value))
    return value
      .map((one) =>
        control ? (optionsOf(control).find((option) => option.value === one)?.words ?? String(one)) : String(one),
      )
      .join(', ')
  if (typeof value === 'number') {
    if (control?.by === 'size') return sayBytes(value)
    if (control?.by === 'money') return moneyWords(value, currency)
    return String(value)
  }
  return control ? (optionsOf(control).find((option) => option.value === value)?.words ?? String(value)) : String(value)
}

/** An amount in the shop's currency, without needless decimals. */
export function moneyWords(amount: number, currency: string): string {
  return new Intl.NumberFormat('en-GB', {
    style: 'currency',
    currency,
    maximumFractionDigits: Number.isInteger(amount) ? 0 : 2,
  }).format(amount)
}
