import { createReadStream } from 'node:fs'
import { mkdir, open, rename, rm, stat, utimes } from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import { and, eq } from 'drizzle-orm'
import { safeName } from '../../core/bench/safe-path'
import type { HandoutLayout } from '../../core/bench/shelf'
import { sayBytes } from '../../core/cases/telling/saying/amounts'
import { bagTags, PAYLOAD, plainTags, type TagFile } from '../../core/handover/bag'
import { readMe } from '../../core/handover/read-me'
import { printedHead } from '../../core/history/chain'
import { nameable } from '../../disk/nameable'
import { liesOnSource } from '../../disk/same-medium'
import { requireConsent } from '../cases/consent'
import { noteHappening, readStored, type Writer } from '../cases/rows'
import { iso } from '../cases/writing/writing'
import { historyHead } from '../db/history/entries'
import { readStoredFind } from '../db/stored-find'
import { handouts } from '../db/tables'
import { invalid, refused } from '../failure'
import { attachedTo } from '../links/case-links'
import { asDiskFault, DiskFault } from '../links/disk-fault'
import { mediumById } from '../links/register'
import { freeIn, handoutFolders } from './hand-out-folders'
import { handingOut } from './hand-out-state'
import { shelfFolder } from './place'
import { verifiedItems, type ShelfRow } from './shelf'
import { atOnce, transfer } from './transfer'
import { logFault } from '../log-fault'

/**
 * Starts to copy everything on a shelf into a new folder: each file is checked against its checksum, flushed, and read back.
 * Throws a Failure where the place is not one that the owner named, is on a medium that is read, or has too little room.
 */
export async function startHandout(
  code: string,
  { folder, layout }: { readonly folder: string; readonly layout: HandoutLayout },
  shop: string,
  writer: Writer,
): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  requireConsent(stored)
  if (handingOut.has(stored.id)) throw refused('The shelf is being copied already.')
  if (!handoutFolders().includes(folder))
    throw invalid([{ path: 'folder', message: 'is not one that the owner named' }])
  const named = nameable(folder, 'folder', dataFolder())
  if ('fault' in named || named.path !== folder) throw refused('That folder is not there now. Plug in the medium.')
  for (const { link } of attachedTo(stored)) {
    const medium = await mediumById(link)
    if (medium && !medium.isStandIn && liesOnSource(folder, medium.place.path))
      throw refused('That folder is on a medium that is read in this case; nothing is ever written to a source.')
  }
  const rows = verifiedItems(stored.id)
  if (rows.length === 0) throw refused('Nothing is on the shelf yet that was copied and read back.')
  const bytes = rows.reduce((sum, row) => sum + row.bytes, 0)
  const free = await freeIn(folder)
  if (bytes > free) throw refused(`It has room for ${sayBytes(free)} and this takes ${sayBytes(bytes)}.`)
  await sweep(stored.id)
  const path = await freePath(folder, safeName(code))
  const { id } = database
    .insert(handouts)
    .values({
      caseId: stored.id,
      path,
      layout,
      state: 'running',
      total: rows.length,
      by: writer.by,
      begun: iso(writer.now),
    })
    .returning({ id: handouts.id })
    .get()
  handingOut.add(stored.id)
  // If not even the end can be written, as on a full disk, the job counts as stopped.
  void copyOut(code, { id, path, layout, rows, shop }, writer)
    .catch((error) => logFault(error))
    .finally(() => handingOut.delete(stored.id))
}

/** A path in a folder that nobody has taken. */
async function freePath(folder: string, name: string): Promise<string> {
  for (let number = 1; ; number++) {
    const path = join(folder, number === 1 ? name : `${name} (${number})`)
    if (!(await stat(path).catch(() => null))) return path
  }
}

/** The folder in which a copy grows; its number makes it ours alone. */
const partOf = ({ id, path }: Pick<Job, 'id' | 'path'>) => join(dirname(path), `.${basename(path)}.${id}.part`)

/** Removes what copies left that were cut off with the server. */
async function sweep(caseId: number): Promise<void> {
  const stopped = useLantern()
    .database.select({ id: handouts.id, path: handouts.path })
    .from(handouts)
    .where(and(eq(handouts.caseId, caseId), eq(handouts.state, 'stopped')))
    .all()
  for (const job of stopped) await rm(partOf(job), { recursive: true, force: true }).catch(() => {})
}

