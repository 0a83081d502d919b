import { indexCell, joined, localBytes, tableCell, type Layout } from './cell'
import { fitOf, isAsStored, isPlausible } from './fit'
import type { Stretch } from './page'
import { sizeOf, valueAt, varint, type Value } from './record'
import { storedColumns, type Affinity, type TableSchema } from './schema'

/** A row found outside the live rows. */
export interface Found {
  /** null where no table has this shape */
  readonly table: TableSchema | null
  /** null where it was lost with the cell's header */
  readonly rowid: number | bigint | null
  readonly values: readonly Value[]
  readonly complete: boolean
  /** its range on its page, end exclusive */
  readonly place?: Stretch
}

/**
 * The rows that a free range of a page still contains. Whole cells are taken as they are; where a free block begins,
 * the first four bytes of a cell were overwritten (SQLite file format, section 1.6), and its header is rebuilt where
 * the column types allow only one reading.
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
  // Behind the first row of a block the next one begins at once; it may have lost its header as well.
  let mayBeHeadless = isBlock
  while (at + 4 <= to) {
    const whole = wholeAt(bytes, at, to, tables, layout)
    const headless = whole ? null : mayBeHeadless ? headlessAt({ bytes, to, tables, layout }, at) : null
    const one = whole ?? headless ?? (isBlock ? null : staleAt({ bytes, to, tables, layout }, at))
    mayBeHeadless = one !== null && isBlock
    if (one) found.push({ ...one.row, place: { from: at, to: at + one.bytes } })
    at += one?.bytes ?? 1
  }
  return found
}

/** No free block smaller than this ever held a row worth reading, in bytes. */
const MIN_BLOCK = 12

/**
 * Where a free block ended that began at `at` before the space around it became free as a whole: its header still has
 * its length (section 1.6). Null where there is no such header.
 */
function staleBlockAt(bytes: Uint8Array, at: number, usable: number): number | null {
  const next = (bytes[at]! << 8) | bytes[at + 1]!
  const size = (bytes[at + 2]! << 8) | bytes[at + 3]!
  const isHead = size >= MIN_BLOCK && at + size <= usable && (next === 0 || (next > at && next < usable))
  return isHead ? at + size : null
}

/** A row whose header an older free block overwrote, where no whole row begins within it. */
function staleAt({ tables: all, ...rest }: Block, at: number): Cut | null {
  // Of a row without a row id too little is left for that.
  const block = { ...rest, tables: all.filter(keepsRowids) }
  const { bytes, to, tables, layout } = block
  if (tables.length === 0) return null
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
  // Where a newer cell was later written into it, the older one's content is no longer its own.
  for (let inside = at + 1; inside < at + one.bytes; inside++)
    if (cellAt(bytes, inside, to, tables, layout)) {
      // Without a row id there is no other evidence.
      return isKeyed(one.row.table!) ? null : { ...one, row: { ...one.row, complete: false } }
    }
  return one
}

function cellAt(bytes: Uint8Array, at: number, to: number, tables: readonly TableSchema[], layout: Layout): Cut | null {
  return (
    (tables.some(keepsRowids) && rowidCellAt(bytes, at, to, tables, layout)) ||
    (tables.some(isKeyed) && keyedCellAt(bytes, at, to, tables, layout)) ||
    null
  )
}

function rowidCellAt(
  bytes: Uint8Array,
  at: number,
  to: number,
  tables: readonly TableSchema[],
  layout: Layout,
): Cut | null {
  const cell = tableCell(bytes, at, to, layout)
  if (!cell || !isPlausible(cell.values)) return null
  const table = bestFit(tables, cell.values)
  if (!table || !isAsStored(cell, layout.schemaFormat, table)) return null
  const { rowid, values, complete } = cell
  const hasText = values.some((value) => typeof value === 'string' && value.length > 1)
  if (!hasText && !layout.habits.areUsual(table, values)) return null
  return { row: { table, rowid, values, complete }, bytes: Math.max(4, cell.bytes) }
}

