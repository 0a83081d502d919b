import { and, eq, inArray } from 'drizzle-orm'
import { readStored, type Writer } from '../cases/rows'
import { passes } from '../db/tables'
import { wishOfPass } from '../passes/passes'
import { stopHandout } from '../shelf/hand-out'
import { stopCopying } from '../shelf/shelf-copying'

/** Everything that is under way in a case stops where it is: scans pause, copying ends. What is there stays. */
export async function standStill(code: string, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const { id } = readStored(database, code)
  stopCopying(code)
  stopHandout(code)
  const running = database
    .select({ id: passes.id })
    .from(passes)
    .where(and(eq(passes.caseId, id), inArray(passes.state, ['queued', 'running'])))
    .all()
  for (const pass of running) await wishOfPass(code, pass.id, 'pause', writer)
}
