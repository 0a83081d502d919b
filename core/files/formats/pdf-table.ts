import { unpackedStream } from '../../sources/inflate'
import type { Reader } from '../../sources/reader'
import { latin1 } from './latin1'

const MAX_OBJECTS = 200_000
const MAX_TABLES = 64
const MAX_TABLE_BYTES = 16 * 1024 * 1024

/** The cross-reference table of a PDF: the offset of each object, by its number, in bytes of the file. */
export type Places = Map<number, number>

/**
 * Reads the cross-reference table at an offset and the earlier ones that it refers to (ISO 32000-1, 7.5.4 and 7.5.8):
 * as text, or in a stream. Null where there is none. `at` maps an offset of the file to the source, for a file with a
 * gap.
 */
export function tableAt(
  reader: Reader,
  offset: number,
  end: number,
  at: (offset: number) => number = same,
): Places | null {
  const places: Places = new Map()
  const seen = new Set<number>()
  for (let next: number | null = offset; next !== null && !seen.has(next) && seen.size < MAX_TABLES;) {
    seen.add(next)
    const one: Table | null = textTable(reader, at(next), end) ?? packedTable(reader, at(next), end)
    if (!one) return seen.size === 1 ? null : places
    // An entry of a later table takes precedence.
    for (const [number, place] of one.places) if (!places.has(number)) places.set(number, place)
    if (one.places.size === 0 && one.own !== null) places.set(one.own, next)
    next = one.before
  }
  return [...places.values()].every((place) => place < end) ? places : null
}

const same = (offset: number) => offset

interface Table {
  readonly places: Places
  readonly before: number | null
  /** the number of the object that contains the table */
  readonly own: number | null
}

function textTable(reader: Reader, at: number, end: number): Table | null {
  if (!/^\s*xref\s/.test(latin1(reader.bytes(at, 40)))) return null
  const text = latin1(reader.source.read(at, Math.min(end - at, 20 * MAX_OBJECTS)))
  const trailer = text.indexOf('trailer')
  if (trailer < 0) return null
  const places: Places = new Map()
  const token = /(\d{10}) \d{5} ([nf])|(\d+)[ \t]+\d+/g
  let number = 0
  for (let hit = token.exec(text); hit && hit.index < trailer; hit = token.exec(text)) {
    if (hit[3] !== undefined) {
      number = Number(hit[3])
      continue
    }
    if (hit[2] === 'n' && Number(hit[1]) > 0) places.set(number, Number(hit[1]))
    number++
  }
  const before = /\/Prev\s+(\d+)/.exec(text.slice(trailer))
  return { places, before: before ? Number(before[1]) : null, own: null }
}

/** A cross-reference stream; its rows are mostly stored as differences to the row above. */
function packedTable(reader: Reader, at: number, end: number): Table | null {
  const head = latin1(reader.bytes(at, Math.min(4096, end - at)))
  const start = /^\s*(\d+)\s+\d+\s+obj\b/.exec(head)
  if (!start) return null
  const own = Number(start[1])
  const none = { places: new Map(), before: null, own }
  const stream = /stream\r?\n/.exec(head)
  const dictionary = stream ? head.slice(0, stream.index) : ''
  const widths = /\/W\s*\[\s*(\d+)\s+(\d+)\s+(\d+)\s*\]/.exec(dictionary)?.slice(1).map(Number)
  const length = Number(/\/Length\s+(\d+)(?!\s+\d+\s+R)/.exec(dictionary)?.[1] ?? NaN)
  if (!stream || !widths || !(length <= MAX_TABLE_BYTES) || widths.some((width) => width > 7)) return none
  const before = /\/Prev\s+(\d+)/.exec(dictionary)
  const told = { ...none, before: before ? Number(before[1]) : null }
  const from = at + stream.index + stream[0].length
  const rows = rowsOf(reader.source.read(from, length), dictionary, widths[0]! + widths[1]! + widths[2]!)
  return rows ? { ...told, places: placesIn(rows, widths, dictionary) } : told
}

function placesIn(rows: Uint8Array, widths: readonly number[], dictionary: string): Places {
  const places: Places = new Map()
  const width = widths[0]! + widths[1]! + widths[2]!
  const index = /\/Index\s*\[([\d\s]+)\]/.exec(dictionary)?.[1]?.trim().split(/\s+/).map(Number) ?? [0, Infinity]
  const number = (at: number, bytes: number) => {
    let value = 0
    for (let byte = 0; byte < bytes; byte++) value = value * 256 + rows[at + byte]!
    return value
  }
  let at = 0
  for (let part = 0; part + 1 < index.length; part += 2)
    for (
      let own = index[part]!;
      own < index[part]! + index[part + 1]! && at + width <= rows.length;
      own++, at += width
    ) {
      if (places.size > MAX_OBJECTS) return places
      const kind = widths[0] === 0 ? 1 : number(at, widths[0]!)
      const place = number(at + widths[0]!, widths[1]!)
      if (kind === 1 && place > 0) places.set(own, place)
    }
  return places
}

/**
 * The rows of a cross-reference stream; null where they do not unpack (ISO 32000-1, 7.4.4.4: each row has its
 * predictor).
 */
function rowsOf(packed: Uint8Array, dictionary: string, width: number): Uint8Array | null {
  const plain = /\/Filter\s*\[?\s*\/FlateDecode/.test(dictionary)
    ? unpackedStream(packed, MAX_TABLE_BYTES)
    : dictionary.includes('/Filter')
      ? null
      : packed
  const predictor = Number(/\/Predictor\s+(\d+)/.exec(dictionary)?.[1] ?? 1)
  if (!plain || predictor < 10) return predictor === 2 ? null : plain
  const columns = Number(/\/Columns\s+(\d+)/.exec(dictionary)?.[1] ?? 1)
  if (columns !== width) return null
  const rows = new Uint8Array(Math.floor(plain.length / (columns + 1)) * columns)
  for (let row = 0; (row + 1) * columns <= rows.length; row++) {
    const how = plain[row * (columns + 1)]!
    // No predictor, or the difference to the row above: the others are for pictures.
    if (how !== 0 && how !== 2) return null
    for (let column = 0; column < columns; column++) {
      const above = how === 2 && row > 0 ? rows[(row - 1) * columns + column]! : 0
      rows[row * columns + column] = plain[row * (columns + 1) + 1 + column]! + above
    }
  }
  return rows
}