function keyedCellAt(
  bytes: Uint8Array,
  at: number,
  to: number,
  tables: readonly TableSchema[],
  layout: Layout,
): Cut | null {
  const cell = indexCell(bytes, at, to, layout)
  if (!cell || !isPlausible(cell.values)) return null
  const table = keyedFit(tables, cell.values)
  if (!table || !isAsStored(cell, layout.schemaFormat, table)) return null
  const { values, complete } = cell
  return { row: { table, rowid: null, values, complete }, bytes: Math.max(4, cell.bytes) }
}

const isKeyed = (table: TableSchema) => table.storedOrder !== null
const keepsRowids = (table: TableSchema) => table.storedOrder === null

/** The WITHOUT ROWID table that a record fits; it must fill all columns, since index entries look alike. */
export function keyedFit(tables: readonly TableSchema[], values: readonly Value[]): TableSchema | null {
  return (
    tables.find((table) => isKeyed(table) && values.length === table.columns.length && fitOf(table, values) !== null) ??
    null
  )
}

/** The table with row ids that a record fits best; of several equal ones the first. */
export function bestFit(tables: readonly TableSchema[], values: readonly Value[]): TableSchema | null {
  let best: TableSchema | null = null
  let most = -1
  for (const table of tables) {
    const fit = isKeyed(table) ? null : fitOf(table, values)
    // A row of only numbers and nulls may be anything, so it must fill all columns of its table.
    const isTelling =
      values.some((value) => typeof value === 'string' && value.length > 1) || values.length === table.columns.length
    if (fit !== null && isTelling && fit > most) {
      best = table
      most = fit
    }
  }
  return best
}

/** The serial types of a header that must be left for it to be more than a coincidence. */
const ENOUGH_OF_A_HEAD = 3
/** The longest that the two varints at the beginning of a cell may be, in bytes. */
const PAYLOAD_BYTES = [1, 2, 3]
const ROWID_BYTES = [1, 2, 3, 4, 5, 6, 7, 8, 9]
const NO_ROWID = [0]
/** How long the header size is: two bytes for tables with more than about 120 columns. */
const HEADER_BYTES = [1, 2]
const OVERWRITTEN = 4

/** The range to search, and the tables to search for. */
interface Block {
  readonly bytes: Uint8Array
  readonly to: number
  readonly tables: readonly TableSchema[]
  readonly layout: Layout
}

/**
 * Rebuilds a cell whose first four bytes are lost, where only one reading makes sense: preferably one that ends with
 * the block, then one after which the rest of the block is rows too, then one with enough of its header left.
 */
function headlessAt(block: Block, at: number): Cut | null {
  const keyed = keyedHeadlessAt(block, at)
  const others = block.tables.filter(keepsRowids)
  if (keyed || others.length === 0) return keyed
  const readings = readingsAt({ ...block, tables: others }, at)
  const isRows = rowsToTheEnd({ ...block, tables: others })
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

/** The longest row whose payload size takes one byte, with its headers. */
const FAR = 4096

/**
 * Rebuilds a cell without a row id: more of its header is lost, so only readings count that end where another row
 * begins or the block does. Merged blocks keep their old headers inside, and those give the distance to the same end.
 */
function keyedHeadlessAt(block: Block, at: number): Cut | null {
  const tables = block.tables.filter(isKeyed)
  if (tables.length === 0) return null
  for (const to of endsAfter(block, at)) {
    const readings = readingsAt({ ...block, tables, to }, at).filter((one) => at + one.bytes === to)
    const candidates = distinct(readings)
    if (candidates.length > 0) return candidates.length === 1 ? candidates[0]! : null
  }
  return null
}

/** Where a row that begins at `at` may end, nearest first. */
function* endsAfter({ bytes, to, tables, layout }: Block, at: number): Iterable<number> {
  const keyed = tables.filter(isKeyed)
  for (let end = at + MIN_BLOCK; end + OVERWRITTEN <= Math.min(to, at + FAR); end++) {
    const isOldHead = ((bytes[end + 2]! << 8) | bytes[end + 3]!) === to - end
    if (isOldHead || keyedCellAt(bytes, end, to, keyed, layout)) yield end
  }
  yield to
}

/** Text that is readable to its last letter is no coincidence. */
const ENOUGH_LETTERS = 16
const isTelling = (values: readonly Value[]) =>
  values.reduce((sum: number, value) => sum + (typeof value === 'string' ? value.length : 0), 0) >= ENOUGH_LETTERS

/** This many consecutive rows are no coincidence; noise is not followed any further. */
const ENOUGH_ROWS = 60

/** Whether rows follow each other from a place to the end of the block; up to three bytes may be left over. */
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
    PAYLOAD_BYTES.flatMap((payload) =>
      (isKeyed(table) ? NO_ROWID : ROWID_BYTES).flatMap((rowid) =>
        HEADER_BYTES.flatMap((header) => reading(bytes, { at, to, payload, rowid, header }, table, layout)),
      ),
    ),
  )
}

