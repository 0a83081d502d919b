import { createHash } from 'node:crypto'
import { mkdir, readdir, readFile, realpath, rename, rm, utimes, writeFile } from 'node:fs/promises'
import { basename, dirname, join, sep } from 'node:path'
import type { Readable } from 'node:stream'
import { and, eq } from 'drizzle-orm'
import QuickLRU from 'quick-lru'
import { sayBytes } from '../../core/cases/telling/saying/amounts'
import { batchTitle, BatchStart, type ArrivingBatch, type BatchFolder } from '../../core/bench/batch'
import { LinkFailure } from '../../core/bench/fault'
import { SafePaths } from '../../core/bench/safe-path'
import { openRunsOf, partOfBatch } from '../../core/cases/shape/open-runs'
import { may, type Person } from '../../core/people/person'
import type { z } from 'zod'
import { nameable } from '../../disk/nameable'
import { requireConsent, requireNotStopped } from '../cases/consent'
import { readStored, type StoredCase, type Writer } from '../cases/rows'
import { batches, caseLinks, listings, shelfItems } from '../db/tables'
import { Failure, invalid, notFound, refused } from '../failure'
import { batchesOf, batchOfLink, keepBatch } from '../links/batch-links'
import { caseFolder } from '../links/case-folders'
import { asDiskFault, DiskFault } from '../links/disk-fault'
import { namedFolders } from '../links/folders'
import { noteAtBench } from '../links/notes'
import { diskRoom } from '../shelf/room'
import { append, sizeOf } from '../shelf/transfer'

const ID = /^[0-9a-f]{32}$/
const LIST = 'list.json'
const MAX_ARRIVING = 20
const BROUGHT = 'These files were brought already, for the same run.'

/** Files of a client are kept apart by case. */
const folderOf = (code: string) => caseFolder('by-hand', code)

/** The files of batches that are arriving, each with its path on the disk: computed once, since there are many. */
const lists = new QuickLRU<string, readonly (BatchStart['files'][number] & { readonly at: string })[]>({ maxSize: 20 })

/** Only one part of a file is written at a time. */
const writing = new Set<string>()

type Start = z.output<typeof BatchStart>

async function filesOf(folder: string) {
  const known = lists.get(folder)
  if (known) return known
  const { files } = await readList(folder)
  const paths = new SafePaths()
  const placed = files.map((file) => ({
    ...file,
    at: join(folder, 'files', paths.pathFor(file.path.slice(0, -1), file.path.at(-1)!)),
  }))
  lists.set(folder, placed)
  return placed
}

const readList = async (folder: string): Promise<Start> =>
  BatchStart.parse(JSON.parse(await readFile(join(folder, LIST), 'utf8')))

/** The folders of batches that a case has as links; all others of it are still arriving. */
const keptFolders = (caseId: number) => new Set(batchesOf(caseId).map(({ folder }) => folder))

/** Batches of a case that have begun to arrive; the same files, offered again, resume. */
export async function arrivingBatches(code: string): Promise<ArrivingBatch[]> {
  const kept = keptFolders(readStored(useLantern().database, code).id)
  const names = await readdir(folderOf(code)).catch(() => [])
  const found: ArrivingBatch[] = []
  for (const name of names.filter((one) => ID.test(one) && !kept.has(one)).sort()) {
    const shape = await shapeOf(join(folderOf(code), name)).catch(() => null)
    if (shape) found.push(shape)
  }
  return found
}

async function shapeOf(folder: string): Promise<ArrivingBatch> {
  const { run } = await readList(folder)
  const files = await filesOf(folder)
  const have: number[] = []
  for (const { at } of files) have.push(await sizeOf(at))
  return {
    id: basename(folder),
    title: batchTitle(files),
    run,
    bytes: files.reduce((sum, { bytes }) => sum + bytes, 0),
    have,
    whole: files.filter(({ bytes }, at) => bytes === have[at]).length,
  }
}

