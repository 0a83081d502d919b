import { realpath } from 'node:fs/promises'
import { join, sep } from 'node:path'
import { and, asc, count, eq, inArray } from 'drizzle-orm'
import type { Find } from '../../core/bench/filter'
import { SafePaths } from '../../core/bench/safe-path'
import { LinkFailure } from '../../core/bench/fault'
import type { Link } from '../../core/bench/link'
import { fileOfRecord, formatOnShelf } from '../../core/records/exports/registry'
import { liesOnSource } from '../../disk/same-medium'
import { sameValue } from '../../core/cases/shape/same-value'
import { readStored, updateCase, type StoredCase, type Writer } from '../cases/rows'
import { readStoredFind } from '../db/stored-find'
import { findBodies, finds, looks, shelfItems, shelfJobs } from '../db/tables'
import { refused } from '../failure'
import { mediumById } from '../links/register'
import { requireAttached } from '../links/case-links'
import { asDiskFault, DiskFault } from '../links/disk-fault'
import { backupFolders } from '../links/folders'
import { faultWords } from '../links/link-failures'
import { linkById } from '../links/links'
import { requireLookThrough } from '../listings/look-through'
import { lookOf } from '../listings/looks'
import { noteAtBench } from '../links/notes'
import { promiseRoom, type Promised } from './room'
import { copying, latestJob, shelfFolder, unwritten, type ShelfRow } from './shelf'
import { writeManifest } from './shelf-manifest'
import { atOnce, transfer } from './transfer'

/** Puts the selected items of a look on the list of what is copied, and begins. Refused where there is no room. */
export async function copySelected(code: string, lookId: number, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const look = lookOf(stored.id, lookId)
  requireAttached(stored, look.link)
  requireLookThrough(stored)
  await refuseSource(code, look.link)
  const selected = database
    .select({ find: finds, body: findBodies.body })
    .from(finds)
    .innerJoin(findBodies, eq(findBodies.findId, finds.id))
    .where(and(eq(finds.lookId, lookId), eq(finds.isSelected, true)))
    .orderBy(asc(finds.id))
    .all()
    .map(({ find, body }) => ({ ...find, body }))
  if (selected.length === 0) throw refused('Nothing is selected.')
  const there = database.select().from(shelfItems).where(eq(shelfItems.caseId, stored.id)).all()
  const done = new Set(there.filter((one) => one.link === look.link && one.state !== 'failed').map((one) => one.item))
  const wanted = selected.filter((one) => !done.has(one.item) && one.whole !== 'overwritten')
  if (wanted.length === 0) throw refused('Everything selected is already on the shelf.')
  const bytes = wanted.reduce((sum, one) => sum + one.bytes, 0)
  const promised = await promiseRoom(
    bytes,
    (room) =>
      `The shelf has room for ${room} bytes and this takes ${bytes}. Select fewer items, or clear a shelf that is no longer needed.`,
  )
  try {
    queue(stored, look, wanted)
    noteAtBench(code, look.link, `started copying ${wanted.length} items to the shelf`, writer)
    begin(code, stored.id, look.link, promised, writer)
  } catch (error) {
    promised.release()
    throw error
  }
}

type Selected = typeof finds.$inferSelect & { readonly body: string }