const distinct = (readings: readonly Reading[]) => [
  ...new Map(readings.map((one) => [JSON.stringify(one.row.values, longAsText), one])).values(),
]
const longAsText = (_: string, value: unknown) => (typeof value === 'bigint' ? String(value) : value)

interface Reading extends Cut {
  /** whether its length follows from the rest of its header alone */
  readonly isSure: boolean
}

interface Head {
  readonly at: number
  readonly to: number
  readonly payload: number
  readonly rowid: number
  readonly header: number
}

function reading(bytes: Uint8Array, place: Head, table: TableSchema, layout: Layout): Reading[] {
  const { at, to, payload, rowid, header } = place
  const head = at + payload + rowid
  const columns = table.columns.length
  const visible = at + OVERWRITTEN
  const firstType = head + header
  if (firstType > visible + 6) return []
  const lostBytes = Math.max(0, visible - firstType)
  if (lostBytes > 2 || lostBytes > columns) return []
  return whichTypes(bytes, { visible, firstType, lostBytes, columns, to }).flatMap(
    ({ lost, half, types: told, end }) => {
      const headerBytes = end - head
      if (header !== (headerBytes > 127 ? 2 : 1)) return []
      if (head >= visible && varint(bytes, head, to)?.value !== headerBytes) return []
      const known = told.reduce((sum, type) => sum + (sizeOf(type) ?? 0), 0)
      const isIndex = isKeyed(table)
      const isLong = localBytes(headerBytes + known, layout.usable, isIndex) < headerBytes + known
      // The page has only the local part of an overflowing row, and the number of the next page.
      return lostTypes(lost, table, isLong ? 0 : to - end - known).flatMap((guess) => {
        const types = [...guess, ...told]
        if (!fitsHead(guess, half)) return []
        // A header byte or two may be a coincidence: a reading based only on them is uncertain, and not enough without
        // a fitting end.
        const isSure = isTold(lost, table) && columns - lost + (head >= visible ? 1 : 0) >= ENOUGH_OF_A_HEAD
        const length = headerBytes + known + guess.reduce((sum, type) => sum + sizeOf(type)!, 0)
        const local = localBytes(length, layout.usable, isIndex)
        const stop = head + local + (local < length ? 4 : 0)
        if (stop > to || payload !== (length < 128 ? 1 : length < 16_384 ? 2 : 3)) return []
        const whole = local < length ? joined(bytes, head, local, length, layout) : bytes.subarray(head, head + local)
        return rebuilt(whole, { headerBytes, types, lost }, table, layout).map((row): Reading => ({
          // Without the end of the block to prove its length, a header of which much is lost proves nothing.
          row: { ...row, complete: row.complete && isSure && stop === to },
          bytes: Math.max(4, stop - at),
          isSure,
        }))
      })
    },
  )
}

/** Serial types below 128 take one byte; of a longer one that was cut, the second half is left. */
const fitsHead = (guess: readonly number[], half: number | null) =>
  half === null
    ? guess.every((type) => type < 128)
    : guess.slice(0, -1).every((type) => type < 128) && guess.at(-1)! >= 128 && (guess.at(-1)! & 127) === half

interface Types {
  /** how many leading types are unknown */
  readonly lost: number
  /** what is left of the last of them, if it had two bytes */
  readonly half: number | null
  readonly types: readonly number[]
  readonly end: number
}