function requireRun({ case: ofCase }: StoredCase, run: string | null): void {
  if (run !== null && !openRunsOf(ofCase).some(({ id }) => id === run))
    throw refused('That run is no longer open. Choose what the files count for.')
}

/** Begins a batch, where there is room for all of it; throws a Failure otherwise. The same files resume what has begun. */
export async function startBatch(code: string, start: Start): Promise<ArrivingBatch> {
  const stored = readStored(useLantern().database, code)
  requireConsent(stored)
  requireRun(stored, start.run)
  const id = createHash('sha256').update(JSON.stringify(start)).digest('hex').slice(0, 32)
  const folder = join(folderOf(code), id)
  if (keptFolders(stored.id).has(id)) throw refused(BROUGHT)
  const all = await arrivingBatches(code)
  const same = all.find((one) => one.id === id)
  if (same) return same
  if (all.length >= MAX_ARRIVING)
    throw refused(`${MAX_ARRIVING} batches are still arriving. Finish or discard some of them first.`)
  const bytes = start.files.reduce((sum, file) => sum + file.bytes, 0)
  const waiting = all.reduce((sum, one) => sum + one.bytes - one.have.reduce((have, part) => have + part, 0), 0)
  const room = Math.max(0, (await diskRoom()) - waiting)
  if (bytes > room) throw refused(`The files have ${sayBytes(bytes)}, and there is room for ${sayBytes(room)}.`)
  await mkdir(folder, { recursive: true, mode: 0o700 })
  const list = join(folder, LIST)
  await writeFile(`${list}.part`, JSON.stringify(start), { mode: 0o600, flush: true })
  await rename(`${list}.part`, list)
  return shapeOf(folder)
}

/**
 * Appends a part of a file as it arrives; throws a Failure where it does not begin at the end of what is there. What
 * arrived stays, also where the connection drops.
 */
export async function appendToBatch(code: string, id: string, file: number, from: number, body: Readable) {
  const folder = await arriving(code, id)
  const one = (await filesOf(folder))[file]
  if (!one) throw notFound('such file in this batch')
  if (writing.has(one.at)) throw refused('This file is already arriving.')
  writing.add(one.at)
  try {
    const have = await sizeOf(one.at)
    if (from !== have)
      throw new Failure('clash', `It resumes at byte ${have}.`, { fields: [{ path: 'have', message: `${have}` }] })
    await mkdir(dirname(one.at), { recursive: true, mode: 0o700 })
    await append(one.at, body as AsyncIterable<Uint8Array>, { from, most: one.bytes - from })
  } catch (error) {
    const fault = asDiskFault(error)
    if (fault instanceof DiskFault) throw refused(`${fault.message} What arrived is kept.`)
    if (fault instanceof LinkFailure) {
      await rm(one.at, { force: true })
      throw invalid([{ path: 'bytes', message: 'exceed the announced size of the file' }])
    }
    if (fault instanceof Failure) throw fault
    throw refused('The connection dropped. What arrived is kept; the file resumes from there.')
  } finally {
    writing.delete(one.at)
  }
  return { have: await sizeOf(one.at) }
}

/**
 * Makes a link of a batch of which every file has arrived; throws a Failure where one has not. A single archive becomes the
 * link itself, so that its contents are listed. Returns the id of the link.
 */
export async function finishBatch(code: string, id: string, writer: Writer): Promise<string> {
  const folder = await arriving(code, id)
  const { run } = await readList(folder)
  const files = await filesOf(folder)
  for (const { at, bytes, changed } of files) {
    // An empty file has no part that could arrive.
    if (bytes === 0) await mkdir(dirname(at), { recursive: true }).then(() => writeFile(at, '', { mode: 0o600 }))
    if ((await sizeOf(at)) !== bytes) throw refused('Not all of the files have arrived yet.')
    if (changed > 0) await utimes(at, new Date(), new Date(changed))
  }
  const stored = readStored(useLantern().database, code)
  requireConsent(stored)
  requireRun(stored, run)
  lists.delete(folder)
  const isArchive = files.length === 1 && /\.(zip|tar)$/i.test(files[0]!.at)
  const path = await realpath(isArchive ? files[0]!.at : join(folder, 'files'))
  // Two pages may finish the same files at once; from here on nothing waits.
  if (keptFolders(stored.id).has(id)) throw refused(BROUGHT)
  return attachBatch(
    stored,
    { run, title: batchTitle(files), path, folder: id },
    writer,
    files.length === 1 ? 'one file' : `${files.length} files`,
  )
}

