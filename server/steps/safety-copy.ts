import { sayBytes } from '../../core/cases/telling/saying/amounts'
import { realpath, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { and, desc, eq } from 'drizzle-orm'
import { packBackup, zipOf, type BackupSource } from '../archives/write-backup'
import { linkFailure } from '../../core/bench/fault'
import type { Keep } from '../../core/bench/keep'
import { readWhole, type Link } from '../../core/bench/link'
import type { LinkState } from '../../core/bench/state'
import { readStored, type StoredCase, type Writer } from '../cases/rows'
import { recordSafetyCopy } from '../cases/writing/runs'
import { safetyCopies } from '../db/tables'
import type { ArchiveOrder } from '../threads/archive-messages'
import { LimitFault, ProcessLine } from '../threads/process-line'
import { refused } from '../failure'
import { requireConsent } from '../cases/consent'
import { requireAttached } from '../links/case-links'
import { checksumOf } from '../shelf/checksums'
import { asFailure } from '../links/link-failures'
import { linkById } from '../links/links'
import { keepBatch } from '../links/batch-links'
import { dayIn } from '../../core/bench/days'
import { readPlaybook } from '../settings'
import { noteAtBench } from '../links/notes'
import { promiseRoom } from '../shelf/room'
import { shelfFolder } from '../shelf/place'
import { transfer, type Arrived } from '../shelf/transfer'

/**
 * What a safety copy contains: everything that a step could destroy. Bins empty themselves, and backups are not
 * touched.
 */
const TAKEN: readonly Keep['kind'][] = ['library', 'files', 'apps']
const MAX_ITEM_BYTES = 1 << 30

type Row = typeof safetyCopies.$inferSelect

/**
 * Copies everything on a device or in an account into an archive on the shop's own disk, where it replaces no backup,
 * and reads every item back; sealed where a password is given, which is never stored. The copy becomes a link of the case, to
 * be opened and put back like any backup. Throws a Failure while part of it cannot be read.
 */
export async function makeSafetyCopy(
  code: string,
  linkId: string,
  password: string | null,
  writer: Writer,
): Promise<void> {
  const stored = readStored(useLantern().database, code)
  const { part } = requireAttached(stored, linkId)
  requireConsent(stored)
  const link = await linkById(linkId)
  const state = await link.state()
  const keeps = state.keeps.filter((one) => TAKEN.includes(one.kind) && one.isOn)
  const closed = keeps.find((one) => one.closed !== null)
  if (closed) throw refused(`“${closed.title}” cannot be read yet and would be missing: ${closed.closed}`)
  if (keeps.length === 0) throw refused('Nothing on it can be read yet, so there is nothing to copy.')
  const bytes = keeps.reduce((sum, one) => sum + one.bytes, 0)
  const at = new Date(writer.now).toISOString()
  const path = join(await shelfFolder(code), 'safety-copies', `${linkId} ${at.replace(/[:.]/g, '-')}.zip`)
  const promised = await promiseRoom(
    bytes,
    (room) => `There is room for ${sayBytes(room)} and the safety copy takes ${sayBytes(bytes)}.`,
  )
  try {
    const items = await itemsOf(link, keeps)
    const source = sourceOf(state, keeps, items, at)
    const arrived = await transfer(
      { open: async () => zipOf(packBackup(source, password)), bytes: null, sha256: null },
      path,
    )
    await verify(path, items.length, password)
    await keepIfUnchanged({ code, stored, part, link, state, path, at, items: items.length }, arrived, writer)
  } catch (error) {
    // A copy that failed its check is none.
    await rm(path, { force: true })
    throw asFailure(error)
  } finally {
    promised.release()
  }
}

interface Made {
  readonly code: string
  readonly stored: StoredCase
  readonly part: string
  readonly link: Link
  /** the fingerprint of its contents when the copy was started */
  readonly state: LinkState
  readonly path: string
  readonly at: string
  readonly items: number
}

async function keepIfUnchanged(
  { code, stored, part, link, state, path, at, items }: Made,
  { bytes, sha256 }: Arrived,
  writer: Writer,
): Promise<void> {
  const { database, clock } = useLantern()
  // What changed during the copy is not in it.
  const after = await link.state()
  if (after.mark !== state.mark)
    throw refused('It changed during copying. Take it off the network and make the safety copy again.')
  database
    .insert(safetyCopies)
    .values({
      caseId: stored.id,
      link: state.id,
      at,
      by: writer.by,
      mark: state.mark,
      path,
      items,
      bytes,
      sha256,
      verifiedAt: new Date(clock.now()).toISOString(),
    })
    .run()
  const { zone } = readPlaybook(database).shop
  const title = `${state.title}, ${dayIn(zone, Date.parse(at))}`
  keepBatch(
    stored,
    { kind: 'safety-copy', runId: null, title, path: await realpath(path), folder: null },
    (id) => `safety-${id}`,
    writer,
  )
  recordSafetyCopy(
    database,
    code,
    part,
    {
      isReadBack: true,
      items,
      place: 'in the safety copies on the case’s shelf',
      note: `${items} items of “${state.title}”, read back at the bench`,
    },
    writer,
  )
  noteAtBench(code, state.id, `made a safety copy of “${state.title}”: ${items} items, read back`, writer)
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
          bytes: async () => readWhole(await link.read(keep.id, item.id), MAX_ITEM_BYTES),
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

const VERIFY_LIMITS = { ms: 30 * 60_000, bytes: 3 * 1024 ** 3 }

/** Has a process beside the server read back every item of the archive; throws a LinkFailure where one differs. */
async function verify(path: string, items: number, password: string | null): Promise<void> {
  const line = new ProcessLine('read-archive', VERIFY_LIMITS)
  try {
    await line.ask({ ask: 'verify', path, items, password: password ?? '' } satisfies ArchiveOrder)
  } catch (error) {
    throw error instanceof LimitFault ? linkFailure('damaged', `It could not be read back. ${error.message}`) : error
  } finally {
    line.end()
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

/** Whether a verified safety copy of the present contents of a link is on the disk, unchanged. */
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
