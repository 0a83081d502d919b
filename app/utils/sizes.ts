export { sayBytes as sizeWords } from '~~/core/cases/telling/saying/amounts'

/** "3 items", "1 item". */
export const countOf = (count: number, one: string, many = `${one}s`) =>
  `${count.toLocaleString('en-GB')} ${count === 1 ? one : many}`
