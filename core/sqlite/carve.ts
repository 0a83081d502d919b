import { indexCell, joined, localBytes, tableCell, type Layout } from './cell'
import { fitOf, isAsStored, isPlausible } from './fit'
import type { Stretch } from './page'
import { sizeOf, valueAt, varint, type Value } from './record'
import { storedColumns, type Affinity, type TableSchema } from './schema'

/** A row that was found where no live row stands. */
export interface Found {
  /** null where no table has its shape */
  readonly table: TableSchema | null
  /** null where it was lost with the head of the cell */
  readonly rowid: number | bigint | null
  readonly values: readonly Value[]
  readonly complete: boolean
  /** where it stands on its page, from its first byte to the one after its last */
  readonly place?: Stretch
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
    if (one) found.push({ ...one.row, place: { from: at, to: at + one.bytes } })
    at += one?.bytes ?? 1
  }
  return found
}

/** Smaller than this no free block once held a row worth reading. */
const MIN_BLOCK = 12

/**
 * Where a free block ends that began at `at` before the space around it became free as a whole: its head still
 * says how long it was (section 1.6). Null where no such head stands.
 */
function staleBlockAt(bytes: Uint8Array, at: number, usable: number): number | null {
  const next = (bytes[at]! << 8) | bytes[at + 1]!
  const size = (bytes[at + 2]! << 8) | bytes[at + 3]!
  const isHead = size >= MIN_BLOCK && at + size <= usable && (next === 0 || (next > at && next < usable))
  return isHead ? at + size : null
}

/** A row whose head an older free block has taken, where no whole row begins within it. */
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
  // Where a newer cell was once written into it, the older one’s content is not its own any more.
  for (let inside = at + 1; inside < at + one.bytes; inside++)
    if (cellAt(bytes, inside, to, tables, layout)) {
      // Without a row id nothing else would speak for it.
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

/** The table without row ids that a record fits; it has to fill it, since entries of indexes look alike. */
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
const NO_ROWID = [0]
/** How long the length of a record's header is: two bytes for tables of more than some hundred and twenty columns. */
const HEADER_BYTES = [1, 2]
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

/** No row whose length takes one byte is longer, with the heads around it. */
const FAR = 4096

/**
 * Rebuilds a cell without a row id: more of its head is gone, so that only readings count that end where another row begins
 * or the block does. Blocks that were joined keep their old heads inside, and those tell how far it was to the same end.
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
  /** whether its length follows from what is left of its head alone */
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
      // Of a row that goes on on other pages only so much stands here, and the number of the next page.
      return lostTypes(lost, table, isLong ? 0 : to - end - known).flatMap((guess) => {
        const types = [...guess, ...told]
        if (!fitsHead(guess, half)) return []
        // A byte or two of the head may be chance: what only they say is not certain, nor enough without a fitting end.
        const isSure = isTold(lost, table) && columns - lost + (head >= visible ? 1 : 0) >= ENOUGH_OF_A_HEAD
        const length = headerBytes + known + guess.reduce((sum, type) => sum + sizeOf(type)!, 0)
        const local = localBytes(length, layout.usable, isIndex)
        const stop = head + local + (local < length ? 4 : 0)
        if (stop > to || payload !== (length < 128 ? 1 : length < 16_384 ? 2 : 3)) return []
        const whole = local < length ? joined(bytes, head, local, length, layout) : bytes.subarray(head, head + local)
        return rebuilt(whole, { headerBytes, types, lost }, table, layout).map((row): Reading => ({
          // Without the end of the block to prove its length, a head of which much is gone proves nothing.
          row: { ...row, complete: row.complete && isSure && stop === to },
          bytes: Math.max(4, stop - at),
          isSure,
        }))
      })
    },
  )
}

/** Types of less than 128 take one byte; of a longer one that was cut through, the second half is left. */
const fitsHead = (guess: readonly number[], half: number | null) =>
  half === null
    ? guess.every((type) => type < 128)
    : guess.slice(0, -1).every((type) => type < 128) && guess.at(-1)! >= 128 && (guess.at(-1)! & 127) === half

interface Types {
  /** how many types at the front are not known */
  readonly lost: number
  /** what is left of the last of them, where it took two bytes */
  readonly half: number | null
  readonly types: readonly number[]
  readonly end: number
}

/** The serial types that are left of a head: each lost byte was one type, or the last of them the first half of one. */
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

/** Whether the types that are lost follow from the table alone: the column that names the row id is stored as null. */
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
 * What the serial types that were overwritten may have been, by their columns and by the room that is left for them. A block
 * whose end was given to a newer cell has less room than its row had, so what follows from the room alone stays uncertain.
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

/** A type whose head takes one byte has no longer content. */
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

/** The serial types of a column whose content takes so many bytes. */
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

/** Live rows that tell how those of a table look. */
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
  // What only zeros and the room around them would say is no row; what looks like all live rows may be one.
  const isTold =
    types.some((type, index) => index >= lost && type !== 0 && type !== 8 && type !== 9) ||
    (lost === types.length && layout.habits.rowsOf(table) >= ENOUGH_LIVE)
  if (!isTold || !isAsStored({ types, values }, layout.schemaFormat, table)) return []
  if (lost > 0 && isKeyed(table) && !layout.habits.areUsual(table, values)) return []
  return [{ table, rowid: null, values, complete: table.rowidColumn < 0 }]
}
