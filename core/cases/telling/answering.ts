import { askingOf, factOf, type Control, type Option } from './asking'
import { drawnFrom } from './drawn'
import { optionFor } from './matching'
import { APART, partOptions, secretAnswer, secretOptions } from './own-parts'
import type { Case } from '../shape/case'
import { known } from '../shape/fact'
import { factAt, type Change, type FactPath } from '../facts/facts'
import { ByteRange } from '../shape/loss'
import { Moment } from '../shape/moment'
import { PartHeld } from '../shape/part-held'
import { Period } from '../shape/period'
import { sameValue } from '../shape/same-value'
import type { Crowd } from '../shape/wanted'
import {
  readCount,
  readMoney,
  readNumber,
  readPeriod,
  readSize,
  readSizeRange,
  sayByteRange,
  sayBytes,
  sayDays,
} from './saying/amounts'
import { crowdWords, madeAndMost, partWords, readCrowds, readPart } from './saying/parts'
import { readTime } from './saying/times'
import { moneyWords } from '../../local/numbers'
import { momentWords } from './words'

export interface AnswerContext {
  /** ms since the epoch */
  readonly now: number
  readonly zone: string
  readonly currency: string
}

/** The changes that an answer makes: the fact itself, and what follows from it. */
export type Answer =
  { readonly ok: true; readonly changes: readonly Change[] } | { readonly ok: false; readonly message: string }

/** What people type for a fact that they do not know. */
export const NOT_KNOWN = '?'
const SAYS_NOT_KNOWN =
  /^(?:\?|(?:it is )?not (?:known|sure)|unknown|no idea|(?:i |they |she |he )?do(?:n.t|es ?n.t| not) know|nobody knows)$/i

type Places = { place: string; from: unknown }[]

/** Places where items live, as one answer each. */
export const PLACE_OPTIONS: readonly (Option & { readonly places: readonly string[] })[] = [
  {
    value: 'device',
    words: 'on the device',
    places: ['device'],
    also: ['phone', 'tablet', 'laptop', 'computer', 'disk', 'stick', 'it'].map((name) => `on the ${name}`),
  },
  {
    value: 'card',
    words: 'on its card',
    places: ['card'],
    also: ['on the memory card', 'on the sd card', 'on a card'],
  },
  { value: 'device+card', words: 'on the device, later its card', places: ['device', 'card'] },
  {
    value: 'device+cloud',
    words: 'on the device and in the cloud',
    places: ['device', 'cloud'],
    also: ['on the phone and in the cloud', 'on both', 'synced', 'device and cloud', 'in a synced folder'],
  },
  {
    value: 'cloud',
    words: 'in the cloud only',
    places: ['cloud'],
    also: ['online', 'on the server', 'in the account'],
  },
  { value: 'app', words: 'inside one app', places: ['app'], also: ['in an app', 'in the app'] },
]
const MUST_HAVE_OPTIONS: readonly Option[] = [
  { value: 'all', words: 'all of them' },
  { value: 'none', words: 'none more than others' },
]

/** The answers to choose from, where the control offers some. */
export function optionsOf(control: Control): readonly Option[] {
  if (control.by === 'choice' || control.by === 'several') return control.options
  if (control.by === 'budget') return control.options
  if (control.by === 'places') return PLACE_OPTIONS
  return control.by === 'must-have' ? MUST_HAVE_OPTIONS : []
}

/** The answers to choose from for a fact of this case: those of its control, or the case's own parts. */
export function optionsAt(ofCase: Case, path: FactPath): readonly Option[] {
  const control = askingOf(path)?.control
  if (!control) return []
  if (control.by === 'parts') return partOptions(ofCase)
  if (control.by === 'place') return [...partOptions(ofCase, path.split('.')[1]), APART]
  return control.by === 'secret' ? secretOptions(ofCase, path, control.kind) : optionsOf(control)
}

