import { createWriteStream } from 'node:fs'
import { mkdir, open, realpath, rename, rm, stat, statfs, writeFile } from 'node:fs/promises'
import { dirname, join, sep } from 'node:path'
import { and, asc, count, eq, inArray, sql } from 'drizzle-orm'
import type { Find } from '../../core/finding/filter'
import { SafePaths, safeName } from '../../core/finding/safe-path'
import { LinkFailure } from '../../core/links/fault'
import type { Link } from '../../core/links/link'
import type { Evidence } from '../../core/media/medium'
import type { ShelfState } from '../../core/links/bench'
import { writeRecords } from '../../core/records/exports'
import { formatOf } from '../../core/records/formats'
import type { AppRecord } from '../../core/records/record'
import { readStored, updateCase, type Writer } from '../cases/rows'
import { liesOnSource } from '../../disk/same-medium'
import { checksumOfMedium } from '../jobs/passes'
import { mediumById } from '../media/register'
import { findBodies, finds, looks, shelfItems, shelfJobs } from '../db/tables'
import { refused } from '../failure'
import { requireAttached } from './case-links'
import { checksumOf } from './checksums'
import { faultWords } from './link-failures'
import { linkById } from './links'
import { lookOf } from './looks'
import { noteAtBench } from './notes'
import { backupFolders } from './folders'

/** A shelf is never filled to its last byte. */
const SPARE_BYTES = 64 << 20
/** How often a transfer that broke off is taken up again by itself. */
const TRIES = 5
const running = new Set<number>()

type ShelfRow = typeof shelfItems.$inferSelect

/** The folder of a case's shelf, made where it is missing. */
export async function shelfFolder(code: string): Promise<string> {
  const folder = join(dataFolder(), 'shelf', safeName(code))
  await mkdir(folder, { recursive: true, mode: 0o700 })
  return folder
}

/** Bytes that may still be put on shelves: what the disk has, and no more than the shop allows. */
export async function shelfRoom(): Promise<number> {
  const folder = join(dataFolder(), 'shelf')
  await mkdir(folder, { recursive: true, mode: 0o700 })
  const { bavail, bsize } = await statfs(folder)
  const onDisk = bavail * bsize - SPARE_BYTES
  const allowed = Number(process.env.LANTERN_SHELF_BYTES || Infinity)
  const used = useLantern()
    .database.select({ bytes: sql<number>`coalesce(sum(${shelfItems.bytes}), 0)` })
    .from(shelfItems)
    .where(inArray(shelfItems.state, ['copied', 'verified']))
    .get()!.bytes
  return Math.max(0, Math.floor(Math.min(onDisk, allowed - used)))
}

