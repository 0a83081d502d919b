import type { ByteSource } from '../sources/source'
import { bestFit, carve, keyedFit, type Found } from './carve'
import { indexCell, tableCell, type Layout, type ReadRecord, type TableCell } from './cell'
import { isAsStored, liveRow } from './fit'
import { Habits } from './habits'
import { readHeader, type DatabaseHeader } from './header'
import { hotJournal, readJournal } from './journal'
import { Ledger } from './ledger'
import { treePage, type TreePage } from './page'
import type { Value } from './record'
import { ROWS_FORMAT, rowValue, type ReportedRow, type RowsReport } from './rows-report'
import { readCreateTable, type TableSchema } from './schema'
import { readWal, type KeptPage } from './wal'

type Source = ReportedRow['source']

/** The files beside a database that keep older pages of it. */
export interface Beside {
  readonly wal?: Uint8Array | null
  readonly journal?: Uint8Array | null
}

/** The schema table itself; its own CREATE statement is stored nowhere. */
const SCHEMA_TABLE = readCreateTable(
  'create table sqlite_schema(type text, name text, tbl_name text, rootpage int, sql text)',
  1,
)!

/** What every step needs. */
interface Database {
  readonly header: DatabaseHeader
  readonly layout: Layout
  readonly source: ByteSource
  readonly pages: number
  /** pages that replace those of the database file: committed ones of the log, or those that a journal restores */
  readonly current: ReadonlyMap<number, Uint8Array>
}

/**
 * All rows of a database: the live ones, and those still in free pages, free blocks, unallocated space, the write-ahead
 * log and the rollback journal. Sources are only read. Returns a message where it is no database.
 */
export function rowsOf(source: ByteSource, beside: Beside = {}): RowsReport | { readonly fault: string } {
  const header = readHeader(source)
  if ('fault' in header) return header
  const warnings: string[] = []
  const wal = beside.wal ? readWal(beside.wal, header.pageBytes) : NO_WAL
  const hot = beside.journal && wal.current.size === 0 ? hotJournal(beside.journal, header.pageBytes) : null
  if (hot) warnings.push(HOT)
  const database = openDatabase(source, header, hot?.before ?? wal.current, hot?.pages)
  const live = new Ledger()
  const owners = new Map<number, TableSchema>()
  const { tables: schemas, indexes } = schemasOf(database, owners)
  for (const table of schemas.filter((one) => one !== SCHEMA_TABLE)) readLive(database, table, owners, live)
  const dropped = droppedTables(database, schemas)
  const tables = [...schemas, ...dropped]
  const replaced = [...database.current.keys(), ...(hot ? pagesFrom(hot.pages + 1, filePages(database)) : [])]
  const gone = goneRows({ database, owners, tables, live, indexPages: pagesOf(database, indexes) }, [
    ...wal.older.map((kept) => ({ ...kept, from: 'wal' as const })),
    ...(beside.journal ? readJournal(beside.journal, header.pageBytes) : []).map((kept) => ({
      ...kept,
      from: 'journal' as const,
    })),
    ...replaced.flatMap((page) => {
      const bytes = filePage(database, page)
      return bytes ? [{ page, bytes, from: 'btree' as const }] : []
    }),
  ])
  return report(tables, live, gone, warnings)
}

const NO_WAL = { current: new Map<number, Uint8Array>(), older: [] }
const HOT =
  'its journal belongs to an unfinished transaction: rows from before it are live; rows it had written count as deleted or earlier'

const pagesFrom = (first: number, last: number) =>
  Array.from({ length: Math.max(0, last - first + 1) }, (_, at) => first + at)
const filePages = ({ source, header }: Pick<Database, 'source' | 'header'>) => Math.ceil(source.size / header.pageBytes)