/**
 * Reads what was typed for a fact into a change: an answer of the list, a time, a size … A question mark means unknown.
 * What cannot be read is returned as a sentence.
 */
export function answer(ofCase: Case, path: FactPath, typed: string, context: AnswerContext): Answer {
  const asking = askingOf(path)
  if (!asking) return { ok: false, message: 'There is no such fact.' }
  const words = typed.trim()
  const isAnswer = words !== NOT_KNOWN && optionFor(optionsAt(ofCase, path), words) !== null
  if (words === '' || (SAYS_NOT_KNOWN.test(words) && !isAnswer))
    return { ok: true, changes: unknownChanges(ofCase, path, asking.control) }
  if (asking.control.by === 'secret')
    return { ok: true, changes: secretAnswer(ofCase, path, asking.control.kind, words) }
  const read = readers[asking.control.by](words, asking.control as never, context, ofCase, path)
  if ('message' in read) return { ok: false, message: read.message }
  const changes = [{ fact: factOf(path), is: read.value }, ...(read.also ?? [])]
  return { ok: true, changes: [...changes, ...drawnFrom(ofCase, changes[0]!)] }
}

function unknownChanges(ofCase: Case, path: FactPath, control: Control): Change[] {
  if (control.by === 'made')
    return [
      { fact: path, is: 'unknown' },
      { fact: path.replace(/made$/, 'spread'), is: 'unknown' },
    ]
  if (control.by === 'card-since') return [{ fact: factOf(path), is: withCardSince(ofCase, path, 'unknown') }]
  const change = { fact: factOf(path), is: path === 'title' ? '' : path === 'with' ? null : 'unknown' }
  return control.by === 'budget' ? [change, { fact: 'limits.budget', is: 'unknown' }] : [change]
}

type Read = { readonly value: unknown; readonly also?: readonly Change[] } | { readonly message: string }
type Reader<By extends Control['by']> = (
  words: string,
  control: Extract<Control, { by: By }>,
  context: AnswerContext,
  ofCase: Case,
  path: FactPath,
) => Read

const amountOf = (read: ReturnType<typeof readSize>): Read =>
  read.ok ? { value: read.amount } : { message: read.message }