function queue(stored: StoredCase, look: { readonly link: string }, wanted: readonly Selected[]): void {
  const run = stored.case.runs.find((one) => one.ended === null)
  useLantern().database.transaction(
    (transaction) => {
      const there = transaction.select().from(shelfItems).where(eq(shelfItems.caseId, stored.id)).all()
      const isQueued = new Set(
        there.flatMap((one) => (one.link === look.link && one.state !== 'failed' ? one.item : [])),
      )
      const again = there.filter((one) => one.link === look.link && one.state === 'failed').map((one) => one.id)
      if (again.length > 0) transaction.delete(shelfItems).where(inArray(shelfItems.id, again)).run()
      const paths = new SafePaths([
        ...there.filter((one) => !again.includes(one.id)).map((one) => one.path),
        'manifest.json',
        'SHA256SUMS',
        'safety-copies',
      ])
      // Somebody may have asked for the same a moment ago.
      for (const one of wanted.filter(({ item }) => !isQueued.has(item))) {
        const body = readStoredFind(one.body)
        const name = body.record ? `${one.name}.${formatOnShelf(body.record.kind).extension}` : one.name
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
    },
    { behavior: 'immediate' },
  )
}

/** The shelf lies in the shop's own folder; a source that contains it, or lies on the same medium, is none. */
async function refuseSource(code: string, link: string): Promise<void> {
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

/** Resumes copying what is left, where there is room for it. */
export async function resumeCopying(code: string, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  requireLookThrough(stored)
  if (copying.has(stored.id)) return
  const left = database
    .select({ link: shelfItems.link, bytes: shelfItems.bytes })
    .from(shelfItems)
    .where(and(eq(shelfItems.caseId, stored.id), eq(shelfItems.state, 'waiting')))
    .all()
  const [next] = left
  if (!next) throw refused('There is nothing left to copy.')
  const bytes = left.reduce((sum, one) => sum + one.bytes, 0)
  const promised = await promiseRoom(
    bytes,
    (room) => `The shelf has room for ${room} bytes and what is left takes ${bytes}. Make room, then resume.`,
  )
  try {
    begin(code, stored.id, next.link, promised, writer)
  } catch (error) {
    promised.release()
    throw error
  }
}

/** Stops copying; what was copied stays. */
export function stopCopying(code: string): void {
  const stored = readStored(useLantern().database, code)
  const job = latestJob(stored.id)
  if (job?.state === 'running') endJob(job.id, 'stopped', 'Stopped. What was copied is kept.')
}

function endJob(id: number, state: 'stopped' | 'done', says: string) {
  const { database, clock } = useLantern()
  database
    .update(shelfJobs)
    .set({ state, says, ended: new Date(clock.now()).toISOString() })
    .where(eq(shelfJobs.id, id))
    .run()
}

/** What each running copying was promised; more may be asked for while it runs. */
const promises = new Map<number, Promised>()

function begin(code: string, caseId: number, link: string, promised: Promised, writer: Writer) {
  const { database } = useLantern()
  const running = promises.get(caseId)
  if (running) {
    // It takes what is new along.
    running.change(promised.bytes)
    promised.release()
    return
  }
  const { id } = database
    .insert(shelfJobs)
    .values({ caseId, link, state: 'running', by: writer.by, begun: new Date(writer.now).toISOString() })
    .returning({ id: shelfJobs.id })
    .get()
  copying.add(caseId)
  promises.set(caseId, promised)
  void work(code, { caseId, jobId: id }, promised, writer)
}

/** Copies all that waits and writes down how it ended. Whatever happens, nothing is left as if it still ran. */
async function work(code: string, job: Job, promised: Promised, writer: Writer): Promise<void> {
  const end: { state: 'done' | 'stopped'; says: string } = { state: 'done', says: '' }
  try {
    end.says = await copyAll(code, job, promised)
  } catch (error) {
    Object.assign(end, { state: 'stopped', says: stopWords(error) })
  }
  try {
    await writeManifest(code, job.caseId)
  } catch (error) {
    end.says ||= `The list of what is on the shelf could not be written. ${stopWords(error)}`
    end.state = 'stopped'
  }
  // Gone from the running ones first: if nothing more can be written, the job counts as stopped all the same.
  promises.delete(job.caseId)
  copying.delete(job.caseId)
  promised.release()
  try {
    unwritten.set(job.caseId, end.says)
    if (isRunning(job.jobId)) endJob(job.jobId, end.state, end.says)
    unwritten.delete(job.caseId)
    countIntoRun(code, writer)
  } catch (error) {
    console.error(error)
  }
}

interface Job {
  readonly caseId: number
  readonly jobId: number
}

function stopWords(error: unknown): string {
  const fault = asDiskFault(error)
  if (fault instanceof DiskFault) return `${fault.message} What was copied before is safe.`
  if (!(fault instanceof LinkFailure)) console.error(error)
  return faultWords(fault)
}

const isRunning = (id: number) =>
  useLantern().database.select().from(shelfJobs).where(eq(shelfJobs.id, id)).get()?.state === 'running'

async function copyAll(code: string, { caseId, jobId }: Job, promised: Promised): Promise<string> {
  const { database } = useLantern()
  const folder = await shelfFolder(code)
  const links = new Map<string, Link>()
  let damaged = 0
  while (isRunning(jobId)) {
    const next = database
      .select()
      .from(shelfItems)
      .where(and(eq(shelfItems.caseId, caseId), eq(shelfItems.state, 'waiting')))
      .orderBy(asc(shelfItems.id))
      .limit(1)
      .get()
    if (!next) break
    const link = links.get(next.link) ?? (await linkById(next.link))
    links.set(next.link, link)
    if (!(await copyOne(folder, next, link))) damaged++
    promised.change(-next.bytes)
  }
  return damaged === 0
    ? ''
    : `${damaged} ${damaged === 1 ? 'item was' : 'items were'} not copied completely; ${damaged === 1 ? 'it is' : 'they are'} selected as not copied.`
}

/** Faults of one item: the others are copied all the same. */
const OF_THE_ITEM = new Set(['damaged', 'not-found', 'not-met'])

/** Copies one item and reads it back. False where its bytes are not what they should be; throws where link or disk give way. */
async function copyOne(folder: string, row: ShelfRow, link: Link): Promise<boolean> {
  const { record, sha256, evidence } = readStoredFind(row.body)
  const located = locatedBytes(row.bytes, evidence)
  const path = join(folder, ...row.path.split('/'))
  try {
    const written = record ? new TextEncoder().encode(fileOfRecord(record)) : null
    const [keep = '', ...rest] = row.item.split('/')
    const arrived = await transfer(
      {
        open: async (from) => (written ? atOnce(written, from) : link.read(keep, rest.join('/'), from)),
        bytes: written ? written.length : located,
        sha256: written ? null : sha256,
      },
      path,
    )
    // Only what was read back from the disk is written down, and all of it at once.
    set(row.id, {
      state: 'verified',
      sha256: arrived.sha256,
      bytes: arrived.bytes,
      at: new Date(useLantern().clock.now()).toISOString(),
      // What the medium did not give stands as zeros: it is kept, and selected as what it is.
      ...lossOf(row.bytes - located, arrived.missing),
    })
    return true
  } catch (error) {
    if (!(error instanceof LinkFailure) || !OF_THE_ITEM.has(error.fault.fault)) throw error
    set(row.id, { state: 'failed', says: error.fault.says })
    return false
  }
}

/** How many bytes of something on a medium its record still locates; of everything else, all that it says it has. */
const locatedBytes = (bytes: number, evidence: Find['evidence']) =>
  evidence?.kept.as === 'pieces'
    ? Math.min(
        bytes,
        evidence.extents.reduce((sum, [, length]) => sum + length, 0),
      )
    : bytes

/** What is said of a copy of which some is missing: it is kept, and selected as damaged. */
function lossOf(lost: number, missing: number): Partial<ShelfRow> {
  const says = [
    lost > 0 ? `The location of its last ${lost} bytes is not recorded; the copy ends before them.` : '',
    missing > 0 ? `${missing} bytes could not be read and were replaced by zeros.` : '',
  ].filter(Boolean)
  return says.length > 0 ? { whole: 'partial', says: says.join(' ') } : { says: '' }
}

function set(id: number, values: Partial<ShelfRow>) {
  useLantern().database.update(shelfItems).set(values).where(eq(shelfItems.id, id)).run()
}

/** Found, copied and verified go to the run that is open, per wanted set, with how whole they are. */
function countIntoRun(code: string, writer: Writer) {
  const { database, clock } = useLantern()
  database.transaction(
    (transaction) => {
      const before = readStored(transaction, code)
      const run = before.case.runs.find((one) => one.ended === null)
      if (!run) return
      const shelf = before.case.wanted.map((set) => {
        const groups = transaction
          .select({ whole: shelfItems.whole, count: count() })
          .from(shelfItems)
          .where(
            and(
              eq(shelfItems.caseId, before.id),
              eq(shelfItems.runId, run.id),
              eq(shelfItems.wanted, set.id),
              eq(shelfItems.state, 'verified'),
            ),
          )
          .groupBy(shelfItems.whole)
          .all()
        const of = (whole: ShelfRow['whole']) => groups.find((one) => one.whole === whole)?.count ?? 0
        const found = transaction
          .select({ count: count() })
          .from(finds)
          .innerJoin(looks, eq(looks.id, finds.lookId))
          .where(and(eq(looks.caseId, before.id), eq(looks.runId, run.id), eq(finds.wanted, set.id)))
          .get()!.count
        const [whole, unverified, damaged] = [of('intact'), of('unverified'), of('partial')]
        const verified = whole + unverified + damaged
        return { wanted: set.id, found, copied: verified, verified, whole, unverified, damaged }
      })
      if (sameValue(shelf, run.shelf)) return
      const after = {
        ...before.case,
        runs: before.case.runs.map((one) => (one.id === run.id ? { ...one, shelf } : one)),
      }
      const verified = shelf.reduce((sum, one) => sum + one.verified, 0)
      const says = `put ${verified} wanted items on the shelf in this run, read back`
      updateCase(transaction, before, after, [{ kind: 'bench', fact: run.id, was: null, is: { says } }], {
        by: writer.by,
        now: clock.now(),
      })
    },
    { behavior: 'immediate' },
  )
}

/** Jobs that ran when the server ended wait to be resumed; an item that was not yet read back then is copied again. */
export function stopJobsOfBefore(): void {
  const { database } = useLantern()
  database.transaction(() => {
    database
      .update(shelfJobs)
      .set({ state: 'stopped', says: 'The server restarted. Resume to continue from where it stopped.' })
      .where(eq(shelfJobs.state, 'running'))
      .run()
    database.update(shelfItems).set({ state: 'waiting' }).where(eq(shelfItems.state, 'copied')).run()
  })
}
