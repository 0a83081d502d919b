import { folded } from './query'

/** A part of a text that was sought: from where to where, in UTF-16 units. */
export type Mark = readonly [from: number, to: number]

/** The most characters of a text that are shown. */
const MAX_SHOWN = 160
/** How much is shown in front of the first match. */
const BEFORE = 40

const startsWord = (text: string, at: number) => at === 0 || !/[\p{L}\p{N}]/u.test(text[at - 1]!)

/** Where the sought words are in a text, first to last. A word that begins somewhere goes before one inside of another. */
export function marksIn(text: string, words: readonly string[]): Mark[] {
  const lower = folded(text)
  const found: [number, number][] = []
  for (const word of words) {
    const places: number[] = []
    for (let at = lower.indexOf(word); at !== -1; at = lower.indexOf(word, at + 1)) places.push(at)
    const starts = places.filter((at) => startsWord(lower, at))
    for (const at of starts.length > 0 ? starts : places.slice(0, 1)) found.push([at, at + word.length])
  }
  return joined(found.sort((one, other) => one[0] - other[0]))
}

function joined(marks: readonly [number, number][]): Mark[] {
  const whole: [number, number][] = []
  for (const [from, to] of marks) {
    const last = whole.at(-1)
    if (last && from <= last[1]) last[1] = Math.max(last[1], to)
    else whole.push([from, to])
  }
  return whole
}

/** A part of a long text around its first match, with its marks; null where nothing sought is in it. */
export function excerpt(text: string, words: readonly string[]): { text: string; marks: Mark[] } | null {
  const line = text.replaceAll(/\s+/g, ' ').trim()
  const all = marksIn(line, words)
  if (all.length === 0) return null
  const begin = all[0]![1] <= MAX_SHOWN ? 0 : Math.max(0, all[0]![0] - BEFORE)
  const from = begin === 0 ? 0 : wordStart(line, begin)
  const shown = `${from > 0 ? '… ' : ''}${line.slice(from, from + MAX_SHOWN)}${line.length > from + MAX_SHOWN ? ' …' : ''}`
  return { text: shown, marks: marksIn(shown, words) }
}

function wordStart(text: string, at: number): number {
  const space = text.indexOf(' ', at)
  return space === -1 || space > at + BEFORE ? at : space + 1
}
