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
