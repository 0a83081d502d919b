import { createWriteStream } from 'node:fs'
import { rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { desc, eq } from 'drizzle-orm'
import { safeName } from '../../core/finding/safe-path'
import { LinkFailure, linkFailure } from '../../core/links/fault'
import type { FetchShape } from '../../core/links/bench'
import type { Link } from '../../core/links/link'
import { readStored, type Writer } from '../cases/rows'
import { fetches } from '../db/tables'
import { notFound, refused } from '../failure'
import { archiveIdOf } from './archive-links'
import { put, requireAttached } from './case-links'
import { checksumOf } from './checksums'
import { fetchedFolder } from './folders'
import { faultWords } from './link-failures'
import { linkById } from './links'
import { noteAtBench } from './notes'
import { shelfRoom } from './shelf'

const TRIES = 5

/** Fetches a backup from an account or a computer onto the bench, where it is read; what it came from stays as it is. */
export async function fetchBackup(code: string, linkId: string, keepId: string, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const { part } = requireAttached(stored, linkId)
  const link = await linkById(linkId)
  const keep = (await link.state()).keeps.find((one) => one.id === keepId)
  if (!keep?.backup && keep?.kind !== 'image') throw notFound('such backup on it')
  if (keep.backup && !keep.backup.isSelective)
    throw refused('This backup can only be restored whole; it gives nothing out.')
  const [item] = (await link.list(keepId, 0)).items
  if (!item) throw notFound('archive of this backup')
  const room = await shelfRoom()
  if (item.bytes > room) throw refused(`There is room for ${room} bytes and the backup takes ${item.bytes}.`)
  const folder = await fetchedFolder(code)
  const path = join(folder, safeName(`${linkId} ${keepId}.zip`))
  const old = database.select().from(fetches).where(eq(fetches.path, path)).get()
  if (old?.state === 'running') return
  const values = {
    caseId: stored.id,
    link: linkId,
    keep: keepId,
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
    `began to fetch “${keep.title}” of ${keep.asOf?.slice(0, 10) ?? 'no date'} onto the bench`,
    writer,
  )
  void bring(link, keepId, item.id, path, item.sha256).then(
    async () => {
      database.update(fetches).set({ state: 'done', says: '' }).where(eq(fetches.id, id)).run()
      const becomes = await archiveIdOf(path)
      put(stored, `x${id}-${part}`, becomes, { by: writer.by, now: useLantern().clock.now() })
    },
    (error) =>
      database
        .update(fetches)
        .set({ state: 'stopped', says: faultWords(error) })
        .where(eq(fetches.id, id))
        .run(),
  )
}

async function bring(link: Link, keep: string, item: string, path: string, sha256: string | null): Promise<void> {
  const part = `${path}.part`
  for (let tries = 1; ; tries++) {
    const have = await sizeOf(part)
    try {
      const out = createWriteStream(part, { flags: have > 0 ? 'a' : 'w', mode: 0o600, flush: true })
      try {
        for await (const chunk of await link.read(keep, item, have))
          if (!out.write(chunk)) await new Promise((done) => out.once('drain', done))
      } finally {
        await new Promise((done) => out.end(done))
      }
      break
    } catch (error) {
      if (!(error instanceof LinkFailure) || error.fault.fault !== 'interrupted' || tries >= TRIES) throw error
    }
  }
  if (sha256 !== null && (await checksumOf(part)).sha256 !== sha256) {
    await rm(part, { force: true })
    throw linkFailure(
      'damaged',
      'The backup arrived damaged: its checksum is another one. Nothing was changed; fetch it again.',
    )
  }
  await rename(part, path)
}

const sizeOf = (path: string) =>
  stat(path).then(
    (facts) => facts.size,
    () => 0,
  )

/** Every backup that was fetched for a case, or is on its way. */
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
      state: row.state,
      says: row.says,
      becomes: row.state === 'done' ? await archiveIdOf(row.path).catch(() => null) : null,
    })),
  )
}

/** Fetches that ran when the server ended wait to be gone on with. */
export function stopFetchesOfBefore(): void {
  useLantern()
    .database.update(fetches)
    .set({ state: 'stopped', says: 'The server was started again meanwhile; go on where it stopped.' })
    .where(eq(fetches.state, 'running'))
    .run()
}
