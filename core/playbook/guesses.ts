import { DEFAULT_LANGUAGE, LANGUAGES, type Language } from '../local/language'

/** Currencies by country: those of Europe beside the euro, and those elsewhere, as far as a shop that starts is likely to be there. */
const EUROPEAN: Readonly<Record<string, string>> = {
  CH: 'CHF',
  SE: 'SEK',
  NO: 'NOK',
  DK: 'DKK',
  IS: 'ISK',
  PL: 'PLN',
  CZ: 'CZK',
  HU: 'HUF',
  RO: 'RON',
}
const ELSEWHERE: Readonly<Record<string, string>> = {
  GB: 'GBP',
  US: 'USD',
  CA: 'CAD',
  AU: 'AUD',
  NZ: 'NZD',
  JP: 'JPY',
  IN: 'INR',
  ZA: 'ZAR',
  BR: 'BRL',
  MX: 'MXN',
  SG: 'SGD',
  HK: 'HKD',
  TR: 'TRY',
}

/** A first guess at the currency, from the language of the machine ("en-GB") and its zone; the euro where nothing else is likely. */
export function guessedCurrency(language: string, zone: string): string {
  if (zone === 'Europe/London') return 'GBP'
  if (zone.startsWith('Australia/')) return 'AUD'
  const country = /-([A-Z]{2})\b/.exec(language)?.[1] ?? ''
  // A machine in Vienna often speaks American English.
  if (zone.startsWith('Europe/')) return EUROPEAN[country] ?? 'EUR'
  return EUROPEAN[country] ?? ELSEWHERE[country] ?? (zone.startsWith('America/') ? 'USD' : 'EUR')
}

/** A first guess at the language of dates and numbers, from that of the machine: "de-CH" is written like "de". */
export function guessedLanguage(language: string): Language {
  const [base] = language.split('-')
  return LANGUAGES.find((one) => one === language) ?? LANGUAGES.find((one) => one === base) ?? DEFAULT_LANGUAGE
}
