import { joined, localBytes, tableCell, type Layout } from './cell'
import { fitOf, isPlausible } from './fit'
import type { Stretch } from './page'
import { sizeOf, valueAt, varint, type Value } from './record'
import type { TableSchema } from './schema'

/** A row that was found where no live row stands. */
export interface Found {
  /** null where no table has its shape */
  readonly table: TableSchema | null
  /** null where it was lost with the head of the cell */
  readonly rowid: number | bigint | null
  readonly values: readonly Value[]
  readonly complete: boolean
}

/**
 * The rows that a free stretch of a page still holds. Whole cells are taken where they stand; where a free
 * block begins, the first four bytes of a cell were overwritten (SQLite file format, section 1.6), and its
 * head is rebuilt where the columns' types leave one reading.
 */
export function carve(
  bytes: Uint8Array,
  { from, to }: Stretch,
  tables: readonly TableSchema[],
  layout: Layout,
  isBlock: boolean,
): Found[] {
  const found: Found[] = []
  let at = from
  // After the first row of a block the next one begins at once: it may have lost its head as well.
  let mayBeHeadless = isBlock
  while (at + 4 <= to) {
    const whole = wholeAt(bytes, at, to, tables, layout)
    const headless = whole ? null : mayBeHeadless ? headlessAt({ bytes, to, tables, layout }, at) : null
    const one = whole ?? headless ?? (isBlock ? null : staleAt({ bytes, to, tables, layout }, at))
    mayBeHeadless = one !== null && isBlock
    if (one) found.push(one.row)
    at += one?.bytes ?? 1
  }
  return found
}

/** Smaller than this no free block once held a row worth reading. */
const LEAST_BLOCK = 12

/**
 * Where a free block ends that began at `at` before the space around it became free as a whole: its head still
 * says how long it was (section 1.6). Null where no such head stands.
 */
function staleBlockAt(bytes: Uint8Array, at: number, usable: number): number | null {
  const next = (bytes[at]! << 8) | bytes[at + 1]!
  const size = (bytes[at + 2]! << 8) | bytes[at + 3]!
  const isHead = size >= LEAST_BLOCK && at + size <= usable && (next === 0 || (next > at && next < usable))
  return isHead ? at + size : null
}

/** A row whose head an older free block has taken, where no whole row begins within it. */
function staleAt(block: Block, at: number): Cut | null {
  const { bytes, to, tables, layout } = block
  const end = staleBlockAt(bytes, at, layout.usable)
  const one = end === null ? null : headlessAt({ ...block, to: end }, at)
  if (!one) return null
  for (let inside = at + 1; inside < at + one.bytes; inside++)
    if (cellAt(bytes, inside, to, tables, layout)) return null
  return one
}

interface Cut {
  readonly row: Found
  readonly bytes: number
}

function wholeAt(
  bytes: Uint8Array,
  at: number,
  to: number,
  tables: readonly TableSchema[],
  layout: Layout,
): Cut | null {
  const one = cellAt(bytes, at, to, tables, layout)
  if (!one) return null
  // Where a newer cell was once written into it, the older one’s content is not its own any more.
  for (let inside = at + 1; inside < at + one.bytes; inside++)
    if (cellAt(bytes, inside, to, tables, layout)) return { ...one, row: { ...one.row, complete: false } }
  return one
}

function cellAt(bytes: Uint8Array, at: number, to: number, tables: readonly TableSchema[], layout: Layout): Cut | null {
  const cell = tableCell(bytes, at, to, layout)
  if (!cell || !isPlausible(cell.values)) return null
  const table = bestFit(tables, cell.values)
  if (!table) return null
  return {
    row: { table, rowid: cell.rowid, values: cell.values, complete: cell.complete },
    bytes: Math.max(4, cell.bytes),
  }
}

