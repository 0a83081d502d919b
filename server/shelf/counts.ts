import { and, count, eq } from 'drizzle-orm'
import { openRunsOf } from '../../core/cases/shape/open-runs'
import type { Run } from '../../core/cases/shape/run'
import { sameValue } from '../../core/cases/shape/same-value'
import { readStored, updateCase, type Handle, type Happening, type StoredCase, type Writer } from '../cases/rows'
import { finds, listings, shelfItems } from '../db/tables'
import type { ShelfRow } from './shelf'

/** Adds found, copied and verified items to the open runs, per wanted set, with how many are whole. */
export function countIntoRuns(code: string, writer: Writer) {
  const { database, clock } = useLantern()
  database.transaction(
    (transaction) => {
      const before = readStored(transaction, code)
      const happenings: Happening[] = []
      const counted = new Map<string, Run['shelf']>()
      for (const run of openRunsOf(before.case)) {
        const shelf = shelfOf(transaction, before, run)
        if (sameValue(shelf, run.shelf)) continue
        const verified = shelf.reduce((sum, one) => sum + one.verified, 0)
        const says = `put ${verified} wanted items on the shelf in the run “${run.title}”, read back`
        counted.set(run.id, shelf)
        happenings.push({ kind: 'bench', fact: run.id, was: null, is: { says } })
      }
      if (counted.size === 0) return
      const runs = before.case.runs.map((run) => ({ ...run, shelf: counted.get(run.id) ?? run.shelf }))
      updateCase(transaction, before, { ...before.case, runs }, happenings, { by: writer.by, now: clock.now() })
    },
    { behavior: 'immediate' },
  )
}

function shelfOf(handle: Handle, { id: caseId, case: ofCase }: StoredCase, run: Run): Run['shelf'] {
  return ofCase.wanted.map((set) => {
    const groups = handle
      .select({ whole: shelfItems.whole, count: count() })
      .from(shelfItems)
      .where(
        and(
          eq(shelfItems.caseId, caseId),
          eq(shelfItems.runId, run.id),
          eq(shelfItems.wanted, set.id),
          eq(shelfItems.state, 'verified'),
        ),
      )
      .groupBy(shelfItems.whole)
      .all()
    const of = (whole: ShelfRow['whole']) => groups.find((one) => one.whole === whole)?.count ?? 0
    const found = handle
      .select({ count: count() })
      .from(finds)
      .innerJoin(listings, eq(listings.id, finds.listingId))
      .where(and(eq(listings.caseId, caseId), eq(listings.runId, run.id), eq(finds.wanted, set.id)))
      .get()!.count
    const [whole, unverified, damaged] = [of('intact'), of('unverified'), of('partial')]
    const verified = whole + unverified + damaged
    return { wanted: set.id, found, copied: verified, verified, whole, unverified, damaged }
  })
}
