/** The fewest letters that are searched for. */
export const MIN_SOUGHT = 2
/** Longer words are cut: an index holds no longer ones of use. */
const MAX_WORDS = 8
const MAX_WORD = 60

/** Letters and digits in a row, as the index splits texts (SQLite FTS5, tokenizer unicode61). */
const WORD = /[\p{L}\p{N}\p{Co}]+/gu

/** A text without accents and capitals. Every letter stays one letter, so that places in it are those of the text. */
export const folded = (text: string): string =>
  Array.from(text, (letter) => {
    const [base] = letter.normalize('NFD').toLowerCase()
    // Rarely, a letter takes more or fewer units of UTF-16 than its base.
    return base !== undefined && base.length === letter.length ? base : letter
  }).join('')

/** The words that are sought: folded, and each once. */
export function soughtWords(typed: string): string[] {
  const words = folded(typed).match(WORD) ?? []
  return [...new Set(words.map((word) => word.slice(0, MAX_WORD)))].slice(0, MAX_WORDS)
}

/** True where enough was typed to search for. */
export const isSearchable = (typed: string): boolean => soughtWords(typed).join('').length >= MIN_SOUGHT

/** What was typed, where it is a number with marks between its digits; null for anything else. */
export function soughtNumber(typed: string): string | null {
  const digits = typed.replace(/\D/g, '')
  return digits.length >= 3 && /^[\d\s+()/.-]+$/.test(typed.trim()) ? digits : null
}

/** The digits by which a good part of a number is the same in all its forms: with and without the code of its country. */
const TELLING_DIGITS = 9

/** A number as it may be stored: as it was typed, without zeros in front, and only its last digits where it is a whole one. */
export function numberForms(digits: string): string[] {
  const short = digits.length > TELLING_DIGITS ? [digits.slice(-TELLING_DIGITS)] : []
  return [...new Set([digits, digits.replace(/^0+/, ''), ...short])].filter((form) => form.length >= 3)
}

/**
 * A query of the full-text index: rows in which every word begins a word, in any order (SQLite FTS5, section 3). Only
 * letters and digits get into it, each word in quotes. Null where nothing is sought.
 */
export function matchQuery(typed: string): string | null {
  const words = soughtWords(typed)
  return words.length === 0 ? null : words.map((word) => `"${word}"*`).join(' ')
}

/**
 * The ends of a word, from the whole of it down to three letters: indexed for names and numbers, so that any part of them
 * finds them.
 */
export function endsOf(word: string): string[] {
  const letters = Array.from(folded(word))
  return letters.slice(0, Math.max(0, letters.length - 2)).map((_, at) => letters.slice(at).join(''))
}

/** The ends of every word of a name, and of the digits of a number, as one text for the index. */
export function partsText(names: readonly string[], numbers: readonly string[]): string {
  // A name with a sign in it is typed without it, too: O’Brien, obrien.
  const spelt = names.flatMap((name) => [name, name.replace(/['’-]/g, '')])
  const words = spelt.flatMap((name) => folded(name).match(WORD) ?? []).map((word) => word.slice(0, MAX_WORD))
  const digits = numbers.map((number) => number.replace(/\D/g, ''))
  return [...new Set([...words, ...digits].flatMap(endsOf))].join(' ')
}
