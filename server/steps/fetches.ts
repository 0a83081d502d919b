import { join } from 'node:path'
import { desc, eq } from 'drizzle-orm'
import { sayBytes } from '../../core/cases/telling/saying/amounts'
import { dayIn } from '../../core/bench/days'
import { safeName } from '../../core/bench/safe-path'
import type { FetchShape } from '../../core/bench/bench'
import type { LinkItem } from '../../core/bench/item'
import type { Keep } from '../../core/bench/keep'
import type { Link } from '../../core/bench/link'
import { readStored, type StoredCase, type Writer } from '../cases/rows'
import { fetches } from '../db/tables'
import { notFound, refused } from '../failure'
import { readPlaybook } from '../settings'
import { archiveIdOf } from '../links/archive-links'
import { requireConsent } from '../cases/consent'
import { put, requireAttached } from '../links/case-links'
import { asDiskFault } from '../links/disk-fault'
import { fetchedFolder } from '../links/folders'
import { faultWords } from '../links/link-failures'
import { linkById } from '../links/links'
import { noteAtBench } from '../links/notes'
import { promiseRoom, type Promised } from '../shelf/room'
import { sizeOf, transfer } from '../shelf/transfer'
import { logFault } from '../log-fault'

/** Fetches a backup from an account or a computer to the bench, where it is read; its source does not change. */
export async function fetchBackup(code: string, linkId: string, keepId: string, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const { part } = requireAttached(stored, linkId)
  requireConsent(stored)
  const link = await linkById(linkId)
  const keep = (await link.state()).keeps.find((one) => one.id === keepId)
  if (!keep?.backup && keep?.kind !== 'image') throw notFound('such backup on it')
  if (keep.backup && !keep.backup.isSelective)
    throw refused('This backup can only be restored completely; single items cannot be read.')
  const [item] = (await link.list(keepId, 0)).items
  if (!item) throw notFound('archive of this backup')
  const folder = await fetchedFolder(code)
  const path = join(folder, safeName(`${linkId} ${keepId}.zip`))
  if (running.has(path)) return
  running.add(path)
  try {
    const have = await sizeOf(`${path}.part`)
    const promised = await promiseRoom(
      Math.max(0, item.bytes - have),
      (room) => `There is room for ${sayBytes(room)} and the backup takes ${sayBytes(item.bytes - have)}.`,
      'data',
    )
    start({ code, stored, part, link, linkId, keep, item, path }, promised, writer)
  } catch (error) {
    running.delete(path)
    throw error
  }
}

/** Paths to which this server is fetching a backup. */
const running = new Set<string>()

interface Fetching {
  readonly code: string
  readonly stored: StoredCase
  readonly part: string
  readonly link: Link
  readonly linkId: string
  readonly keep: Keep
  readonly item: LinkItem
  readonly path: string
}

function start({ code, stored, part, link, linkId, keep, item, path }: Fetching, promised: Promised, writer: Writer) {
  const { database } = useLantern()
  const old = database.select().from(fetches).where(eq(fetches.path, path)).get()
  const values = {
    caseId: stored.id,
    link: linkId,
    keep: keep.id,
    title: keep.title,
    path,
    total: item.bytes,
    sha256: item.sha256,
    state: 'running' as const,
    says: '',
  }
  const id = old
    ? (database.update(fetches).set(values).where(eq(fetches.id, old.id)).run(), old.id)
    : database.insert(fetches).values(values).returning({ id: fetches.id }).get().id
  noteAtBench(
    code,
    linkId,
    `started fetching “${keep.title}” of ${keep.asOf ? dayIn(readPlaybook(database).shop.zone, Date.parse(keep.asOf)) : 'no date'} onto the bench`,
    writer,
  )
  const { bytes, sha256 } = item
  const end = (values: Partial<typeof fetches.$inferInsert>) =>
    database.update(fetches).set(values).where(eq(fetches.id, id)).run()
  void transfer({ open: (from) => link.read(keep.id, item.id, from), bytes, sha256 }, path, { keepsPart: true })
    .then(async () => {
      end({ state: 'done', says: '' })
      put(stored, `x${id}-${part}`, await archiveIdOf(path), { by: writer.by, now: useLantern().clock.now() })
    })
    .catch((error) => end({ state: 'stopped', says: faultWords(asDiskFault(error)) }))
    .catch((error) => logFault(error))
    .finally(() => {
      running.delete(path)
      promised.release()
    })
}

/** Every backup that was fetched for a case, or is being fetched. */
export async function fetchesOf(caseId: number): Promise<FetchShape[]> {
  const rows = useLantern()
    .database.select()
    .from(fetches)
    .where(eq(fetches.caseId, caseId))
    .orderBy(desc(fetches.id))
    .all()
  return Promise.all(
    rows.map(async (row) => ({
      id: row.id,
      link: row.link,
      keep: row.keep,
      title: row.title,
      total: row.total,
      done: row.state === 'done' ? row.total : await sizeOf(`${row.path}.part`),
      // A fetch that nobody works on has stopped, whatever its row says.
      ...(row.state === 'running' && !running.has(row.path)
        ? { state: 'stopped' as const, says: 'Fetching stopped unexpectedly. Fetch it again to continue.' }
        : { state: row.state, says: row.says }),
      becomes: row.state === 'done' ? await archiveIdOf(row.path).catch(() => null) : null,
    })),
  )
}

/** Fetches that ran when the server ended can be resumed. */
export function stopFetchesOfBefore(): void {
  useLantern()
    .database.update(fetches)
    .set({ state: 'stopped', says: 'The server restarted. Fetch it again to continue from where it stopped.' })
    .where(eq(fetches.state, 'running'))
    .run()
}