/** Puts the marked items of a look on the list of what is copied, and begins. Refused where there is no room. */
export async function copyMarked(code: string, lookId: number, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const look = lookOf(stored.id, lookId)
  requireAttached(stored, look.link)
  if (stored.case.consent.lookThrough.answer === 'refused')
    throw refused('The client does not want their data looked through: nothing is taken out.')
  await refuseSource(code, look.link)
  const marked = database
    .select({ find: finds, body: findBodies.body })
    .from(finds)
    .innerJoin(findBodies, eq(findBodies.findId, finds.id))
    .where(and(eq(finds.lookId, lookId), eq(finds.isMarked, true)))
    .orderBy(asc(finds.id))
    .all()
    .map(({ find, body }) => ({ ...find, body }))
  if (marked.length === 0) throw refused('Nothing is marked.')
  const there = database.select().from(shelfItems).where(eq(shelfItems.caseId, stored.id)).all()
  const done = new Set(there.filter((one) => one.link === look.link && one.state !== 'failed').map((one) => one.item))
  const wanted = marked.filter((one) => !done.has(one.item) && one.whole !== 'overwritten')
  if (wanted.length === 0) throw refused('All that is marked lies on the shelf already.')
  const bytes = wanted.reduce((sum, one) => sum + one.bytes, 0)
  const room = await shelfRoom()
  if (bytes > room)
    throw refused(
      `The shelf has room for ${room} bytes and this takes ${bytes}. Mark fewer, or clear a shelf that is done with.`,
    )
  const run = stored.case.runs.find((one) => one.ended === null)
  database.transaction((transaction) => {
    const again = there.filter((one) => one.link === look.link && one.state === 'failed').map((one) => one.id)
    if (again.length > 0) transaction.delete(shelfItems).where(inArray(shelfItems.id, again)).run()
    const paths = new SafePaths([
      ...there.filter((one) => !again.includes(one.id)).map((one) => one.path),
      'manifest.json',
      'SHA256SUMS',
    ])
    for (const one of wanted) {
      const body = JSON.parse(one.body) as Find
      const name = body.record ? `${one.name}.${formatOf(body.record.kind).extension}` : one.name
      transaction
        .insert(shelfItems)
        .values({
          caseId: stored.id,
          runId: run?.id ?? null,
          link: look.link,
          item: one.item,
          name: one.name,
          type: one.type,
          path: paths.pathFor([look.link, body.keepTitle, ...body.place], name),
          bytes: one.bytes,
          wanted: one.wanted,
          whole: one.whole,
          state: 'waiting',
          body: one.body,
        })
        .run()
    }
  })
  noteAtBench(code, look.link, `began to copy ${wanted.length} items to the shelf`, writer)
  begin(code, stored.id, look.link, writer)
}

/** The shelf lies in the shop's own folder; a source that contains it, or lies on the same medium, is none. */
async function refuseSource(code: string, link: string): Promise<void> {
  const shelf = await realpath(await shelfFolder(code))
  const medium = await mediumById(link)
  if (medium && !medium.isStandIn && liesOnSource(shelf, medium.place.path))
    throw refused('The shelf lies on the medium that is read; nothing is ever written to a source.')
  for (const folder of await backupFolders()) {
    const source = await realpath(folder).catch(() => null)
    if (source && (shelf === source || shelf.startsWith(source + sep) || source.startsWith(shelf + sep)))
      throw refused('The shelf lies inside a folder that things are read from; nothing is ever written to a source.')
  }
}

/** Goes on with what waits to be copied. */
export function goOnCopying(code: string, writer: Writer): void {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const next = database
    .select()
    .from(shelfItems)
    .where(and(eq(shelfItems.caseId, stored.id), eq(shelfItems.state, 'waiting')))
    .limit(1)
    .get()
  if (!next) throw refused('Nothing waits to be copied.')
  begin(code, stored.id, next.link, writer)
}

export function stopCopying(code: string): void {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const job = latestJob(stored.id)
  if (job?.state === 'running') endJob(job.id, 'stopped', 'Stopped by hand; what was copied stays.')
}

const latestJob = (caseId: number) =>
  useLantern()
    .database.select()
    .from(shelfJobs)
    .where(eq(shelfJobs.caseId, caseId))
    .orderBy(sql`${shelfJobs.id} desc`)
    .limit(1)
    .get()

function endJob(id: number, state: 'stopped' | 'done', says: string) {
  const { database, clock } = useLantern()
  database
    .update(shelfJobs)
    .set({ state, says, ended: new Date(clock.now()).toISOString() })
    .where(eq(shelfJobs.id, id))
    .run()
}

function begin(code: string, caseId: number, link: string, writer: Writer) {
  const { database } = useLantern()
  if (running.has(caseId)) return
  const { id } = database
    .insert(shelfJobs)
    .values({ caseId, link, state: 'running', by: writer.by, begun: new Date(writer.now).toISOString() })
    .returning({ id: shelfJobs.id })
    .get()
  running.add(caseId)
  void copyAll(code, caseId, id)
    .then(
      (says) => endJobOnce(id, 'done', says),
      (error) => endJobOnce(id, 'stopped', faultWords(error)),
    )
    .then(() => countIntoRun(code, writer))
    .catch((error) => console.error(error))
    .finally(() => running.delete(caseId))
}

