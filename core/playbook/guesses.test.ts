import { expect, it } from 'vitest'
import { guessedCurrency, guessedLanguage } from './guesses'

it('a machine’s zone says more of its currency than its language', () => {
  expect(guessedCurrency('en-GB', 'Europe/London')).toBe('GBP')
  expect(guessedCurrency('en-US', 'Europe/Vienna')).toBe('EUR')
  expect(guessedCurrency('de-CH', 'Europe/Zurich')).toBe('CHF')
  expect(guessedCurrency('en', 'America/Chicago')).toBe('USD')
  expect(guessedCurrency('en-CA', 'America/Toronto')).toBe('CAD')
  expect(guessedCurrency('', 'UTC')).toBe('EUR')
})

it('dates and numbers begin as the machine writes them, where we can', () => {
  expect(['en-US', 'de-CH', 'pt-BR', 'ja-JP', ''].map(guessedLanguage)).toEqual(['en-US', 'de', 'pt', 'en-GB', 'en-GB'])
})
