import { en, type ParsedComponents, type ParsedResult } from 'chrono-node'
import { TZDate } from '@date-fns/tz'
import {
  addDays,
  addHours,
  addMonths,
  addYears,
  endOfDay,
  endOfMonth,
  startOfDay,
  startOfMonth,
  startOfWeek,
} from 'date-fns'
import { isMonthFirst } from '../../../local/language'
import { plainWords } from './plain-words'
import { DAY_MS, HOUR_MS, MINUTE_MS, momentOf, type Moment, type Span } from '../../shape/moment'
import { NUMBER_WORDS } from './number-words'

/** Which way a bare "Tuesday" or "3 March" points: losses lie behind us, deadlines ahead. */
export type Direction = 'past' | 'future'

export interface SayingContext {
  /** milliseconds since the epoch */
  readonly now: number
  /** IANA name of the shop's time zone */
  readonly zone: string
  readonly direction: Direction
}

export type ReadTime = { readonly ok: true; readonly moment: Moment } | { readonly ok: false; readonly message: string }

const EXAMPLES = '“last tuesday evening”, “3 weeks ago” or “between 1 and 5 march”'
const NOT_READ: ReadTime = { ok: false, message: `This is not a time. Try ${EXAMPLES}.` }

/** Hours of the day behind the words for its parts, from and to, in the shop's zone. */
const PARTS_OF_DAY: Record<string, readonly [number, number]> = {
  morning: [6, 12],
  noon: [11, 14],
  lunchtime: [11, 14],
  afternoon: [12, 18],
  evening: [17, 23],
  night: [20, 30],
  tonight: [18, 30],
}

/**
 * Reads a time as people say it into a range. The width follows the words: a day is that day, "3 weeks
 * ago" is good to half a week either side, "October" is the whole month, "about" widens by as much again.
 * Never later than now for the past, where the words leave a choice.
 */
export function readTime(said: string, context: SayingContext): ReadTime {
  const words = plainWords(said)
  if (words === '' || words.length > 120) return NOT_READ
  const span =
    recently(words, context) ??
    dayOfMonth(words, context) ??
    openRange(words, context) ??
    rangeBetween(words, context) ??
    wholeYearOrSeason(words, context) ??
    weekOrWeekend(words, context) ??
    thirdOfMonth(words, context) ??
    ago(words, context) ??
    single(words, context)
  if (!span || !Number.isFinite(span.from) || !Number.isFinite(span.to) || span.to < span.from) return NOT_READ
  const clipped =
    context.direction === 'past' && span.from <= context.now ? { ...span, to: Math.min(span.to, context.now) } : span
  return { ok: true, moment: momentOf(clipped, said.trim()) }
}

/** "the last 3 weeks", "the past few days": from then until now. "last week" alone is the calendar's. */
function recently(words: string, { now }: SayingContext): Span | null {
  const match =
    /^(?:in |over |during |within )?(?:the )?(last|past) (?:(\d{1,3}|two|three|four|five|six|few|couple of) )?(hour|day|week|month|year)s?$/.exec(
      words,
    )
  if (!match || (match[1] === 'last' && !match[2])) return null
  const count = match[2]
    ? (SMALL_NUMBERS[match[2].replace(/^(few|couple of)$/, 'a $1').replace(/ /g, '_')] ?? Number(match[2]))
    : 1
  return { from: now - count * UNIT_MS[match[3]!]!, to: now }
}

/** "the 5th": of this month, or of the one before or after, whichever way we speak of. */
function dayOfMonth(words: string, { now, zone, direction }: SayingContext): Span | null {
  const day = Number(/^(?:on )?the (\d{1,2})(?:st|nd|rd|th)$/.exec(words)?.[1])
  if (!(day >= 1 && day <= 31)) return null
  for (let months = 0; months < 12; months++) {
    const month = addMonths(startOfMonth(new TZDate(now, zone)), direction === 'past' ? -months : months)
    const date = addDays(month, day - 1)
    const isRightWay = direction === 'past' ? date.getTime() <= now : endOfDay(date).getTime() >= now
    if (date.getMonth() === month.getMonth() && isRightWay)
      return dayRange({ from: date.getTime(), to: date.getTime() }, zone)
  }
  return null
}

