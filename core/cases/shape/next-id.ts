import { partId } from './fact'

/** The next free id with this letter: d1, d2, … */
export function nextId(letter: string, parts: readonly { id: string }[]): string {
  const numbers = parts.map((part) => Number(new RegExp(`^${letter}(\\d+)$`).exec(part.id)?.[1] ?? 0))
  return partId.parse(`${letter}${Math.max(0, ...numbers) + 1}`)
}
