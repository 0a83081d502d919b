import { inEnglish } from '../../../local/in-english'

const MONTHS = 'jan|feb|mar|apr|may|june?|july?|aug|sept?|oct|nov|dec'
const MONTH_WORD = `(?:${MONTHS})[a-z]*`

/** Synonyms, each replaced by the form that is parsed. */
const SAME_AS: readonly (readonly [RegExp, string | ((...parts: string[]) => string)])[] = [
  [/^(?:some ?time|somewhere|at some point) (?:in|on|during) /, ''],
  [/^(?:over|during|at|on) the weekend$/, 'last weekend'],
  [/^earlier today$/, 'today'],
  [/^(?:just|right) now$/, 'now'],
  [/^(\d+) (minute|hour|day|week|month|year)s?$/, '$1 $2s ago'],
  // "nov 11" is a day, never the year 2011.
  [new RegExp(`\\b(${MONTH_WORD})\\.? (\\d{1,2})(?:st|nd|rd|th)?\\b(?!:)`, 'g'), '$2 $1'],
  // "between 2 and 4 pm": the afternoon of both.
  [/\b(\d{1,2})( (?:and|to|until|till) )(\d{1,2}) ?(am|pm)\b/, '$1 $4$2$3 $4'],
  // "yesterday at 3" never means the small hours.
  [/\bat ([1-7])(:\d\d)?$/, (_whole, hour, minute) => `at ${Number(hour) + 12}${minute ?? ':00'}`],
]

/** The words in the forms that are parsed; lower case, single spaces. */
export function plainWords(said: string): string {
  const words = inEnglish(said.trim().toLowerCase().replace(/\s+/g, ' ')).replace(/[.,;]+$/, '')
  const isNight = /\b(?:night|tonight|morning)\b/.test(words)
  return SAME_AS.reduce(
    (so, [way, plain]) => (isNight && way.source.startsWith('\\bat (') ? so : so.replace(way, plain as string)),
    words,
  )
}
