import { numberWords } from '~~/core/local/numbers'
export { sayBytes as sizeWords } from '~~/core/cases/telling/saying/amounts'

/** "3 items", "1 item". */
export const countOf = (count: number, one: string, many = `${one}s`) =>
  `${numberWords(count)} ${count === 1 ? one : many}`