/** `pages`: their number, where the file size cannot be trusted. */
function openDatabase(
  source: ByteSource,
  header: DatabaseHeader,
  current: ReadonlyMap<number, Uint8Array>,
  told?: number,
): Database {
  const inFile = filePages({ source, header })
  const pages = Math.max(told === undefined ? inFile : Math.min(told, inFile), ...current.keys())
  const database = { header, source, pages, current }
  const pageAt = (page: number) => (page > 0 && page <= pages ? (current.get(page) ?? filePage(database, page)) : null)
  const { usable, encoding, schemaFormat } = header
  return { ...database, layout: { usable, encoding, schemaFormat, habits: new Habits(), pageAt } }
}

function filePage({ source, header }: Pick<Database, 'source' | 'header'>, page: number): Uint8Array | null {
  const bytes = source.read((page - 1) * header.pageBytes, header.pageBytes)
  return bytes.length === header.pageBytes ? bytes : null
}

/** The tables of the schema, the schema table included, and the root pages of its indexes. */
function schemasOf(
  database: Database,
  owners: Map<number, TableSchema>,
): { tables: TableSchema[]; indexes: readonly number[] } {
  const tables: TableSchema[] = [SCHEMA_TABLE]
  const indexes: number[] = []
  for (const { values } of rowsIn(database, SCHEMA_TABLE, owners)) {
    const table = tableFrom(values)
    if (table && table.root > 0) tables.push(table)
    if (values[0] === 'index' && typeof values[3] === 'number') indexes.push(values[3])
  }
  return { tables, indexes }
}

/** Every page of some trees. */
function pagesOf({ layout, header }: Database, roots: readonly number[]): Set<number> {
  const open = [...roots]
  const seen = new Set<number>()
  while (open.length > 0) {
    const number = open.pop()!
    const bytes = seen.has(number) ? null : layout.pageAt(number)
    seen.add(number)
    const page = bytes && treePage(bytes, header.usable, number === 1)
    if (!bytes || !page?.kind.endsWith('inner')) continue
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
    open.push(page.last, ...page.cells.map((cell) => view.getUint32(cell)))
  }
  return seen
}

function tableFrom(values: readonly Value[]): TableSchema | null {
  const [type, , , root, sql] = values
  return type === 'table' && typeof root === 'number' && typeof sql === 'string' ? readCreateTable(sql, root) : null
}

/** Dropped tables, as far as free space on the schema's pages still has their statements. */
function droppedTables(database: Database, schemas: readonly TableSchema[]): TableSchema[] {
  const names = new Set(schemas.map((table) => table.name.toLowerCase()))
  const bytes = database.layout.pageAt(1)
  const page = bytes && treePage(bytes, database.header.usable, true)
  if (!bytes || !page) return []
  return freeRows(bytes, page, [SCHEMA_TABLE], database.layout).flatMap(({ row }) => {
    const table = tableFrom(row.values)
    if (!table || names.has(table.name.toLowerCase())) return []
    names.add(table.name.toLowerCase())
    return [{ ...table, root: 0 }]
  })
}

interface LiveRow {
  readonly values: readonly Value[]
  readonly rowid: Value
  readonly complete: boolean
}

/** A row's values by column; incomplete where they are not stored as the library stores them. */
function toLive(table: TableSchema, read: ReadRecord, rowid: Value, layout: Layout): LiveRow {
  const complete = read.complete && isAsStored(read, layout.schemaFormat, table)
  if (complete) layout.habits.note(table, read.values)
  return { values: liveRow(table, read.values, rowid), rowid, complete }
}

/** Walks a table's tree from its root; each page once, so that a tree with a loop ends too. */
function* rowsIn(
  { layout, header }: Database,
  table: TableSchema,
  owners: Map<number, TableSchema>,
): Generator<LiveRow> {
  const open = [table.root]
  const seen = new Set<number>()
  while (open.length > 0) {
    const number = open.pop()!
    const bytes = seen.has(number) ? null : layout.pageAt(number)
    seen.add(number)
    const page = bytes && treePage(bytes, header.usable, number === 1)
    if (!bytes || !page) continue
    owners.set(number, table)
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
    if (page.kind.endsWith('inner')) open.push(page.last, ...page.cells.map((cell) => view.getUint32(cell)).reverse())
    for (const cell of page.cells) {
      if (page.kind === 'table-leaf') {
        const read = tableCell(bytes, cell, header.usable, layout)
        if (read) yield toLive(table, read, read.rowid, layout)
      } else if (page.kind !== 'table-inner') {
        // Rows of a WITHOUT ROWID table are on interior pages too, behind the child's page number.
        const read = indexCell(bytes, page.kind === 'index-inner' ? cell + 4 : cell, header.usable, layout)
        if (read) yield toLive(table, read, null, layout)
      }
    }
  }
}

