const UNITS = ['bytes', 'kB', 'MB', 'GB', 'TB']

/** "1.4 GB": a size in the units that people read. */
export function sizeWords(bytes: number): string {
  let unit = 0
  let size = bytes
  while (size >= 1000 && unit < UNITS.length - 1) {
    size /= 1000
    unit++
  }
  return `${unit === 0 || size >= 100 ? Math.round(size) : size.toFixed(1)} ${UNITS[unit]}`
}

/** "3 items", "1 item". */
export const countOf = (count: number, one: string, many = `${one}s`) =>
  `${count.toLocaleString('en-GB')} ${count === 1 ? one : many}`
