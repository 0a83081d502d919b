import { desc, eq, sql } from 'drizzle-orm'
import type { Database } from '../db/open'
import { looks } from '../db/tables'

const MAX_LISTED = 50

/** The looks of a case, the newest first, each with how many items it found. */
export function looksOf(database: Database, caseId: number) {
  return database
    .select({
      id: looks.id,
      link: looks.link,
      keep: looks.keep,
      title: looks.title,
      at: looks.at,
      state: looks.state,
      says: looks.says,
      // Written out: in a query of one table its columns come without their table, and both would be of the inner one.
      total: sql<number>`(select count(*) from finds where finds.look_id = looks.id)`,
    })
    .from(looks)
    .where(eq(looks.caseId, caseId))
    .orderBy(desc(looks.id))
    .limit(MAX_LISTED)
    .all()
}