/** The table that a record fits best; of several equal ones the first. */
export function bestFit(tables: readonly TableSchema[], values: readonly Value[]): TableSchema | null {
  let best: TableSchema | null = null
  let most = -1
  for (const table of tables) {
    const fit = table.storedOrder ? null : fitOf(table, values)
    // A row of nothing but numbers and nulls may be anything; it has to fill its table.
    const isTelling =
      values.some((value) => typeof value === 'string' && value.length > 1) || values.length === table.columns.length
    if (fit !== null && isTelling && fit > most) {
      best = table
      most = fit
    }
  }
  return best
}

/** So many numbers of a head have to be left for it to be more than chance. */
const ENOUGH_OF_A_HEAD = 3
/** How long the two numbers at the head of a cell may be. */
const PAYLOAD_BYTES = [1, 2, 3]
const ROWID_BYTES = [1, 2, 3, 4, 5, 6, 7, 8, 9]
const OVERWRITTEN = 4

/** Where something is looked for, and for which tables. */
interface Block {
  readonly bytes: Uint8Array
  readonly to: number
  readonly tables: readonly TableSchema[]
  readonly layout: Layout
}

/**
 * Rebuilds a cell whose first four bytes are gone, where one reading alone makes sense: best one that ends
 * with the block, else one after which the rest of the block is rows too, else one of whose head enough is left.
 */
function headlessAt(block: Block, at: number): Cut | null {
  const readings = readingsAt(block, at)
  const isRows = rowsToTheEnd(block)
  for (const isGood of [
    (one: Reading) => at + one.bytes === block.to,
    (one: Reading) => isRows(at + one.bytes),
    (one: Reading) => one.isSure,
    (one: Reading) => isTelling(one.row.values),
  ]) {
    const candidates = distinct(readings.filter(isGood))
    if (candidates.length > 0) return candidates.length === 1 ? candidates[0]! : null
  }
  return null
}

/** Text that reads as text, to its last letter, is no chance. */
const ENOUGH_LETTERS = 16
const isTelling = (values: readonly Value[]) =>
  values.reduce((sum: number, value) => sum + (typeof value === 'string' ? value.length : 0), 0) >= ENOUGH_LETTERS

/** So many rows in a row are no chance, and no noise may be followed without end. */
const ENOUGH_ROWS = 60

/** Whether from a place to the end of the block one row follows the other; up to three bytes may be left over. */
function rowsToTheEnd(block: Block): (at: number) => boolean {
  const kept = new Map<number, boolean>()
  const isRows = (at: number, rows = 0): boolean => {
    if (block.to - at < OVERWRITTEN || rows >= ENOUGH_ROWS) return true
    const before = kept.get(at)
    if (before !== undefined) return before
    const { bytes, to, tables, layout } = block
    const whole = cellAt(bytes, at, to, tables, layout)
    const found = whole
      ? isRows(at + whole.bytes, rows + 1)
      : readingsAt(block, at).some((one) => one.bytes >= OVERWRITTEN && isRows(at + one.bytes, rows + 1))
    kept.set(at, found)
    return found
  }
  return isRows
}

function readingsAt({ bytes, to, tables, layout }: Block, at: number): Reading[] {
  return tables.flatMap((table) =>
    table.storedOrder
      ? []
      : PAYLOAD_BYTES.flatMap((payload) =>
          ROWID_BYTES.flatMap((rowid) => reading(bytes, { at, to, payload, rowid }, table, layout)),
        ),
  )
}

const distinct = (readings: readonly Reading[]) => [
  ...new Map(readings.map((one) => [JSON.stringify(one.row.values, longAsText), one])).values(),
]
const longAsText = (_: string, value: unknown) => (typeof value === 'bigint' ? String(value) : value)

interface Reading extends Cut {
  /** whether its length follows from what is left of its head alone */
  readonly isSure: boolean
}

interface Head {
  readonly at: number
  readonly to: number
  readonly payload: number
  readonly rowid: number
}