function endJobOnce(id: number, state: 'stopped' | 'done', says: string) {
  if (isRunning(id)) endJob(id, state, says)
}

const isRunning = (id: number) =>
  useLantern().database.select().from(shelfJobs).where(eq(shelfJobs.id, id)).get()?.state === 'running'

async function copyAll(code: string, caseId: number, jobId: number): Promise<string> {
  const { database } = useLantern()
  const folder = await shelfFolder(code)
  const links = new Map<string, Link>()
  let damaged = 0
  try {
    for (;;) {
      const next = database
        .select()
        .from(shelfItems)
        .where(and(eq(shelfItems.caseId, caseId), eq(shelfItems.state, 'waiting')))
        .orderBy(asc(shelfItems.id))
        .limit(1)
        .get()
      if (!next) break
      if (!isRunning(jobId)) break
      const link = links.get(next.link) ?? (await linkById(next.link))
      links.set(next.link, link)
      if (!(await copyOne(folder, next, link))) damaged++
    }
  } finally {
    await writeManifest(code, caseId)
  }
  return damaged === 0 ? '' : `${damaged} could not be copied whole; they are told apart.`
}

/** Copies one item and reads it back. False where its bytes are not what they should be; throws where the link gave way. */
async function copyOne(folder: string, row: ShelfRow, link: Link): Promise<boolean> {
  const path = join(folder, ...row.path.split('/'))
  const part = `${path}.part`
  await mkdir(dirname(path), { recursive: true, mode: 0o700 })
  const body = JSON.parse(row.body) as Find
  let missing = 0
  const fail = async (says: string) => {
    await rm(part, { force: true })
    set(row.id, { state: 'failed', says })
    return false
  }
  try {
    if (body.record)
      await writeFile(part, writeRecords(formatOf(body.record.kind).id, [body.record]), {
        mode: 0o600,
        flush: true,
      })
    else missing = await transfer(link, row, part)
  } catch (error) {
    if (error instanceof LinkFailure && ['damaged', 'not-found', 'not-met'].includes(error.fault.fault))
      return fail(error.fault.says)
    throw error
  }
  const { sha256, bytes } = await checksumOf(part)
  if (!body.record && body.sha256 !== null && body.sha256 !== sha256)
    return fail('Its bytes arrived damaged: the checksum is another one. Try it again.')
  await rename(part, path)
  await flushFolder(dirname(path))
  set(row.id, { state: 'copied', sha256, bytes, at: new Date(useLantern().clock.now()).toISOString() })
  // Read back from the disk: only what is there counts.
  const back = await checksumOf(path)
  if (back.sha256 !== sha256) return fail('What lies on the shelf is not what was copied. Look at the shelf’s disk.')
  // What the medium did not give stands as zeros: it is kept, and told as what it is.
  set(row.id, { state: 'verified', ...(missing > 0 ? { whole: 'partial' as const, says: notGiven(missing) } : {}) })
  return true
}

const notGiven = (bytes: number) => `${bytes} bytes of it could not be read; zeros stand for them.`

/** Fetches an item into a file, going on from where an earlier try broke off; answers how many bytes were not given. */
async function transfer(link: Link, row: ShelfRow, part: string): Promise<number> {
  const [keep = '', ...rest] = row.item.split('/')
  const item = rest.join('/')
  for (let tries = 1; ; tries++) {
    const have = await stat(part).then(
      (facts) => facts.size,
      () => 0,
    )
    try {
      const parts = await link.read(keep, item, have)
      await append(part, parts, have, row.bytes)
      return parts.missingBytes ?? 0
    } catch (error) {
      if (!(error instanceof LinkFailure) || error.fault.fault !== 'interrupted' || tries >= TRIES) throw error
    }
  }
}

