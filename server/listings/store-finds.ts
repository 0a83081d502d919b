import { eq, sql, type Param, type Placeholder } from 'drizzle-orm'
import type { Handle } from '../cases/rows'
import type { Database } from '../db/open'
import { findBodies, finds } from '../db/tables'

/** A found item to be stored: the columns for counts and filters, and its body. */
export interface NewFind {
  readonly row: typeof finds.$inferInsert
  readonly body: string
}

const COLUMNS = [
  'listingId',
  'item',
  'name',
  'extension',
  'place',
  'type',
  'bytes',
  'made',
  'day',
  'goneAt',
  'presence',
  'whole',
  'wanted',
  'isSelected',
  'startByte',
] as const satisfies readonly (keyof NewFind['row'])[]

/** Statements as the query builder words them, run without it: long lists are stored row by row. */
function prepare(database: Database) {
  const values = Object.fromEntries(COLUMNS.map((column) => [column, sql.placeholder(column)]))
  const { sql: find, params } = database
    .insert(finds)
    .values(values as never)
    .returning({ id: finds.id })
    .toSQL()
  const body = { findId: sql.placeholder('findId'), body: sql.placeholder('body') }
  return {
    find: database.$client.prepare<unknown[], { id: number }>(find),
    columns: params.map((one) => ((one as Param).value as Placeholder).name as (typeof COLUMNS)[number]),
    body: database.$client.prepare(database.insert(findBodies).values(body).toSQL().sql),
  }
}

const prepared = new WeakMap<Database, ReturnType<typeof prepare>>()

/** Stores new finds, within the caller's open transaction; returns their numbers. */
export function insertFinds(database: Database, all: readonly NewFind[]): number[] {
  const { find, columns, body } = prepared.get(database) ?? prepare(database)
  if (!prepared.has(database)) prepared.set(database, { find, columns, body })
  return all.map(({ row, body: told }) => {
    const { id } = find.get(
      ...columns.map((column) => (column === 'isSelected' ? Number(row.isSelected ?? false) : (row[column] ?? null))),
    )!
    body.run(id, told)
    return id
  })
}

/** Updates a find; its number and selection stay. */
export function updateFind(handle: Handle, id: number, { row, body }: NewFind): void {
  handle.update(finds).set(row).where(eq(finds.id, id)).run()
  handle.update(findBodies).set({ body }).where(eq(findBodies.findId, id)).run()
}