interface Job {
  readonly id: number
  readonly path: string
  readonly layout: HandoutLayout
  readonly rows: readonly ShelfRow[]
  readonly shop: string
}

async function copyOut(code: string, job: Job, writer: Writer): Promise<void> {
  const part = partOf(job)
  let made = part
  try {
    await mkdir(part, { mode: 0o755 })
    await copyFiles(code, job, part)
    for (const tag of tagsOf(code, job, writer))
      await transfer(
        { open: async (from) => atOnce(Buffer.from(tag.text, 'utf8'), from), bytes: null, sha256: null },
        join(part, tag.name),
      )
    await rename(part, job.path)
    made = job.path
    await flushFolder(dirname(job.path))
  } catch (error) {
    const fault = asDiskFault(error)
    if (!(fault instanceof DiskFault || fault instanceof Stopped)) logFault(error)
    // Half of a copy is none, and is not left on a client's medium.
    const isGone = await rm(made, { recursive: true, force: true }).then(
      () => true,
      () => false,
    )
    const why = fault instanceof DiskFault ? wordsOf(fault) : (fault as Error).message
    const left = isGone ? 'Nothing was left in the folder.' : `What was copied could not be removed: ${basename(made)}.`
    return setJob(job.id, { state: 'stopped', says: `${why} ${left}` })
  }
  recordHandout(code, job, writer)
}

/** The words of a disk fault are about the shop's disk; here it is another one. */
const wordsOf = (fault: DiskFault) =>
  fault.isFull
    ? 'The medium is full, or a file is too large for its file system.'
    : `The medium could not be written (${fault.code}).`

class Stopped extends Error {
  constructor() {
    super('Stopped.')
  }
}

async function copyFiles(code: string, { id, layout, rows }: Job, part: string): Promise<void> {
  const from = await shelfFolder(code)
  const into = layout === 'bag' ? join(part, PAYLOAD) : part
  for (const [at, row] of rows.entries()) {
    if (!isRunning(id)) throw new Stopped()
    const source = join(from, ...row.path.split('/'))
    const target = join(into, ...row.path.split('/'))
    const arriving = {
      open: async (start: number) => createReadStream(source, { start }),
      bytes: row.bytes,
      sha256: row.sha256,
    }
    await transfer(arriving, target)
    const { made, changed } = readStoredFind(row.body)
    const date = made ?? changed
    if (date !== null) await utimes(target, new Date(), new Date(date)).catch(() => {})
    setJob(id, { done: at + 1 })
  }
}

function tagsOf(code: string, { rows, layout, shop }: Job, { now }: Writer): TagFile[] {
  const files = rows.map(({ path, bytes, sha256 }) => ({ path, bytes, sha256: sha256 ?? '' }))
  const first = { name: 'read-me.txt', text: readMe(code, shop, rows, layout) }
  if (layout === 'plain') return plainTags(files, [first])
  const head = printedHead(historyHead(useLantern().database))
  return bagTags(files, { source: shop, identifier: code, date: iso(now).slice(0, 10), head }, [first])
}

async function flushFolder(folder: string): Promise<void> {
  const handle = await open(folder, 'r')
  await handle.sync().catch(() => {})
  await handle.close()
}

const isRunning = (id: number) =>
  useLantern().database.select().from(handouts).where(eq(handouts.id, id)).get()?.state === 'running'

function setJob(id: number, values: Partial<typeof handouts.$inferSelect>): void {
  useLantern().database.update(handouts).set(values).where(eq(handouts.id, id)).run()
}

/** A copy that is whole, with its entry in the history: what left the house, how, and when. */
function recordHandout(code: string, { id, path, layout, rows }: Job, writer: Writer): void {
  const { database, clock } = useLantern()
  const says = `copied ${rows.length} files out of the house, read back: ${layout === 'bag' ? 'a bag' : 'plain folders'} in ${basename(path)}`
  database.transaction(
    () => {
      setJob(id, { state: 'done', done: rows.length })
      const happening = { kind: 'hand-over' as const, fact: 'shelf', was: null, is: { says } }
      noteHappening(database, code, happening, { by: writer.by, now: clock.now() })
    },
    { behavior: 'immediate' },
  )
}

/** Stops a copy that is under way. */
export function stopHandout(code: string): void {
  const { database } = useLantern()
  const { id } = readStored(database, code)
  database
    .update(handouts)
    .set({ state: 'stopped' })
    .where(and(eq(handouts.caseId, id), eq(handouts.state, 'running')))
    .run()
}
