import type { Locale } from 'date-fns'
import { enGB } from 'date-fns/locale/en-GB'

/**
 * Languages in which dates and numbers can be written, by their tag (BCP 47). Sentences stay English. Each is loaded when
 * a shop asks for it.
 */
const LOCALES = {
  'en-GB': async () => enGB,
  'en-US': async () => (await import('date-fns/locale/en-US')).enUS,
  'en-AU': async () => (await import('date-fns/locale/en-AU')).enAU,
  'en-CA': async () => (await import('date-fns/locale/en-CA')).enCA,
  'en-IE': async () => (await import('date-fns/locale/en-IE')).enIE,
  'en-IN': async () => (await import('date-fns/locale/en-IN')).enIN,
  'en-NZ': async () => (await import('date-fns/locale/en-NZ')).enNZ,
  'en-ZA': async () => (await import('date-fns/locale/en-ZA')).enZA,
  da: async () => (await import('date-fns/locale/da')).da,
  de: async () => (await import('date-fns/locale/de')).de,
  'de-AT': async () => (await import('date-fns/locale/de-AT')).deAT,
  es: async () => (await import('date-fns/locale/es')).es,
  fi: async () => (await import('date-fns/locale/fi')).fi,
  fr: async () => (await import('date-fns/locale/fr')).fr,
  it: async () => (await import('date-fns/locale/it')).it,
  nb: async () => (await import('date-fns/locale/nb')).nb,
  nl: async () => (await import('date-fns/locale/nl')).nl,
  pl: async () => (await import('date-fns/locale/pl')).pl,
  pt: async () => (await import('date-fns/locale/pt')).pt,
  sv: async () => (await import('date-fns/locale/sv')).sv,
} satisfies Record<string, () => Promise<Locale>>

export type Language = keyof typeof LOCALES
export const LANGUAGES = Object.keys(LOCALES) as [Language, ...Language[]]
export const DEFAULT_LANGUAGE: Language = 'en-GB'

/** How dates and numbers are written in one language. */
interface Spoken {
  readonly tag: Language
  readonly locale: Locale
  /** patterns of a day and of a date: "d MMM", "d MMM yyyy" */
  readonly day: string
  readonly date: string
}

const spokenOf = (tag: Language, locale: Locale): Spoken => {
  const date = locale.formatLong.date({ width: 'medium' }).replace(/y+/, 'yyyy')
  return { tag, locale, date, day: date.replace(/,? ?(?:'de' )?yyyy/, '') }
}

// One shop is open in a process, and every line that names a day would have to hand the language on.
let now = spokenOf(DEFAULT_LANGUAGE, enGB)

/** From now on dates and numbers are written in this language, in this process. */
export async function speak(tag: Language): Promise<void> {
  if (tag !== now.tag) now = spokenOf(tag, await LOCALES[tag]())
}

/** The language that is spoken now. */
export const spoken = (): Spoken => now

/** Whether 3/11 is the 11th of March: months stand first where dates are written so. */
export const isMonthFirst = (): boolean => now.day.startsWith('M')