/** "since monday": from then until now; "until friday", "before june": from now, or a year back, until then. */
function openRange(words: string, context: SayingContext): Span | null {
  const match = /^(since|after|from|until|till|before|up to|by) (.+)$/.exec(words)
  if (!match || / (to|and|until|till) /.test(match[2]!)) return null
  const rest = single(match[2]!, context) ?? ago(match[2]!, context) ?? wholeYearOrSeason(match[2]!, context)
  if (!rest) return null
  if (match[1] === 'since' || match[1] === 'from') return { from: rest.from, to: Math.max(rest.to, context.now) }
  if (match[1] === 'after') return { from: rest.to, to: Math.max(rest.to, context.now) }
  if (context.direction === 'future') return rest
  const end = match[1] === 'before' ? rest.from : rest.to
  return { from: addYears(end, -1).getTime(), to: end }
}

/** "between 1 and 5 march", "1 oct to 8 nov", "sunday until wednesday": from the first's start to the second's end. */
function rangeBetween(words: string, context: SayingContext): Span | null {
  const match = /^(?:between |from )?(.+?)(?: and | to | until | till | through |\s*[–—]\s*| - )(.+)$/.exec(words)
  if (!match) return null
  const second = single(match[2]!, context) ?? wholeYearOrSeason(match[2]!, context) ?? ago(match[2]!, context)
  const firstWords = completed(match[1]!, match[2]!)
  const first = single(firstWords, context) ?? wholeYearOrSeason(firstWords, context) ?? ago(firstWords, context)
  if (!first || !second) return null
  if (first.from <= second.to) return { from: first.from, to: second.to }
  const weekEarlier = isWeekday(firstWords) ? { from: first.from - 7 * DAY_MS } : null
  const yearEarlier = { from: addYears(first.from, -1).getTime() }
  const earlier = weekEarlier ?? (hasYear(firstWords) ? null : yearEarlier)
  return earlier && earlier.from <= second.to ? { from: earlier.from, to: second.to } : null
}

/** "1" and "5 march" → "1 march"; "mon" and "wed 11 nov" stay as they are. */
function completed(first: string, second: string): string {
  const dayNumber = /^(?:[a-z]+ )?(\d{1,2}(?:st|nd|rd|th)?)$/.exec(first)
  if (dayNumber) {
    const month = /[a-z]{3,}.*$/.exec(second.replace(/^\D*\d{1,2}(?:st|nd|rd|th)?\s*/, ''))?.[0]
    return month ? `${dayNumber[1]} ${month}` : first
  }
  const year = /\b(?:19|20)\d\d$/.exec(second)?.[0]
  return year && !hasYear(first) && /[a-z]{3}/.test(first) && !isWeekday(first) ? `${first} ${year}` : first
}

const hasYear = (words: string) => /\b(?:19|20)\d\d\b/.test(words)
const isWeekday = (words: string) => /^(?:last |on )?(?:mon|tue|wed|thu|fri|sat|sun)/.test(words) && !/\d/.test(words)

/** "2024", "last year", "summer 2025", "this spring". */
function wholeYearOrSeason(words: string, { now, zone, direction }: SayingContext): Span | null {
  const match = /^(?:in |the )?(?:(spring|summer|autumn|winter)(?: of)? ?)?((?:19|20)\d\d)?$/.exec(
    words.replace(/\b(last|this) (?:year|(?=spring|summer|autumn|winter))/, (whole, which: string) =>
      whole.includes('year') ? String(new TZDate(now, zone).getFullYear() - (which === 'last' ? 1 : 0)) : '',
    ),
  )
  if (!match || (!match[1] && !match[2])) return null
  const thisYear = new TZDate(now, zone).getFullYear()
  const startMonth = match[1] ? { spring: 2, summer: 5, autumn: 8, winter: 11 }[match[1]]! : 0
  const months = match[1] ? 3 : 12
  let year = match[2] ? Number(match[2]) : thisYear
  const start = () => new TZDate(year, startMonth, 1, zone)
  if (!match[2] && direction === 'past' && start().getTime() > now) year -= 1
  if (!match[2] && direction === 'future' && addMonths(start(), months).getTime() < now) year += 1
  return { from: start().getTime(), to: addMonths(start(), months).getTime() - MINUTE_MS }
}

