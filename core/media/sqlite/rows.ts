import type { ByteSource } from '../source'
import { carve, bestFit, type Found } from './carve'
import { indexCell, tableCell, type Layout } from './cell'
import { liveRow } from './fit'
import { readHeader, type DatabaseHeader } from './header'
import { readJournal } from './journal'
import { treePage, type TreePage } from './page'
import type { Value } from './record'
import { ROWS_FORMAT, rowValue, type ReportedRow, type RowsReport } from './rows-report'
import { readCreateTable, type TableSchema } from './schema'
import { readWal, type KeptPage } from './wal'

type Source = ReportedRow['source']

/** What lies beside a database and keeps older pages of it. */
export interface Beside {
  readonly wal?: Uint8Array | null
  readonly journal?: Uint8Array | null
}

/** The table of the schema itself; its own create statement stands nowhere. */
const SCHEMA_TABLE = readCreateTable(
  'create table sqlite_schema(type text, name text, tbl_name text, rootpage int, sql text)',
  1,
)!

/** What every step looks at. */
interface Database {
  readonly header: DatabaseHeader
  readonly layout: Layout
  readonly source: ByteSource
  readonly pages: number
  /** pages of the log that the database now reads in place of its own */
  readonly current: ReadonlyMap<number, Uint8Array>
}

/**
 * All rows of a database: the live ones, and those that free pages, free blocks, unallocated space, the
 * write-ahead log and the rollback journal still hold. The source is only read. Answers what is wrong in
 * words where it is no database.
 */
export function rowsOf(source: ByteSource, beside: Beside = {}): RowsReport | { readonly fault: string } {
  const header = readHeader(source)
  if ('fault' in header) return header
  const wal = beside.wal ? readWal(beside.wal, header.pageBytes) : { current: new Map<number, Uint8Array>(), older: [] }
  const database = openDatabase(source, header, wal.current)
  const live = new Ledger()
  const owners = new Map<number, TableSchema>()
  const schemas = schemasOf(database, owners)
  for (const table of schemas.filter((one) => one !== SCHEMA_TABLE)) readLive(database, table, owners, live)
  const dropped = droppedTables(database, schemas)
  const tables = [...schemas, ...dropped]
  const gone = goneRows({ database, owners, tables, live }, [
    ...wal.older.map((kept) => ({ ...kept, from: 'wal' as const })),
    ...(beside.journal ? readJournal(beside.journal, header.pageBytes) : []).map((kept) => ({
      ...kept,
      from: 'journal' as const,
    })),
    ...[...wal.current.keys()].flatMap((page) => {
      const bytes = filePage(database, page)
      return bytes ? [{ page, bytes, from: 'btree' as const }] : []
    }),
  ])
  return report(tables, live, gone)
}

function openDatabase(source: ByteSource, header: DatabaseHeader, current: ReadonlyMap<number, Uint8Array>): Database {
  const pages = Math.max(Math.ceil(source.size / header.pageBytes), ...current.keys())
  const database = { header, source, pages, current }
  const pageAt = (page: number) => (page > 0 && page <= pages ? (current.get(page) ?? filePage(database, page)) : null)
  return { ...database, layout: { usable: header.usable, encoding: header.encoding, pageAt } }
}

function filePage({ source, header }: Pick<Database, 'source' | 'header'>, page: number): Uint8Array | null {
  const bytes = source.read((page - 1) * header.pageBytes, header.pageBytes)
  return bytes.length === header.pageBytes ? bytes : null
}

/** The tables that the schema names, itself among them. */
function schemasOf(database: Database, owners: Map<number, TableSchema>): TableSchema[] {
  const tables: TableSchema[] = [SCHEMA_TABLE]
  for (const { values } of rowsIn(database, SCHEMA_TABLE, owners)) {
    const table = tableFrom(values)
    if (table && table.root > 0) tables.push(table)
  }
  return tables
}

function tableFrom(values: readonly Value[]): TableSchema | null {
  const [type, , , root, sql] = values
  return type === 'table' && typeof root === 'number' && typeof sql === 'string' ? readCreateTable(sql, root) : null
}

/** Tables that were dropped, as far as free space on the schema's pages still names them. */
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