async function append(part: string, parts: AsyncIterable<Uint8Array>, have: number, expected: number): Promise<void> {
  const out = createWriteStream(part, { flags: have > 0 ? 'a' : 'w', mode: 0o600, flush: true })
  let size = have
  try {
    for await (const chunk of parts) {
      size += chunk.length
      // A source that gives more than it said is not believed for ever.
      if (size > expected + SPARE_BYTES)
        throw new LinkFailure({ fault: 'damaged', says: 'It is larger than it says.', triesLeft: null })
      if (!out.write(chunk)) await new Promise((done) => out.once('drain', done))
    }
  } finally {
    await new Promise<void>((done, failed) => {
      out.once('error', failed)
      out.end(() => done())
    })
  }
}

async function flushFolder(path: string) {
  const folder = await open(path, 'r')
  await folder.sync().catch(() => {})
  await folder.close()
}

function set(id: number, values: Partial<ShelfRow>) {
  useLantern().database.update(shelfItems).set(values).where(eq(shelfItems.id, id)).run()
}

/** The list of all that lies on a shelf, for people (SHA256SUMS) and for programs. */
async function writeManifest(code: string, caseId: number): Promise<void> {
  const folder = await shelfFolder(code)
  const rows = useLantern()
    .database.select()
    .from(shelfItems)
    .where(and(eq(shelfItems.caseId, caseId), inArray(shelfItems.state, ['copied', 'verified'])))
    .orderBy(asc(shelfItems.path))
    .all()
  const items = rows.map((row) => {
    const body = JSON.parse(row.body) as Find
    return {
      path: row.path,
      name: row.name,
      bytes: row.bytes,
      sha256: row.sha256,
      isVerified: row.state === 'verified',
      whole: row.whole,
      from: { link: row.link, item: row.item },
      made: body.made,
      deleted: body.deleted,
      wanted: row.wanted,
      copied: row.at,
      ...(row.says === '' ? {} : { says: row.says }),
      ...(body.evidence ? { evidence: evidenceToTell(body.evidence) } : {}),
    }
  })
  await replace(
    join(folder, 'manifest.json'),
    `${JSON.stringify({ format: 'russet-lantern/shelf', version: 1, case: code, media: await mediaOf(rows), items }, null, 2)}\n`,
  )
  await replace(join(folder, 'SHA256SUMS'), rows.map((row) => `${row.sha256}  ${row.path}\n`).join(''))
}

/** The media that things on a shelf were read from, each with its checksum where a pass has taken it. */
async function mediaOf(rows: readonly ShelfRow[]) {
  const media = await Promise.all([...new Set(rows.map(({ link }) => link))].map(mediumById))
  return media.flatMap((medium) =>
    medium
      ? [{ link: medium.id, title: medium.title, bytes: medium.bytes || null, sha256: checksumOfMedium(medium) }]
      : [],
  )
}

/** Where on the medium something lay, in bytes, and by what it is held to be whole. */
function evidenceToTell({ extents, checks, record, foundBy, volume }: Evidence) {
  return { record, foundBy, volume, checks, extents: extents.filter(([offset]) => offset >= 0) }
}

async function replace(path: string, text: string) {
  await writeFile(`${path}.new`, text, { mode: 0o600, flush: true })
  await rename(`${path}.new`, path)
}