/**
 * Makes a link of a folder of this machine, which is read where it is; throws a Failure where it may not be named. The owner
 * may name any folder outside the shop's own; others only what lies in a folder that the owner has allowed.
 */
export async function nameBatchFolder(
  code: string,
  { run, path }: z.output<typeof BatchFolder>,
  person: Person,
  writer: Writer,
): Promise<string> {
  const stored = readStored(useLantern().database, code)
  requireConsent(stored)
  requireRun(stored, run)
  const named = nameable(path, 'folder', dataFolder())
  const isAllowed =
    'path' in named && namedFolders().some((one) => named.path === one || named.path.startsWith(one + sep))
  // Whoever may not name it does not learn whether it is there, either.
  if (!may(person.role, 'playbook') && !isAllowed)
    throw invalid([{ path: 'path', message: 'is in no folder that the owner has allowed' }])
  if ('fault' in named) throw invalid([{ path: 'path', message: named.fault }])
  const title = basename(named.path)
  return attachBatch(stored, { run, title, path: named.path, folder: null }, writer, `the folder “${title}”`)
}

function attachBatch(
  stored: StoredCase,
  { run, ...batch }: { run: string | null; title: string; path: string; folder: string | null },
  writer: Writer,
  what: string,
): string {
  const link = keepBatch(stored, { ...batch, kind: 'by-hand', runId: run }, (id) => partOfBatch(id, run), writer)
  noteAtBench(stored.case.code, link, `brought ${what} by hand: ${batch.title}`, writer)
  return link
}

/** Discards a batch that has not arrived completely. */
export async function dropArriving(code: string, id: string): Promise<void> {
  const folder = await arriving(code, id)
  requireNotStopped(readStored(useLantern().database, code))
  lists.delete(folder)
  await rm(folder, { recursive: true })
}

/**
 * Takes a batch off its case: files that were copied here are deleted, a folder that was named is left as it is. Throws a
 * Failure while its items wait for the shelf. What is on the shelf stays there.
 */
export async function discardBatch(code: string, link: string, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const batch = batchOfLink(link)
  if (batch?.caseId !== stored.id || batch.kind !== 'by-hand') throw notFound('such batch of files')
  requireNotStopped(stored)
  const waiting = database
    .select({ id: shelfItems.id })
    .from(shelfItems)
    .where(and(eq(shelfItems.caseId, stored.id), eq(shelfItems.link, link), eq(shelfItems.state, 'waiting')))
    .get()
  if (waiting) throw refused('Some of these files are still waiting to be copied to the shelf.')
  database.transaction(
    () => {
      database
        .delete(caseLinks)
        .where(and(eq(caseLinks.caseId, stored.id), eq(caseLinks.link, link)))
        .run()
      database
        .delete(listings)
        .where(and(eq(listings.caseId, stored.id), eq(listings.link, link)))
        .run()
      database.delete(batches).where(eq(batches.id, batch.id)).run()
    },
    { behavior: 'immediate' },
  )
  noteAtBench(code, link, `removed the files brought by hand: ${batch.title}`, writer)
  if (batch.folder !== null) await rm(join(folderOf(code), batch.folder), { recursive: true, force: true })
}

async function arriving(code: string, id: string): Promise<string> {
  const kept = keptFolders(readStored(useLantern().database, code).id)
  const folder = join(folderOf(code), id)
  if (!ID.test(id) || kept.has(id) || (await sizeOf(join(folder, LIST))) === 0) throw notFound('such batch of files')
  return folder
}
