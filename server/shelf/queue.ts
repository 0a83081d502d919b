import { realpath } from 'node:fs/promises'
import { sep } from 'node:path'
import { eq, inArray } from 'drizzle-orm'
import { openRunsOf, runAt } from '../../core/cases/shape/open-runs'
import { SafePaths } from '../../core/bench/safe-path'
import { formatOnShelf } from '../../core/records/exports/registry'
import { liesOnSource } from '../../disk/same-medium'
import type { StoredCase } from '../cases/rows'
import { readStoredFind } from '../db/stored-find'
import type { finds, listings } from '../db/tables'
import { shelfItems } from '../db/tables'
import { refused } from '../failure'
import { attachedTo } from '../links/case-links'
import { mediumById } from '../links/register'
import { backupFolders } from '../links/folders'
import { shelfFolder } from './place'

/** A selected item of a listing, with its stored body. */
type Selected = typeof finds.$inferSelect & { readonly body: string }

/** Queues items for copying to the shelf, each under a path of its own. */
export function queueItems(
  stored: StoredCase,
  listing: Pick<typeof listings.$inferSelect, 'link' | 'runId'>,
  wanted: readonly Selected[],
  /** what their source is called, as the folder in which they lie on the shelf */
  source: string,
): void {
  // The run in which the items were listed, where it is still open.
  const run =
    openRunsOf(stored.case).find(({ id }) => id === listing.runId) ??
    runAt(stored.case, attachedTo(stored).find((one) => one.link === listing.link)?.part ?? null)
  useLantern().database.transaction(
    (transaction) => {
      const there = transaction.select().from(shelfItems).where(eq(shelfItems.caseId, stored.id)).all()
      const isQueued = new Set(
        there.flatMap((one) => (one.link === listing.link && one.state !== 'failed' ? one.item : [])),
      )
      const again = there.filter((one) => one.link === listing.link && one.state === 'failed').map((one) => one.id)
      if (again.length > 0) transaction.delete(shelfItems).where(inArray(shelfItems.id, again)).run()
      const paths = new SafePaths([
        ...there.filter((one) => !again.includes(one.id)).map((one) => one.path),
        'manifest.json',
        'SHA256SUMS',
        'safety-copies',
      ])
      // Somebody may have queued the same item a moment ago.
      for (const one of wanted.filter(({ item }) => !isQueued.has(item))) {
        const body = readStoredFind(one.body)
        const name = body.record ? `${one.name}.${formatOnShelf(body.record.kind).extension}` : one.name
        transaction
          .insert(shelfItems)
          .values({
            caseId: stored.id,
            runId: run?.id ?? null,
            link: listing.link,
            item: one.item,
            name: one.name,
            type: one.type,
            path: paths.pathFor([source, body.keepTitle, ...body.place], name),
            bytes: one.bytes,
            wanted: one.wanted,
            whole: one.whole,
            state: 'waiting',
            body: one.body,
          })
          .run()
      }
    },
    { behavior: 'immediate' },
  )
}

/**
 * Throws a Failure where the source contains the shop's folder or is on the same medium: the shelf is never on the
 * source.
 */
export async function refuseSource(code: string, link: string): Promise<void> {
  const shelf = await realpath(await shelfFolder(code))
  const medium = await mediumById(link)
  if (medium && !medium.isStandIn && liesOnSource(shelf, medium.place.path))
    throw refused('The shelf is on the medium that is read; nothing is ever written to a source.')
  for (const folder of await backupFolders()) {
    const source = await realpath(folder).catch(() => null)
    if (source && (shelf === source || shelf.startsWith(source + sep) || source.startsWith(shelf + sep)))
      throw refused('The shelf is inside a folder that is read from; nothing is ever written to a source.')
  }
}
