import { desc, eq, sql } from 'drizzle-orm'
import type { Database } from '../db/open'
import { listings } from '../db/tables'

const MAX_LISTED = 50

/** The listings of a case, newest first, each with its number of items. */
export function listingsOf(database: Database, caseId: number) {
  return database
    .select({
      id: listings.id,
      link: listings.link,
      keep: listings.keep,
      title: listings.title,
      at: listings.at,
      state: listings.state,
      says: listings.says,
      // Written as text: in a query of one table, columns have no table prefix, and both would refer to the inner one.
      total: sql<number>`(select count(*) from finds where finds.listing_id = listings.id)`,
    })
    .from(listings)
    .where(eq(listings.caseId, caseId))
    .orderBy(desc(listings.id))
    .limit(MAX_LISTED)
    .all()
}
