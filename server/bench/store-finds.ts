import { eq, sql } from 'drizzle-orm'
import type { Handle } from '../cases/rows'
import type { Database } from '../db/open'
import { findBodies, finds } from '../db/tables'

/** A found item on its way into the list: what is counted and filtered by, and all that is known of it. */
export interface NewFind {
  readonly row: typeof finds.$inferInsert
  readonly body: string
}

const COLUMNS = [
  'lookId',
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
  'isMarked',
  'lies',
] as const satisfies readonly (keyof NewFind['row'])[]

const EMPTY = { made: null, day: null, goneAt: null, wanted: null, isMarked: false, lies: null }

function prepare(database: Database) {
  const values = Object.fromEntries(COLUMNS.map((column) => [column, sql.placeholder(column)]))
  return {
    find: database
      .insert(finds)
      .values(values as never)
      .returning({ id: finds.id })
      .prepare(),
    body: database
      .insert(findBodies)
      .values({ findId: sql.placeholder('findId'), body: sql.placeholder('body') })
      .prepare(),
  }
}

const prepared = new WeakMap<Database, ReturnType<typeof prepare>>()

/** Stores new finds, within the transaction that its caller has open on the database; answers their numbers. */
export function insertFinds(database: Database, all: readonly NewFind[]): number[] {
  const statements = prepared.get(database) ?? prepare(database)
  prepared.set(database, statements)
  return all.map(({ row, body }) => {
    const { id: findId } = statements.find.get({ ...EMPTY, ...row })
    statements.body.run({ findId, body })
    return findId
  })
}

/** Stores what is new of a find that is there; its number and its mark stay. */
export function updateFind(handle: Handle, id: number, { row, body }: NewFind): void {
  handle.update(finds).set(row).where(eq(finds.id, id)).run()
  handle.update(findBodies).set({ body }).where(eq(findBodies.findId, id)).run()
}
