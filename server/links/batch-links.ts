import { realpath } from 'node:fs/promises'
import { and, desc, eq } from 'drizzle-orm'
import { linkFailure } from '../../core/bench/fault'
import type { LinkSummary } from '../../core/bench/state'
import { batches } from '../db/tables'
import type { StoredCase, Writer } from '../cases/rows'
import { linkToPath } from './archive-links'
import { put } from './case-links'
import type { LinkProvider } from './provider'

export type Batch = typeof batches.$inferSelect

const PREFIX = 'batch-'

export const linkOfBatch = (id: number): string => `${PREFIX}${id}`

const summaryOf = ({ id, kind, title }: Batch): LinkSummary => ({
  id: linkOfBatch(id),
  kind: kind === 'by-hand' ? 'batch' : 'backups',
  title: `${kind === 'by-hand' ? 'By hand' : 'Safety copy'}: ${title}`.slice(0, 160),
  platform: 'folder',
  isStandIn: false,
})

/** Stores a batch and attaches it to its case, in one transaction; returns its link. `partOf`: the part by its number. */
export function keepBatch(
  stored: Pick<StoredCase, 'id'>,
  batch: Pick<Batch, 'kind' | 'runId' | 'title' | 'path' | 'folder'>,
  partOf: (id: number) => string,
  writer: Writer,
): string {
  const { database } = useLantern()
  return database.transaction(
    () => {
      const at = new Date(writer.now).toISOString()
      const { id } = database
        .insert(batches)
        .values({ ...batch, caseId: stored.id, at, by: writer.by })
        .returning({ id: batches.id })
        .get()
      put(stored, partOf(id), linkOfBatch(id), writer)
      return linkOfBatch(id)
    },
    { behavior: 'immediate' },
  )
}

/** The batch behind a link; null where it is the link of something else. */
export function batchOfLink(link: string): Batch | null {
  const id = link.startsWith(PREFIX) ? Number(link.slice(PREFIX.length)) : Number.NaN
  if (!Number.isInteger(id)) return null
  return useLantern().database.select().from(batches).where(eq(batches.id, id)).get() ?? null
}

/** The batches of a case, the newest first. */
export const batchesOf = (caseId: number): Batch[] =>
  useLantern()
    .database.select()
    .from(batches)
    .where(and(eq(batches.caseId, caseId)))
    .orderBy(desc(batches.id))
    .all()

/**
 * Files that a technician fetched by hand. They belong to their case: no other case can have them attached, so they are
 * not in the list of links.
 */
export const broughtFiles: LinkProvider = {
  name: 'batches',
  list: async () => [],
  async byId(id) {
    const batch = batchOfLink(id)
    if (!batch) return null
    // What somebody put in its place since, such as a symbolic link, could lead anywhere.
    const real = await realpath(batch.path).catch(() => null)
    if (real !== batch.path) throw linkFailure('not-found', 'The folder is no longer where it was.')
    return linkToPath(batch.path, summaryOf(batch))
  },
}
