import { desc, eq } from 'drizzle-orm'
import type { Handout } from '../../core/bench/shelf'
import { handouts } from '../db/tables'

/** Cases whose shelf is being copied out by this server. */
export const handingOut = new Set<number>()

/** The copy of a shelf that was started last. One that nobody works on has stopped, whatever its row says. */
export function latestHandout(caseId: number): Handout | null {
  const row = useLantern()
    .database.select()
    .from(handouts)
    .where(eq(handouts.caseId, caseId))
    .orderBy(desc(handouts.id))
    .limit(1)
    .get()
  if (!row) return null
  const { id, path, layout, state, says, done, total } = row
  const isLost = state === 'running' && !handingOut.has(caseId)
  return { id, path, layout, done, total, ...(isLost ? { state: 'stopped', says: LOST } : { state, says }) }
}

const LOST = 'Copying stopped unexpectedly. Start it again.'

/** Copies that ran when the server ended are started again by hand. */
export function stopHandoutsOfBefore(): void {
  useLantern()
    .database.update(handouts)
    .set({ state: 'stopped', says: 'The server restarted. Start the copy again.' })
    .where(eq(handouts.state, 'running'))
    .run()
}