/** Found, copied and verified go to the run that is open, per wanted set. */
function countIntoRun(code: string, writer: Writer) {
  const { database, clock } = useLantern()
  database.transaction(
    (transaction) => {
      const before = readStored(transaction, code)
      const run = before.case.runs.find((one) => one.ended === null)
      if (!run) return
      const shelf = before.case.wanted.map((set) => {
        const of = (states: ShelfRow['state'][]) =>
          transaction
            .select({ count: count() })
            .from(shelfItems)
            .where(
              and(
                eq(shelfItems.caseId, before.id),
                eq(shelfItems.runId, run.id),
                eq(shelfItems.wanted, set.id),
                inArray(shelfItems.state, states),
              ),
            )
            .get()!.count
        const found = transaction
          .select({ count: count() })
          .from(finds)
          .innerJoin(looks, eq(looks.id, finds.lookId))
          .where(and(eq(looks.caseId, before.id), eq(looks.runId, run.id), eq(finds.wanted, set.id)))
          .get()!.count
        return { wanted: set.id, found, copied: of(['copied', 'verified']), verified: of(['verified']) }
      })
      const after = {
        ...before.case,
        runs: before.case.runs.map((one) => (one.id === run.id ? { ...one, shelf } : one)),
      }
      const verified = shelf.reduce((sum, one) => sum + one.verified, 0)
      updateCase(
        transaction,
        before,
        after,
        [
          {
            kind: 'bench',
            fact: run.id,
            was: null,
            is: { says: `has ${verified} wanted items on the shelf from this run, read back` },
          },
        ],
        { by: writer.by, now: clock.now() },
      )
    },
    { behavior: 'immediate' },
  )
}

/** How the shelf of a case stands. */
export async function shelfState(caseId: number): Promise<ShelfState> {
  const { database } = useLantern()
  const job = latestJob(caseId)
  const rows = database
    .select({ state: shelfItems.state, count: count(), bytes: sql<number>`coalesce(sum(${shelfItems.bytes}), 0)` })
    .from(shelfItems)
    .where(eq(shelfItems.caseId, caseId))
    .groupBy(shelfItems.state)
    .all()
  const of = (state: ShelfRow['state']) => rows.find((row) => row.state === state) ?? { count: 0, bytes: 0 }
  const verified = and(eq(shelfItems.caseId, caseId), eq(shelfItems.state, 'verified'))
  return {
    job: job ? { id: job.id, state: job.state, says: job.says, begun: job.begun } : null,
    waiting: of('waiting').count,
    copied: of('copied').count,
    verified: of('verified').count,
    failed: of('failed').count,
    bytes: of('copied').bytes + of('verified').bytes,
    waitingBytes: of('waiting').bytes,
    free: await shelfRoom(),
    wanted: database
      .select({ id: shelfItems.wanted, verified: count() })
      .from(shelfItems)
      .where(verified)
      .groupBy(shelfItems.wanted)
      .all()
      .flatMap((row) => (row.id === null ? [] : [{ id: row.id, verified: row.verified }])),
    kinds: database
      .select({ kind: shelfItems.type, count: count() })
      .from(shelfItems)
      .where(verified)
      .groupBy(shelfItems.type)
      .all(),
  }
}

/** Jobs that ran when the server ended wait to be gone on with. */
export function stopJobsOfBefore(): void {
  useLantern()
    .database.update(shelfJobs)
    .set({ state: 'stopped', says: 'The server was started again meanwhile; go on where it stopped.' })
    .where(eq(shelfJobs.state, 'running'))
    .run()
}

/** What lies verified on a case's shelf. */
export function verifiedItems(caseId: number): ShelfRow[] {
  return useLantern()
    .database.select()
    .from(shelfItems)
    .where(and(eq(shelfItems.caseId, caseId), eq(shelfItems.state, 'verified')))
    .orderBy(asc(shelfItems.path))
    .all()
}

/** What lies on a shelf, or waits to, for showing. */
export function shelfList(caseId: number) {
  return useLantern()
    .database.select({
      id: shelfItems.id,
      name: shelfItems.name,
      type: shelfItems.type,
      path: shelfItems.path,
      bytes: shelfItems.bytes,
      state: shelfItems.state,
      says: shelfItems.says,
      wanted: shelfItems.wanted,
      sha256: shelfItems.sha256,
      link: shelfItems.link,
    })
    .from(shelfItems)
    .where(eq(shelfItems.caseId, caseId))
    .orderBy(asc(shelfItems.id))
    .all()
}

/** The records among what lies verified on a shelf. */
export function recordsOnShelf(caseId: number): AppRecord[] {
  return verifiedItems(caseId).flatMap((row) => {
    const { record } = JSON.parse(row.body) as Find
    return record ? [record] : []
  })
}
