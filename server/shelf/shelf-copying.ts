import { and, asc, eq } from 'drizzle-orm'
import { sayBytes } from '../../core/cases/telling/saying/amounts'
import { LinkFailure } from '../../core/bench/fault'
import type { Link } from '../../core/bench/link'
import { readStored, type Writer } from '../cases/rows'
import { findBodies, finds, shelfItems, shelfJobs } from '../db/tables'
import { refused } from '../failure'
import { requireAttached } from '../links/case-links'
import { asDiskFault, DiskFault } from '../links/disk-fault'
import { faultWords } from '../links/link-failures'
import { linkById, titleOfLink } from '../links/links'
import { requireConsent } from '../cases/consent'
import { listingOf } from '../listings/listings'
import { noteAtBench } from '../links/notes'
import { promiseRoom, type Promised } from './room'
import { shelfFolder } from './place'
import { copying, latestJob, unwritten } from './shelf'
import { writeManifest } from './shelf-manifest'
import { queueItems, refuseSource } from './queue'
import { copyOne } from './copy-item'
import { countIntoRuns } from './counts'
import { logFault } from '../log-fault'

/**
 * Queues the selected items of a listing for copying and starts it; throws a Failure where there is not enough space.
 */
export async function copySelected(code: string, listingId: number, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const listing = listingOf(stored.id, listingId)
  requireAttached(stored, listing.link)
  requireConsent(stored)
  await refuseSource(code, listing.link)
  const source = await titleOfLink(listing.link)
  const selected = database
    .select({ find: finds, body: findBodies.body })
    .from(finds)
    .innerJoin(findBodies, eq(findBodies.findId, finds.id))
    .where(and(eq(finds.listingId, listingId), eq(finds.isSelected, true)))
    .orderBy(asc(finds.id))
    .all()
    .map(({ find, body }) => ({ ...find, body }))
  if (selected.length === 0) throw refused('Nothing is selected.')
  const there = database.select().from(shelfItems).where(eq(shelfItems.caseId, stored.id)).all()
  const done = new Set(
    there.filter((one) => one.link === listing.link && one.state !== 'failed').map((one) => one.item),
  )
  const wanted = selected.filter((one) => !done.has(one.item) && one.whole !== 'overwritten')
  if (wanted.length === 0) throw refused('Everything selected is already on the shelf.')
  const bytes = wanted.reduce((sum, one) => sum + one.bytes, 0)
  const promised = await promiseRoom(
    bytes,
    (room) =>
      `The shelf has room for ${sayBytes(room)} and this takes ${sayBytes(bytes)}. Select fewer items, or clear a shelf that is no longer needed.`,
  )
  try {
    queueItems(stored, listing, wanted, source)
    noteAtBench(code, listing.link, `started copying ${wanted.length} items to the shelf`, writer)
    begin(code, stored.id, listing.link, promised, writer)
  } catch (error) {
    promised.release()
    throw error
  }
}

/** Resumes copying the rest, where there is space for it. */
export async function resumeCopying(code: string, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  requireConsent(stored)
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
    (room) =>
      `The shelf has room for ${sayBytes(room)} and what is left takes ${sayBytes(bytes)}. Make room, then resume.`,
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

/** The space reserved for each running job; more may be requested while it runs. */
const promises = new Map<number, Promised>()

function begin(code: string, caseId: number, link: string, promised: Promised, writer: Writer) {
  const { database } = useLantern()
  const running = promises.get(caseId)
  if (running) {
    // A running job also copies what was queued since.
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

/** Copies everything in the queue and records how it ended. Whatever happens, no job is left marked as running. */
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
  // Removed from the running jobs first: if nothing more can be written, the job still counts as stopped.
  promises.delete(job.caseId)
  copying.delete(job.caseId)
  promised.release()
  try {
    unwritten.set(job.caseId, end.says)
    if (isRunning(job.jobId)) endJob(job.jobId, end.state, end.says)
    unwritten.delete(job.caseId)
    countIntoRuns(code, writer)
  } catch (error) {
    logFault(error)
  }
}

interface Job {
  readonly caseId: number
  readonly jobId: number
}

function stopWords(error: unknown): string {
  const fault = asDiskFault(error)
  if (fault instanceof DiskFault) return `${fault.message} What was copied before is safe.`
  if (!(fault instanceof LinkFailure)) logFault(error)
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
    : `${damaged} ${damaged === 1 ? 'item was' : 'items were'} not copied completely; ${damaged === 1 ? 'it is' : 'they are'} marked as not copied.`
}

/** Jobs that ran when the server ended can be resumed; an item that was not read back by then is copied again. */
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