const readers: { readonly [By in Exclude<Control['by'], 'secret'>]: Reader<By> } = {
  choice: (words, { options }) => {
    const option = optionFor(options, words)
    return option ? { value: option.value } : { message: chooseFrom(options) }
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
  number: (words) => amountOf(readNumber(words)),
  written: (words) => {
    const read = readSizeRange(words)
    if (!read.ok) return { message: read.message }
    return { value: read.from === read.to ? read.from : { from: read.from, to: read.to } }
  },
  period: (words) => {
    const read = readPeriod(words)
    return read.ok ? { value: { minDays: read.from, maxDays: read.to } } : { message: read.message }
  },
  budget: (words, { options }) => {
    if (/\d/.test(words)) return amountOf(readMoney(words))
    const option = optionFor(options, words)
    return option
      ? { value: 'unknown', also: [{ fact: 'limits.budget', is: option.value }] }
      : { message: 'This is not an amount of money. Try “120”, “little” or “whatever it takes”.' }
  },
  part: (words, _control, { now, zone }) => {
    const read = readPart(words, { now, zone })
    return read.ok ? { value: read.read } : { message: read.message }
  },
  made: (words, _control, { now, zone }, ofCase, path) => {
    const spread = path.replace(/made$/, 'spread')
    const [made, most] = madeAndMost(words) ?? [words, null]
    const read = moment(made, 'past', now, zone)
    if ('message' in read) return read
    const crowds = most === null ? null : readCrowds(most, { now, zone })
    if (crowds && !crowds.ok) return { message: crowds.message }
    // The word shows both, so that what is typed in its place replaces both.
    const is = crowds?.read ?? 'unknown'
    return sameValue(factAt(ofCase, spread) ?? 'unknown', is) ? read : { ...read, also: [{ fact: spread, is }] }
  },
  crowd: (words, _control, { now, zone }) => {
    const read = readCrowds(words, { now, zone })
    return read.ok ? { value: read.read ?? 'unknown' } : { message: read.message }
  },
  parts: (words, _control, _context, ofCase) => {
    const options = partOptions(ofCase)
    const chosen = words.split(/,| and /).map((part) => optionFor(options, part.trim()))
    return chosen.every((option) => option !== null)
      ? { value: [...new Set(chosen.map((option) => option!.value))] }
      : { message: chooseFrom(options) }
  },
  place: (words, _control, _context, ofCase, path) => {
    const options = [...partOptions(ofCase, path.split('.')[1]), APART]
    const option = optionFor(options, words)
    return option ? { value: option.value } : { message: chooseFrom(options) }
  },
  places: (words) => {
    const option =
      PLACE_OPTIONS.find((one) => one.value === words) ??
      (optionFor(PLACE_OPTIONS, words) as (typeof PLACE_OPTIONS)[number] | null)
    return option
      ? { value: option.places.map((place) => ({ place, from: 'unknown' })) }
      : { message: chooseFrom(PLACE_OPTIONS) }
  },
  'card-since': (words, _control, { now, zone }, ofCase, path) => {
    const read = moment(words, 'past', now, zone)
    return 'message' in read ? read : { value: withCardSince(ofCase, path, read.value) }
  },
}

const chooseFrom = (options: readonly Option[]) => `Choose one of: ${options.map((one) => one.words).join(', ')}.`

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
  const value = factAt(ofCase, factOf(path))
  const control = askingOf(path)?.control
  if (control?.by === 'budget' && value === 'unknown') return valueWords(path, ofCase.limits.budget, context)
  if (control?.by === 'made') {
    const most = wordsOf(ofCase, path.replace(/made$/, 'spread'), context)
    const made = valueWords(path, value, context)
    return made !== null && most !== null ? `${made}, ${most}` : made
  }
  const isOwnPart = control?.by === 'parts' || control?.by === 'place' || control?.by === 'secret'
  return isOwnPart ? partNames(ofCase, path, value) : valueWords(path, value, context)
}

/** Parts of the case, by the names that people give them. */
function partNames(ofCase: Case, path: FactPath, value: unknown): string | null {
  if (value === undefined || value === 'unknown') return null
  const options = optionsAt(ofCase, path)
  return [value]
    .flat()
    .map((id) => options.find((option) => option.value === id)?.words ?? 'something that was removed')
    .join(', ')
}

/** A value of the fact at a path in the words of a sentence, or null where it is unknown or empty. */
export function valueWords(path: FactPath, value: unknown, { now, zone, currency }: AnswerContext): string | null {
  if (value === null || value === undefined || value === '' || !known(value)) return null
  const control = askingOf(path)?.control
  if (control?.by === 'card-since') {
    const from = (value as Places).find((place) => place.place === 'card')?.from
    return from && known(from) ? momentWords(from as Moment, zone, now) : null
  }
  if (control?.by === 'part') return partWords(PartHeld.safeParse(value).data ?? 'unknown', { now, zone })
  if (control?.by === 'crowd') return crowdWords(value as Crowd[], { now, zone })
  if (control?.by === 'period') {
    const period = Period.safeParse(value)
    return period.success ? sayDays(period.data.minDays, period.data.maxDays) : null
  }
  if (control?.by === 'written' && typeof value === 'object') {
    const range = ByteRange.safeParse(value)
    return range.success ? sayByteRange(range.data) : null
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
    if (control?.by === 'size' || control?.by === 'written') return sayBytes(value)
    if (control?.by === 'money' || control?.by === 'budget') return moneyWords(value, currency)
    return String(value)
  }
  return control ? (optionsOf(control).find((option) => option.value === value)?.words ?? String(value)) : String(value)
}
