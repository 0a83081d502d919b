import type { Day, Month } from 'date-fns'
import { enGB } from 'date-fns/locale/en-GB'
import { spoken } from './language'

const WIDTHS = ['wide', 'abbreviated'] as const

/** Names of months and weekdays in the language that is spoken, with the English ones: "mai" is "may". */
function namesOf(tag: string): Map<string, string> {
  const { localize } = spoken().locale
  const names = new Map<string, string>()
  for (const width of WIDTHS) {
    for (const context of ['formatting', 'standalone'] as const) {
      // Where “mar” is a Tuesday and March, it is March.
      for (let day = 0; day < 7; day++)
        add(localize.day(day as Day, { width, context }), enGB.localize.day(day as Day, { width: 'wide' }))
      for (let month = 0; month < 12; month++)
        add(localize.month(month as Month, { width, context }), enGB.localize.month(month as Month, { width: 'wide' }))
    }
  }
  kept = { tag, names }
  return names

  function add(own: string, english: string) {
    names.set(own.toLowerCase().replace(/\.$/, ''), english.toLowerCase())
  }
}
let kept: { readonly tag: string; readonly names: Map<string, string> } | null = null

/** Words of a time with the names of the language that is spoken made English, and "4." made "4"; in small letters. */
export function inEnglish(words: string): string {
  const { tag } = spoken()
  if (tag.startsWith('en')) return words
  const names = kept?.tag === tag ? kept.names : namesOf(tag)
  return words
    .replace(/(\d{1,2})\.(?= )/g, '$1')
    .replace(/\bde (?=\p{L}|\d{4})/gu, '')
    .replace(/\p{L}+\.?/gu, (word) => names.get(word.replace(/\.$/, '')) ?? word)
}