/** "last week" is its Monday to Sunday, "last weekend" its Saturday and Sunday. */
function weekOrWeekend(words: string, { now, zone }: SayingContext): Span | null {
  const match = /^(last|this|next) (week|weekend)$/.exec(words)
  if (!match) return null
  const monday = startOfWeek(new TZDate(now, zone), { weekStartsOn: 1 })
  const weeks = { last: -1, this: 0, next: 1 }[match[1]!]!
  // On a weekday "last weekend" is the one just past, which belongs to the week before.
  const start = addDays(monday, 7 * weeks + (match[2] === 'weekend' ? 5 : 0))
  return dayRange({ from: start.getTime(), to: addDays(start, match[2] === 'weekend' ? 1 : 6).getTime() }, zone)
}

/** "early october", "mid october", "end of october": the thirds of the month. */
function thirdOfMonth(words: string, context: SayingContext): Span | null {
  const match = /^(early|beginning of|start of|mid|middle of|late|end of)[ -](?:in )?(.+)$/.exec(words)
  if (!match) return null
  const { now, zone } = context
  const month = /^(?:the|this) month$/.test(match[2]!)
    ? { from: startOfMonth(new TZDate(now, zone)).getTime(), to: endOfMonth(new TZDate(now, zone)).getTime() }
    : single(match[2]!, context)
  if (!month || month.to - month.from < 27 * DAY_MS) return month
  const third = /^(?:early|beginning|start)/.test(match[1]!) ? 0 : /^mid/.test(match[1]!) ? 1 : 2
  const at = (days: number) => addDays(new TZDate(month.from, zone), days).getTime()
  return { from: at(third * 10), to: third === 2 ? month.to : at(third * 10 + 10) - MINUTE_MS }
}

const UNIT_MS: Record<string, number> = {
  minute: MINUTE_MS,
  hour: HOUR_MS,
  day: DAY_MS,
  week: 7 * DAY_MS,
  month: 30.4 * DAY_MS,
  year: 365.25 * DAY_MS,
}
const SMALL_NUMBERS: Readonly<Record<string, number>> = {
  ...NUMBER_WORDS,
  a: 1,
  an: 1,
  a_couple_of: 2,
  a_few: 3,
}

/** "3 weeks ago": half a unit either side; days are whole days; "about" doubles the width. */
function ago(words: string, { now, zone }: SayingContext): Span | null {
  const match =
    /^(about |around |roughly |maybe |some )?(\d{1,3}|an?|one|two|three|four|five|six|a couple of|a few) (minute|hour|day|week|month|year)s? ago$/.exec(
      words,
    )
  if (!match) return null
  const count = SMALL_NUMBERS[match[2]!.replace(/ /g, '_')] ?? Number(match[2])
  const unit = UNIT_MS[match[3]!]!
  const width = (match[1] ? 2 : 1) * (match[2]!.startsWith('a ') && match[2] !== 'a' ? 2 : 1)
  const middle = now - count * unit
  const half = (unit / 2) * width
  if (unit < DAY_MS) return { from: middle - half, to: middle + half }
  const days = unit === DAY_MS ? (width - 1) * DAY_MS : half
  return dayRange({ from: middle - days, to: middle + days }, zone)
}

const dayRange = (span: Span, zone: string): Span => ({
  from: startOfDay(new TZDate(span.from, zone)).getTime(),
  to: endOfMinute(endOfDay(new TZDate(span.to, zone)).getTime()),
})
/** Ends are given to the minute, so that "8 Nov" reads back as 23:59 of that day and not as the next. */
const endOfMinute = (time: number) => Math.floor(time / MINUTE_MS) * MINUTE_MS

/** "tonight at 2" is in the small hours of tomorrow, "tonight at 8" this evening. */
function nightHour(hour: number, minute: string): string | null {
  if (hour < 6) return `tomorrow at 0${hour}${minute}`
  return hour <= 12
    ? `today at ${hour === 12 ? 23 : hour + 12}${hour === 12 ? ':59' : minute}`
    : hour < 24
      ? `today at ${hour}${minute}`
      : null
}

function single(words: string, context: SayingContext): Span | null {
  const about = /^(?:about|around|roughly|maybe|probably) /.exec(words)
  const plain = words
    .slice(about ? about[0].length : 0)
    .replace(/^(?:on|in|at) /, '')
    .replace(/\b(?:around|about) (?=\d)/, 'at ')
    .replace(/^christmas$/, '25 december')
    .replace(
      /^tonight(?: at)? (\d{1,2})(:\d\d)?$/,
      (whole, hour: string, minute = ':00') => nightHour(Number(hour), minute) ?? whole,
    )
  const result = parsed(plain, context)
  if (!result) return null
  const span = spanOfResult(result, plain, context)
  if (!span) return null
  const margin = about ? Math.max(HOUR_MS, span.to - span.from) : 0
  return { from: span.from - margin, to: span.to + margin }
}