function readLive(database: Database, table: TableSchema, owners: Map<number, TableSchema>, live: Ledger) {
  for (const { values, rowid, complete } of rowsIn(database, table, owners))
    live.add(table, { state: 'live', rowid: idOf(rowid), values: values.map(rowValue), source: 'btree', complete })
}

const idOf = (rowid: Value): ReportedRow['rowid'] =>
  typeof rowid === 'bigint' ? { int: String(rowid) } : typeof rowid === 'number' ? rowid : null

interface Search {
  readonly database: Database
  readonly owners: ReadonlyMap<number, TableSchema>
  readonly tables: readonly TableSchema[]
  readonly live: Ledger
  /** pages of indexes, whose entries are no rows */
  readonly indexPages: ReadonlySet<number>
}

/** Every row that is not live, best evidence first, so that the better of two copies is kept. */
function goneRows(search: Search, kept: readonly (KeptPage & { readonly from: Source })[]): Ledger {
  const { database, owners, tables, live, indexPages } = search
  const gone = new Ledger()
  const later: (() => void)[] = []
  const take = (row: Found, source: Source) => {
    const add = () => enter(row, source, live, gone)
    // Rows without their row id wait: the same row may turn up whole.
    if (row.table?.storedOrder ? !row.complete : row.rowid === null) later.push(add)
    else add()
  }
  const among = (page: number) => {
    const owner = owners.get(page)
    return owner ? [owner] : tables.filter((table) => table !== SCHEMA_TABLE)
  }
  const free = freePages(database)
  for (let number = 1; number <= database.pages; number++) {
    const bytes = database.layout.pageAt(number)
    if (!bytes) continue
    const page = treePage(bytes, database.header.usable, number === 1)
    const isFree = free.has(number)
    if (!owners.has(number) && !isFree) continue
    if (isFree) {
      if (page) for (const row of cellRows(bytes, page, among(number), database.layout)) take(row, 'freelist')
      const stretch = { from: free.get(number)!, to: database.header.usable }
      for (const row of carve(bytes, stretch, among(number), database.layout, false))
        take(page ? besideCells(row, page) : row, 'freelist')
      if (page) for (const { row } of freeRows(bytes, page, among(number), database.layout)) take(row, 'freelist')
    } else if (page)
      for (const { row, source } of freeRows(bytes, page, among(number), database.layout)) take(row, source)
  }
  for (const { page: number, bytes, from } of kept) {
    const page = treePage(bytes, database.header.usable, number === 1)
    if (!page || (page.kind.startsWith('index') && indexPages.has(number))) continue
    for (const row of cellRows(bytes, page, among(number), database.layout)) take(row, from)
    for (const { row } of freeRows(bytes, page, among(number), database.layout)) take(row, from)
  }
  for (const add of later) add()
  return gone
}

/** A row that overlaps the beginning of a cell is older, and that cell overwrote it. */
function besideCells(row: Found, { cells }: TreePage): Found {
  const { place } = row
  const isOver = place !== undefined && cells.some((cell) => cell > place.from && cell < place.to)
  return isOver ? { ...row, complete: false } : row
}

