import { createHash } from 'node:crypto'
import { mkdir, rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { and, desc, eq } from 'drizzle-orm'
import { openBackup } from '../archives/backup'
import { packBackup, writeZip, type BackupSource } from '../archives/write-backup'
import { linkFailure } from '../../core/links/fault'
import type { Keep } from '../../core/links/keep'
import { readWhole, type Link } from '../../core/links/link'
import type { LinkState } from '../../core/links/state'
import { readStored, type Writer } from '../cases/rows'
import { recordSafetyCopy } from '../cases/write'
import { safetyCopies } from '../db/tables'
import { refused } from '../failure'
import { requireAttached } from './case-links'
import { checksumOf } from './checksums'
import { linkById } from './links'
import { noteAtBench } from './notes'
import { shelfFolder, shelfRoom } from './shelf'

/** What a safety copy takes: all that a step could take away. Bins run out by themselves, and backups stay. */
const TAKEN: readonly Keep['kind'][] = ['library', 'files', 'apps']
const MOST_ITEM_BYTES = 1 << 30

type Row = typeof safetyCopies.$inferSelect

/**
 * Copies all that a device or an account holds into an archive on the shop's own disk, where it takes no
 * backup's place, and reads every item of it back. Refused while part of it can not be read.
 */
export async function makeSafetyCopy(code: string, linkId: string, writer: Writer): Promise<void> {
  const { database, clock } = useLantern()
  const stored = readStored(database, code)
  const { part } = requireAttached(stored, linkId)
  const link = await linkById(linkId)
  const state = await link.state()
  const keeps = state.keeps.filter((one) => TAKEN.includes(one.kind) && one.isOn)
  const closed = keeps.find((one) => one.closed !== null)
  if (closed) throw refused(`“${closed.title}” can not be read yet, and would be missing: ${closed.closed}`)
  if (keeps.length === 0) throw refused('Nothing on it can be read yet: there is nothing to make a safety copy of.')
  const bytes = keeps.reduce((sum, one) => sum + one.bytes, 0)
  const room = await shelfRoom()
  if (bytes > room) throw refused(`There is room for ${room} bytes and the safety copy takes ${bytes}.`)
  const folder = join(await shelfFolder(code), 'safety-copies')
  await mkdir(folder, { recursive: true, mode: 0o700 })
  const at = new Date(writer.now).toISOString()
  const path = join(folder, `${linkId} ${at.replace(/[:.]/g, '-')}.zip`)
  const items = await itemsOf(link, keeps)
  try {
    await writeZip(`${path}.part`, packBackup(sourceOf(state, keeps, items, at), null))
    await verify(`${path}.part`, items.length)
    await rename(`${path}.part`, path)
  } catch (error) {
    await rm(`${path}.part`, { force: true })
    throw error
  }
  // Whatever changed while it was read is not in it.
  const after = await link.state()
  if (after.mark !== state.mark) {
    await rm(path, { force: true })
    throw refused('It changed while it was copied. Take it off the network, and make the safety copy again.')
  }
  const { size } = await stat(path)
  database
    .insert(safetyCopies)
    .values({
      caseId: stored.id,
      link: linkId,
      at,
      by: writer.by,
      mark: state.mark,
      path,
      items: items.length,
      bytes: size,
      sha256: (await checksumOf(path)).sha256,
      verifiedAt: new Date(clock.now()).toISOString(),
    })
    .run()
  recordSafetyCopy(database, code, part, `${items.length} items of “${state.title}”, read back at the bench`, writer)
  noteAtBench(code, linkId, `made a safety copy of “${state.title}”: ${items.length} items, read back`, writer)
}

async function itemsOf(link: Link, keeps: readonly Keep[]): Promise<BackupSource['items'][number][]> {
  const items: BackupSource['items'][number][] = []
  for (const keep of keeps)
    for (let after: number | null = 0; after !== null;) {
      const page = await link.list(keep.id, after)
      after = page.next
      for (const item of page.items)
        items.push({
          keep: keep.id,
          item,
          bytes: async () => readWhole(await link.read(keep.id, item.id), MOST_ITEM_BYTES),
        })
    }
  return items
}

function sourceOf(state: LinkState, keeps: readonly Keep[], items: BackupSource['items'], taken: string): BackupSource {
  return {
    device: { id: state.id, title: state.title, platform: state.platform },
    account: state.account?.name ?? null,
    taken,
    keepsBins: false,
    keeps: keeps.map(({ id, kind, title, types, periodDays, isOn }) => ({ id, kind, title, types, periodDays, isOn })),
    items,
  }
}

/** Opens the archive like any backup and reads every item; one that is not what was copied is a LinkFailure. */
async function verify(path: string, count: number): Promise<void> {
  const backup = await openBackup(path, '')
  try {
    if (backup.index.items.length !== count || backup.warnings.length > 0)
      throw linkFailure('damaged', 'The safety copy does not hold what was copied; make it again.')
    for (const item of backup.index.items) {
      const hash = createHash('sha256')
      for await (const part of backup.read(item)) hash.update(part)
      if (item.sha256 !== null && hash.digest('hex') !== item.sha256)
        throw linkFailure('damaged', `“${item.name}” is damaged in the safety copy; make it again.`)
    }
  } finally {
    await backup.close()
  }
}

export function safetyCopiesOf(caseId: number): Row[] {
  return useLantern()
    .database.select()
    .from(safetyCopies)
    .where(eq(safetyCopies.caseId, caseId))
    .orderBy(desc(safetyCopies.id))
    .all()
}

/** Whether a verified safety copy of what a thing holds now is still on the disk, unchanged. */
export async function hasSafetyCopy(caseId: number, linkId: string, mark: string): Promise<boolean> {
  const rows = useLantern()
    .database.select()
    .from(safetyCopies)
    .where(and(eq(safetyCopies.caseId, caseId), eq(safetyCopies.link, linkId), eq(safetyCopies.mark, mark)))
    .all()
  for (const row of rows) {
    if (row.verifiedAt === null) continue
    const found = await checksumOf(row.path).catch(() => null)
    if (found?.sha256 === row.sha256) return true
  }
  return false
}
