import { and, count, eq } from 'drizzle-orm'
import { sameValue } from '../../core/cases/shape/same-value'
import { readStored, updateCase, type Writer } from '../cases/rows'
import { finds, listings, shelfItems } from '../db/tables'
import type { ShelfRow } from './shelf'

/** Adds found, copied and verified items to the open run, per wanted set, with how many are whole. */
export function countIntoRun(code: string, writer: Writer) {
  const { database, clock } = useLantern()
  database.transaction(
    (transaction) => {
      const before = readStored(transaction, code)
      const run = before.case.runs.find((one) => one.ended === null)
      if (!run) return
      const shelf = before.case.wanted.map((set) => {
        const groups = transaction
          .select({ whole: shelfItems.whole, count: count() })
          .from(shelfItems)
          .where(
            and(
              eq(shelfItems.caseId, before.id),
              eq(shelfItems.runId, run.id),
              eq(shelfItems.wanted, set.id),
              eq(shelfItems.state, 'verified'),
            ),
          )
          .groupBy(shelfItems.whole)
          .all()
        const of = (whole: ShelfRow['whole']) => groups.find((one) => one.whole === whole)?.count ?? 0
        const found = transaction
          .select({ count: count() })
          .from(finds)
          .innerJoin(listings, eq(listings.id, finds.listingId))
          .where(and(eq(listings.caseId, before.id), eq(listings.runId, run.id), eq(finds.wanted, set.id)))
          .get()!.count
        const [whole, unverified, damaged] = [of('intact'), of('unverified'), of('partial')]
        const verified = whole + unverified + damaged
        return { wanted: set.id, found, copied: verified, verified, whole, unverified, damaged }
      })
      if (sameValue(shelf, run.shelf)) return
      const after = {
        ...before.case,
        runs: before.case.runs.map((one) => (one.id === run.id ? { ...one, shelf } : one)),
      }
      const verified = shelf.reduce((sum, one) => sum + one.verified, 0)
      const says = `put ${verified} wanted items on the shelf in this run, read back`
      updateCase(transaction, before, after, [{ kind: 'bench', fact: run.id, was: null, is: { says } }], {
        by: writer.by,
        now: clock.now(),
      })
    },
    { behavior: 'immediate' },
  )
}