function reading(bytes: Uint8Array, { at, to, payload, rowid }: Head, table: TableSchema, layout: Layout): Reading[] {
  const head = at + payload + rowid
  const columns = table.columns.length
  const visible = at + OVERWRITTEN
  // The length of the header is one byte for tables of up to some hundred and twenty columns.
  const firstType = head + 1
  if (firstType > visible + 6) return []
  const lost = Math.max(0, visible - firstType)
  if (lost > 1) return []
  const told = typesFrom(bytes, lost === 1 ? visible : firstType, columns - lost, to)
  if (!told) return []
  const { end } = told
  const types: (number | null)[] = lost === 1 ? [null, ...told.types] : told.types
  const headerBytes = end - head
  if (headerBytes > 127 || (head >= visible && bytes[head] !== headerBytes)) return []
  const known = types.reduce<number>((sum, type) => sum + (type === null ? 0 : (sizeOf(type) ?? 0)), 0)
  // Of a row that goes on on other pages only so much stands here, and the number of the next page.
  const isLong = headerBytes + known > layout.usable - 35
  return firstTypes(types, table, isLong ? 0 : to - end - known).flatMap(({ type, isSure: isTold }) => {
    // A byte or two of the head may be chance: what only they say is not certain, nor enough without a fitting end.
    const isSure = isTold && columns - lost + (head >= visible ? 1 : 0) >= ENOUGH_OF_A_HEAD
    const complete = [type ?? types[0]!, ...types.slice(1)] as number[]
    const content = known + (types[0] === null ? sizeOf(complete[0]!)! : 0)
    const length = headerBytes + content
    const local = localBytes(length, layout.usable, false)
    const stop = head + local + (local < length ? 4 : 0)
    if (stop > to || payload !== (length < 128 ? 1 : length < 16_384 ? 2 : 3)) return []
    const whole = local < length ? joined(bytes, head, local, length, layout) : bytes.subarray(head, head + local)
    return rebuilt(whole, headerBytes, complete, table, layout).map((row): Reading => ({
      // Without the end of the block to prove its length, a head of which much is gone proves nothing.
      row: { ...row, complete: row.complete && isSure && stop === to },
      bytes: Math.max(4, stop - at),
      isSure,
    }))
  })
}

function typesFrom(bytes: Uint8Array, at: number, count: number, to: number) {
  const types: number[] = []
  let end = at
  for (let index = 0; index < count; index++) {
    const type = varint(bytes, end, to)
    if (!type || sizeOf(type.value) === null) return null
    types.push(type.value)
    end += type.bytes
  }
  return { types, end }
}

/**
 * What the serial type that was overwritten may have been, by its column and by the room that is left for it.
 * A block whose end was given to a newer cell has less room than its row had, so what follows from the room
 * alone stays uncertain.
 */
function firstTypes(
  types: readonly (number | null)[],
  table: TableSchema,
  room: number,
): { type: number | null; isSure: boolean }[] {
  if (types[0] !== null) return [{ type: null, isSure: true }]
  // The column that names the row id is always stored as null.
  if (table.rowidColumn === 0) return [{ type: 0, isSure: true }]
  const { affinity, isNotNull } = table.columns[0]!
  const integers: Readonly<Record<number, number>> = { 1: 1, 2: 2, 3: 3, 4: 4, 6: 5, 8: 6 }
  const text = room > 0 && room <= 57 ? 13 + 2 * room : undefined
  const nothing = room === 0 && !isNotNull ? 0 : undefined
  const guess =
    affinity === 'integer'
      ? (integers[room] ?? nothing)
      : affinity === 'real'
        ? room === 8
          ? 7
          : (integers[room] ?? nothing)
        : affinity === 'numeric'
          ? (integers[room] ?? text ?? nothing)
          : (text ?? nothing)
  return guess === undefined ? [] : [{ type: guess, isSure: false }]
}

function rebuilt(
  bytes: Uint8Array,
  content: number,
  types: readonly number[],
  table: TableSchema,
  layout: Layout,
): Found[] {
  let at = content
  const values: Value[] = []
  for (const type of types) {
    const value = valueAt(bytes, at, type, layout.encoding)
    if (value === undefined) return []
    values.push(value)
    at += sizeOf(type)!
  }
  if (fitOf(table, values) === null || !isPlausible(values)) return []
  if (values.every((value) => value === null)) return []
  return [{ table, rowid: null, values, complete: table.rowidColumn < 0 }]
}