/** The one time in the words, only if (nearly) all of the words are part of it. */
function parsed(words: string, { now, zone, direction }: SayingContext): ParsedResult | null {
  const local = new TZDate(now, zone)
  const results = (isMonthFirst() ? en.casual : en.GB).parse(
    words,
    { instant: new Date(now), timezone: -local.getTimezoneOffset() },
    { forwardDate: direction === 'future' },
  )
  const result = results[0]
  if (results.length !== 1 || !result) return null
  const left = words
    .replace(result.text.toLowerCase(), ' ')
    .replace(/\b(?:morning|noon|lunchtime|afternoon|evening|night|tonight|the|of|on|in|at|last|this)\b/g, ' ')
    .trim()
  return left === '' ? result : null
}

function spanOfResult(result: ParsedResult, words: string, context: SayingContext): Span | null {
  const start = componentSpan(result.start, words, context)
  if (!result.end) return start
  const end = componentSpan(result.end, words, context)
  return start && end ? { from: start.from, to: end.to } : null
}

/** The span that the known components leave open: a year, a month, a day, part of a day, an hour, a minute. */
function componentSpan(part: ParsedComponents, words: string, context: SayingContext): Span | null {
  const { zone } = context
  const [year, month, day] = (['year', 'month', 'day'] as const).map((unit) => part.get(unit) ?? 1) as [
    number,
    number,
    number,
  ]
  const date = new TZDate(year, month - 1, day, zone)
  const monthOnly = part.isCertain('month') && !part.isCertain('day') && !part.isCertain('weekday')
  const span = monthOnly
    ? {
        from: new TZDate(year, month - 1, 1, zone).getTime(),
        to: addMonths(new TZDate(year, month - 1, 1, zone), 1).getTime() - MINUTE_MS,
      }
    : withinDay(part, date, words)
  return pointedTheRightWay(span, part, context)
}

function withinDay(part: ParsedComponents, date: TZDate, words: string): Span {
  const hour = part.get('hour')
  const partOfDay = Object.keys(PARTS_OF_DAY).find((name) => new RegExp(`\\b${name}\\b`).test(words))
  if (part.isCertain('minute') && hour !== null) {
    return sameAt(addHours(lateHour(date, hour, words), hour).getTime() + (part.get('minute') ?? 0) * MINUTE_MS)
  }
  if (partOfDay && !(part.isCertain('hour') && /\d\s*(?:am|pm|h\b|o'clock)/.test(words))) {
    const [from, to] = PARTS_OF_DAY[partOfDay]!
    return { from: addHours(date, from).getTime(), to: addHours(date, to).getTime() - MINUTE_MS }
  }
  if (part.isCertain('hour') && hour !== null) {
    const from = addHours(lateHour(date, hour, words), hour).getTime()
    return { from, to: from + HOUR_MS - MINUTE_MS }
  }
  return { from: startOfDay(date).getTime(), to: endOfMinute(endOfDay(date).getTime()) }
}

const sameAt = (time: number): Span => ({ from: time, to: time })
/** "tonight at 2" is in the small hours of the next day. */
const lateHour = (date: TZDate, hour: number, words: string) =>
  /\btonight\b/.test(words) && hour < 6 ? addDays(date, 1) : date

/** A bare weekday or date takes the nearest one in the direction we speak of. */
function pointedTheRightWay(span: Span, part: ParsedComponents, { now, direction, zone }: SayingContext): Span {
  const moved = (by: (date: TZDate) => Date): Span => ({
    from: by(new TZDate(span.from, zone)).getTime(),
    to: by(new TZDate(span.to, zone)).getTime(),
  })
  const floating = !part.isCertain('year')
  const weekdayOnly = part.isCertain('weekday') && !part.isCertain('day')
  const dated = part.isCertain('month')
  if (direction === 'past' && span.from > now) {
    if (weekdayOnly) return moved((date) => addDays(date, -7))
    if (floating && dated) return moved((date) => addYears(date, -1))
  }
  if (direction === 'future' && span.to < now) {
    if (weekdayOnly) return moved((date) => addDays(date, 7))
    if (floating && dated) return moved((date) => addYears(date, 1))
  }
  return span
}