/** Puts a row that was found into the ledger, unless it is known already. */
function enter(row: Found, source: Source, live: Ledger, gone: Ledger) {
  const { table, complete } = row
  if (table === SCHEMA_TABLE) return
  const values = (table ? liveRow(table, row.values, row.rowid) : row.values).map(rowValue)
  const rowid = idOf(row.rowid)
  if (live.has(table, values) || gone.has(table, values)) return
  if (rowid === null && (live.hasBut(table, values) || gone.hasBut(table, values))) return
  if (!complete && (live.hasRun(table, values) || gone.hasRun(table, values))) return
  const same = live.sameId(table, { rowid, values })
  // A damaged copy of a live row adds nothing to the row itself.
  if (same && !complete && isPartOf(values, same.values)) return
  const livesOn = same !== null || (rowid === null && !table?.storedOrder && live.hasVersionOf(table, values))
  gone.add(table, { state: livesOn ? 'earlier' : 'deleted', rowid, values, source, complete })
}

const isPartOf = (values: ReportedRow['values'], whole: ReportedRow['values']) =>
  values.every((value, at) => value === null || JSON.stringify(value) === JSON.stringify(whole[at]))

/** The cells of a page that is not part of a live tree. */
function cellRows(bytes: Uint8Array, page: TreePage, tables: readonly TableSchema[], layout: Layout): Found[] {
  return page.cells.flatMap((at): Found[] => {
    if (page.kind === 'table-inner') return []
    const isTable = page.kind === 'table-leaf'
    const cell = isTable
      ? tableCell(bytes, at, layout.usable, layout)
      : indexCell(bytes, page.kind === 'index-inner' ? at + 4 : at, layout.usable, layout)
    if (!cell) return []
    const table = isTable ? bestFit(tables, cell.values) : keyedFit(tables, cell.values)
    if ((!table && !isTable) || !isAsStored(cell, layout.schemaFormat, table)) return []
    return [{ table, rowid: isTable ? (cell as TableCell).rowid : null, values: cell.values, complete: cell.complete }]
  })
}

/** The rows in the unused parts of a page: its free blocks, and the gap before its first cell. */
function freeRows(
  bytes: Uint8Array,
  page: TreePage,
  tables: readonly TableSchema[],
  layout: Layout,
): { row: Found; source: Source }[] {
  // An interior page of a table was a leaf before the tree grew, and may still have its old rows.
  const own = tables.filter((table) => (table.storedOrder !== null) === page.kind.startsWith('index'))
  const isLeaf = page.kind.endsWith('leaf')
  const blocks = page.freeblocks.flatMap((block) => carve(bytes, block, own, layout, isLeaf))
  return [
    ...blocks.map((row) => ({ row, source: 'freeblock' as const })),
    ...carve(bytes, page.gap, own, layout, false).map((row) => ({ row, source: 'unallocated' as const })),
  ]
}

/** The pages of the free list, with where their own content may begin: a trunk's list of leaves has overwritten it. */
function freePages({ header, layout, pages }: Database): Map<number, number> {
  const free = new Map<number, number>()
  const first = layout.pageAt(1)
  let trunk = first ? new DataView(first.buffer, first.byteOffset).getUint32(32) : header.firstFreeTrunk
  while (trunk > 0 && trunk <= pages && !free.has(trunk)) {
    const bytes = layout.pageAt(trunk)
    if (!bytes) break
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
    const count = Math.min(view.getUint32(4), Math.floor(header.usable / 4) - 2)
    free.set(trunk, 8 + count * 4)
    for (let index = 0; index < count; index++) {
      const leaf = view.getUint32(8 + index * 4)
      if (leaf > 0 && leaf <= pages && !free.has(leaf)) free.set(leaf, 0)
    }
    trunk = view.getUint32(0)
  }
  return free
}

function report(tables: readonly TableSchema[], live: Ledger, gone: Ledger, warnings: string[]): RowsReport {
  const named = tables.filter((table) => table !== SCHEMA_TABLE && (table.root > 0 || gone.rows.has(table)))
  const none = gone.rows.get(null) ?? []
  return {
    format: ROWS_FORMAT,
    version: 1,
    warnings,
    tables: [
      ...named.map((table) => ({
        name: table.name,
        columns: table.columns.map((column) => column.name),
        rows: [...(live.rows.get(table) ?? []), ...(gone.rows.get(table) ?? [])],
      })),
      ...(none.length > 0 ? [{ name: null, columns: [], rows: none }] : []),
    ],
  }
}
