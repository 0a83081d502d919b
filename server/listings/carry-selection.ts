import { and, eq, inArray, ne } from 'drizzle-orm'
import type { Handle } from '../cases/rows'
import { finds, looks } from '../db/tables'

/** What was selected when the same place was looked into before stays selected; the older look goes. */
export function carrySelection(handle: Handle, lookId: number): void {
  handle.transaction((transaction) => {
    const look = transaction.select().from(looks).where(eq(looks.id, lookId)).get()
    if (!look) return
    const older = transaction
      .select({ id: looks.id })
      .from(looks)
      .where(
        and(eq(looks.caseId, look.caseId), eq(looks.link, look.link), eq(looks.keep, look.keep), ne(looks.id, lookId)),
      )
      .all()
      .map((one) => one.id)
    if (older.length === 0) return
    const selected = transaction
      .select({ item: finds.item })
      .from(finds)
      .where(and(inArray(finds.lookId, older), eq(finds.isSelected, true)))
    transaction
      .update(finds)
      .set({ isSelected: true })
      .where(and(eq(finds.lookId, lookId), inArray(finds.item, selected)))
      .run()
    transaction.delete(looks).where(inArray(looks.id, older)).run()
  })
}