/** The serial types left of a header: each lost byte was one type, or the last of them the first half of one. */
function whichTypes(
  bytes: Uint8Array,
  {
    visible,
    firstType,
    lostBytes,
    columns,
    to,
  }: Record<'visible' | 'firstType' | 'lostBytes' | 'columns' | 'to', number>,
): Types[] {
  const from = lostBytes > 0 ? visible : firstType
  const whole = typesFrom(bytes, from, columns - lostBytes, to)
  const halved = lostBytes > 0 && bytes[visible]! < 128 ? typesFrom(bytes, visible + 1, columns - lostBytes, to) : null
  return [
    ...(whole ? [{ lost: lostBytes, half: null, ...whole }] : []),
    ...(halved ? [{ lost: lostBytes, half: bytes[visible]!, ...halved }] : []),
  ]
}

/** Whether the lost types follow from the table alone: the column that aliases the row id is stored as null. */
const isTold = (lost: number, table: TableSchema) => lost === 0 || (lost === 1 && table.rowidColumn === 0)

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
 * The possible overwritten serial types, by their columns and the room left for them. A block whose end was given to a
 * newer cell has less room than its row had, so what follows from the room alone stays uncertain.
 */
function lostTypes(lost: number, table: TableSchema, room: number): number[][] {
  if (lost === 0) return [[]]
  const [first, second] = storedColumns(table)
  if (lost === 1) return table.rowidColumn === 0 ? [[0]] : typesOf(first!, room).map((type) => [type])
  if (table.rowidColumn === 0) return typesOf(second!, room).map((type) => [0, type])
  const pairs: number[][] = []
  for (let part = 0; part <= Math.min(room, LONGEST_LOST); part++)
    for (const one of typesOf(first!, part)) for (const other of typesOf(second!, room - part)) pairs.push([one, other])
  return pairs
}

/** The longest content of a serial type that takes one byte. */
const LONGEST_LOST = 57
const INTEGERS: Readonly<Record<number, readonly number[]>> = {
  0: [8, 9],
  1: [1],
  2: [2],
  3: [3],
  4: [4],
  6: [5],
  8: [6],
}

/** The serial types of a column whose content has this many bytes. */
function typesOf({ affinity, isNotNull }: { affinity: Affinity; isNotNull: boolean }, room: number): number[] {
  if (room < 0) return []
  const nothing = room === 0 && !isNotNull ? [0] : []
  const integers = INTEGERS[room] ?? []
  const text = room <= 4096 ? [13 + 2 * room] : []
  if (affinity === 'integer') return [...(room === 0 ? [] : integers), ...nothing]
  if (affinity === 'real') return [...(room === 8 ? [7] : room === 0 ? [] : integers), ...nothing]
  if (affinity === 'numeric') return room > 0 && integers.length > 0 ? [...integers] : [...text, ...nothing]
  return room === 0 ? nothing : text
}

/** The live rows that show what values a table has. */
const ENOUGH_LIVE = 8

function rebuilt(
  bytes: Uint8Array,
  {
    headerBytes,
    types,
    lost,
  }: { readonly headerBytes: number; readonly types: readonly number[]; readonly lost: number },
  table: TableSchema,
  layout: Layout,
): Found[] {
  let at = headerBytes
  const values: Value[] = []
  for (const type of types) {
    const value = valueAt(bytes, at, type, layout.encoding)
    if (value === undefined) return []
    values.push(value)
    at += sizeOf(type)!
  }
  if (fitOf(table, values) === null || !isPlausible(values)) return []
  // A reading based only on zeros and their room is no row; one that resembles all live rows may be one.
  const isTold =
    types.some((type, index) => index >= lost && type !== 0 && type !== 8 && type !== 9) ||
    (lost === types.length && layout.habits.rowsOf(table) >= ENOUGH_LIVE)
  if (!isTold || !isAsStored({ types, values }, layout.schemaFormat, table)) return []
  if (lost > 0 && isKeyed(table) && !layout.habits.areUsual(table, values)) return []
  return [{ table, rowid: null, values, complete: table.rowidColumn < 0 }]
}
