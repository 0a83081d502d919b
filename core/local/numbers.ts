import QuickLRU from 'quick-lru'
import { spoken } from './language'

/** Building a formatter takes far longer than using it. */
const kept = new QuickLRU<string, Intl.NumberFormat>({ maxSize: 60 })

function formatterOf(options: Intl.NumberFormatOptions): Intl.NumberFormat {
  const { tag } = spoken()
  const key = `${tag} ${JSON.stringify(options)}`
  const formatter = kept.get(key) ?? new Intl.NumberFormat(tag, options)
  kept.set(key, formatter)
  return formatter
}

/** A number as the language that is spoken writes it: "12,500", "12.500", "4.1", "4,1". */
export const numberWords = (number: number, options: Intl.NumberFormatOptions = {}): string =>
  formatterOf(options).format(number)

/** An amount of money with all its decimals, as on papers: "£35.00". */
export const priceWords = (amount: number, currency: string): string =>
  numberWords(amount, { style: 'currency', currency })

/** An amount of money without needless decimals: "£35", "£7.50". */
export const moneyWords = (amount: number, currency: string): string =>
  numberWords(amount, { style: 'currency', currency, maximumFractionDigits: Number.isInteger(amount) ? 0 : 2 })

/** A number for a field in which it can be edited: ungrouped, with all its decimals. */
export const editableNumber = (number: number): string =>
  numberWords(number, { useGrouping: false, maximumFractionDigits: 12 })

/** Whether the comma separates decimals, and the point thousands. */
const isCommaDecimal = (): boolean => numberWords(0.5).includes(',')

/**
 * Reads a number that somebody typed, as the language that is spoken writes it: "1.250,5" is 1250.5 in German. A sign that can
 * only separate decimals is taken for that in every language. NaN where it is no number.
 */
export function readNumber(said: string): number {
  const [group, decimal] = isCommaDecimal() ? ['.', ','] : [',', '.']
  const isGrouped = new RegExp(`^-?\\d{1,3}(?:\\${group}\\d{2,3})*\\${group}\\d{3}(?:\\${decimal}\\d+)?$`)
  const words = said
    .trim()
    .replace(/[\s’']/g, '')
    .replace('−', '-')
  const plain = isGrouped.test(words) ? words.replaceAll(group, '') : words
  return /^-?\d+(?:[.,]\d+)?$/.test(plain) ? Number(plain.replace(',', '.')) : Number.NaN
}