/** Walks a table's tree from its root; each page once, so that a tree with a loop in it ends too. */
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
        if (read) yield { values: liveRow(table, read.values, read.rowid), rowid: read.rowid, complete: read.complete }
      } else if (page.kind !== 'table-inner') {
        // Rows of a table without row ids stand on inner pages too, behind the number of the child.
        const read = indexCell(bytes, page.kind === 'index-inner' ? cell + 4 : cell, layout)
        if (read) yield { values: liveRow(table, read.values, null), rowid: null, complete: read.complete }
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

/** The rows of each table, and by what they are known: their content, with and without their row id, and their row ids. */
class Ledger {
  readonly rows = new Map<TableSchema | null, ReportedRow[]>()
  private readonly contents = new Set<string>()
  private readonly rests = new Set<string>()
  private readonly ids = new Set<string>()
  /** by column and value the row that has it; null where several have */
  private readonly holders = new Map<string, ReportedRow | null>()

  add(table: TableSchema | null, row: ReportedRow) {
    const list = this.rows.get(table)
    if (list) list.push(row)
    else this.rows.set(table, [row])
    this.contents.add(keyOf(table, row.values))
    this.rests.add(keyOf(table, restOf(table, row.values)))
    if (row.rowid !== null) this.ids.add(keyOf(table, row.rowid))
    for (const [column, value] of row.values.entries()) {
      if (!isTelling(value)) continue
      const key = keyOf(table, [column, value])
      this.holders.set(key, this.holders.has(key) ? null : row)
    }
  }

  has(table: TableSchema | null, values: ReportedRow['values']) {
    return this.contents.has(keyOf(table, values))
  }

  hasBut(table: TableSchema | null, values: ReportedRow['values']) {
    return this.rests.has(keyOf(table, restOf(table, values)))
  }

  hasId(table: TableSchema | null, rowid: ReportedRow['rowid']) {
    return rowid !== null && this.ids.has(keyOf(table, rowid))
  }

  /** Whether a row here is the same one at another time: it alone has one of its values, and most of the others are equal. */
  hasVersionOf(table: TableSchema | null, values: ReportedRow['values']): boolean {
    return values.some((value, column) => {
      const holder = isTelling(value) ? this.holders.get(keyOf(table, [column, value])) : null
      if (!holder) return false
      const own = values.flatMap((one, at) => (one === null || at === table?.rowidColumn ? [] : [at]))
      const equal = own.filter((at) => JSON.stringify(values[at]) === JSON.stringify(holder.values[at]))
      return equal.length * 2 >= own.length
    })
  }
}

/** A value that hardly two rows share by chance. */
const isTelling = (value: ReportedRow['values'][number]) =>
  typeof value === 'string'
    ? value.length >= 4
    : typeof value === 'number'
      ? Math.abs(value) >= 100_000
      : value !== null

/** A row's values without the column that repeats its row id. */
const restOf = (table: TableSchema | null, values: ReportedRow['values']) =>
  values.filter((_, at) => at !== table?.rowidColumn)

const keyOf = (table: TableSchema | null, what: unknown) => `${table?.name ?? ''} ${JSON.stringify(what)}`

interface Search {
  readonly database: Database
  readonly owners: ReadonlyMap<number, TableSchema>
  readonly tables: readonly TableSchema[]
  readonly live: Ledger
}

/** Everything that is no live row, best evidence first, so that of two copies the better one is kept. */
function goneRows(search: Search, kept: readonly (KeptPage & { readonly from: Source })[]): Ledger {
  const { database, owners, tables, live } = search
  const gone = new Ledger()
  const later: (() => void)[] = []
  const take = (row: Found, source: Source) => {
    const add = () => enter(row, source, live, gone)
    // What has lost its row id waits: the same row may turn up whole.
    if (row.rowid === null) later.push(add)
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
      if (page?.kind === 'table-leaf')
        for (const row of cellRows(bytes, page, among(number), database.layout)) take(row, 'freelist')
      const stretch = { from: free.get(number)!, to: database.header.usable }
      for (const row of carve(bytes, stretch, among(number), database.layout, false)) take(row, 'freelist')
      if (page) for (const { row } of freeRows(bytes, page, among(number), database.layout)) take(row, 'freelist')
    } else if (page)
      for (const { row, source } of freeRows(bytes, page, among(number), database.layout)) take(row, source)
  }
  for (const { page: number, bytes, from } of kept) {
    const page = treePage(bytes, database.header.usable, number === 1)
    if (page?.kind !== 'table-leaf') continue
    for (const row of cellRows(bytes, page, among(number), database.layout)) take(row, from)
    for (const { row } of freeRows(bytes, page, among(number), database.layout)) take(row, from)
  }
  for (const add of later) add()
  return gone
}

/** Puts a row that was found into the ledger, unless it is known already. */
function enter(row: Found, source: Source, live: Ledger, gone: Ledger) {
  const { table } = row
  if (table === SCHEMA_TABLE) return
  const values = (table ? liveRow(table, row.values, row.rowid) : row.values).map(rowValue)
  const rowid = idOf(row.rowid)
  if (live.has(table, values) || gone.has(table, values)) return
  if (rowid === null && (live.hasBut(table, values) || gone.hasBut(table, values))) return
  const livesOn = rowid === null ? live.hasVersionOf(table, values) : live.hasId(table, rowid)
  const state = livesOn ? 'earlier' : 'deleted'
  gone.add(table, { state, rowid, values, source, complete: row.complete })
}

/** The cells of a leaf that is not part of the live tree. */
function cellRows(bytes: Uint8Array, page: TreePage, tables: readonly TableSchema[], layout: Layout): Found[] {
  return page.cells.flatMap((at) => {
    const cell = tableCell(bytes, at, layout.usable, layout)
    if (!cell) return []
    const table = bestFit(tables, cell.values)
    return [{ table, rowid: cell.rowid, values: cell.values, complete: cell.complete }]
  })
}

/** The rows in what a page does not use: its free blocks, and the gap before its first cell. */
function freeRows(
  bytes: Uint8Array,
  page: TreePage,
  tables: readonly TableSchema[],
  layout: Layout,
): { row: Found; source: Source }[] {
  // An inner page of a table was a leaf once, before the tree grew: what it held then may still stand in it.
  if (!page.kind.startsWith('table')) return []
  const isLeaf = page.kind === 'table-leaf'
  const blocks = page.freeblocks.flatMap((block) => carve(bytes, block, tables, layout, isLeaf))
  return [
    ...blocks.map((row) => ({ row, source: 'freeblock' as const })),
    ...carve(bytes, page.gap, tables, layout, false).map((row) => ({ row, source: 'unallocated' as const })),
  ]
}

/** The pages of the free list, with where their own content may begin: a trunk's list of leaves has been written over it. */
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

function report(tables: readonly TableSchema[], live: Ledger, gone: Ledger): RowsReport {
  const named = tables.filter((table) => table !== SCHEMA_TABLE && (table.root > 0 || gone.rows.has(table)))
  const none = gone.rows.get(null) ?? []
  return {
    format: ROWS_FORMAT,
    version: 1,
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
