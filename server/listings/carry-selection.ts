import { and, eq, inArray, ne } from 'drizzle-orm'
import type { Handle } from '../cases/rows'
import { finds, listings } from '../db/tables'

/** Carries the selection of the previous listing of the same place over to this one and deletes the previous one. */
export function carrySelection(handle: Handle, listingId: number): void {
  handle.transaction((transaction) => {
    const listing = transaction.select().from(listings).where(eq(listings.id, listingId)).get()
    if (!listing) return
    const older = transaction
      .select({ id: listings.id })
      .from(listings)
      .where(
        and(
          eq(listings.caseId, listing.caseId),
          eq(listings.link, listing.link),
          eq(listings.keep, listing.keep),
          ne(listings.id, listingId),
        ),
      )
      .all()
      .map((one) => one.id)
    if (older.length === 0) return
    const selected = transaction
      .select({ item: finds.item })
      .from(finds)
      .where(and(inArray(finds.listingId, older), eq(finds.isSelected, true)))
    transaction
      .update(finds)
      .set({ isSelected: true })
      .where(and(eq(finds.listingId, listingId), inArray(finds.item, selected)))
      .run()
    transaction.delete(listings).where(inArray(listings.id, older)).run()
  })
}
