import { partKindOf } from '../../core/bench/part'
import { fork, type ChildProcess } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { availableParallelism } from 'node:os'
import { and, asc, desc, eq, inArray, isNotNull, ne } from 'drizzle-orm'
import { PassOptions, PassProgress, type PassShape, type PassWish } from '../../core/bench/medium'
import { readStored, type Writer } from '../cases/rows'
import { cases, looks, passes } from '../db/tables'
import { notFound, refused } from '../failure'
import { requireAttached } from '../links/case-links'
import { requireLookThrough } from '../listings/look-through'
import { noteAtBench } from '../links/notes'
import { describeMedium } from '../links/medium-links'
import { mediumById, type Medium } from '../links/register'
import { jobFile } from '../threads/files'
import type { PassMessage, PassOrder } from './pass-messages'

/** What is found on a medium is one keep, so that a later pass takes the place of an earlier one. */
export const MEDIUM_KEEP = 'medium'
/** A job that ends by itself is begun again so often. */
const MAX_FALLS = 2
const GRACE_MS = 4000
/** A wish is answered after so long at the latest; that it is granted is told as news. */
const ANSWER_MS = 3000

interface Running {
  readonly child: ChildProcess
  readonly claim: string
  progress: PassProgress | null
  fault: string | null
  ended: Promise<void>
}
const running = new Map<number, Running>()
const listeners = new Set<(caseId: number) => void>()
let isClosing = false

/** At most one job a core. */
const mostAtOnce = () => Math.max(1, Number(process.env.LANTERN_JOBS) || availableParallelism())

/** Tells whoever listens that something about the passes of a case is new; answers how to stop listening. */
export function onPassNews(tell: (caseId: number) => void): () => void {
  listeners.add(tell)
  return () => listeners.delete(tell)
}

type PassRow = typeof passes.$inferSelect
const passRow = (id: number) => useLantern().database.select().from(passes).where(eq(passes.id, id)).get()
const instant = () => new Date(useLantern().clock.now()).toISOString()
const set = (id: number, values: Partial<PassRow>) =>
  useLantern().database.update(passes).set(values).where(eq(passes.id, id)).run()
const tellNews = (caseId: number) => {
  for (const tell of listeners) tell(caseId)
}

/** Puts a pass over a medium into the queue; answers its look, which fills as the pass goes. */
export async function startPass(
  code: string,
  linkId: string,
  options: PassOptions,
  writer: Writer,
): Promise<{ pass: number; look: number }> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  requireLookThrough(stored)
  const { part } = requireAttached(stored, linkId)
  const medium = await mediumById(linkId)
  if (!medium) throw notFound('such medium')
  const { bytes } = await describeMedium(medium)
  const own = and(eq(passes.caseId, stored.id), eq(passes.link, linkId))
  const under = database
    .select({ id: passes.id })
    .from(passes)
    .where(and(own, inArray(passes.state, ['queued', 'running'])))
    .get()
  if (under)
    throw refused('A scan of this medium is already in progress. Wait for it or end it before starting another.')
  const run = stored.case.runs.find((one) => one.ended === null)
  const made = database.transaction((transaction) => {
    const { look } = transaction
      .insert(looks)
      .values({
        caseId: stored.id,
        runId: run?.id ?? null,
        link: linkId,
        keep: MEDIUM_KEEP,
        title: medium.title,
        at: instant(),
        by: writer.by,
        state: 'listing',
      })
      .returning({ look: looks.id })
      .get()
    const { pass } = transaction
      .insert(passes)
      .values({
        caseId: stored.id,
        lookId: look,
        link: linkId,
        isOwn: partKindOf(stored.case, part) === 'device',
        options: JSON.stringify(options),
        state: 'queued',
        stamp: medium.stamp,
        bytes,
        sha256: checksumOfMedium(medium),
        by: writer.by,
        queued: instant(),
      })
      .returning({ pass: passes.id })
      .get()
    return { pass, look }
  })
  noteAtBench(
    code,
    linkId,
    options.pass === 'quick' ? 'started a quick pass over the medium' : 'started a deep scan of the medium',
    writer,
  )
  await beginNext()
  return made
}

/** Does with a pass what is wished. */
export async function wishOfPass(code: string, id: number, wish: PassWish, writer: Writer): Promise<void> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const pass = passRow(id)
  if (pass?.caseId !== stored.id) throw notFound('such pass')
  // What it is doing already needs no wish, and leaves no line in the history.
  if (!mayWish(pass.state, wish)) return tellNews(stored.id)
  if (wish === 'resume') resume(pass)
  else if (wish === 'discard') await discard(pass)
  else if (pass.state === 'running') {
    say(id, { order: 'wish', wish })
    await Promise.race([running.get(id)?.ended, new Promise((done) => setTimeout(done, ANSWER_MS).unref())])
  } else {
    set(id, { state: wish === 'pause' ? 'paused' : 'enough', says: '', ended: instant() })
    if (wish === 'finish') database.update(looks).set({ state: 'whole' }).where(eq(looks.id, pass.lookId)).run()
  }
  noteAtBench(code, pass.link, WISH_WORDS[wish], writer)
  tellNews(stored.id)
  await beginNext()
}

const WISH_WORDS: Record<PassWish, string> = {
  pause: 'paused the scan of the medium',
  resume: 'resumed the scan of the medium',
  finish: 'ended the scan of the medium early',
  discard: 'cancelled the scan and discarded its results',
}

function mayWish(state: PassRow['state'], wish: PassWish): boolean {
  if (wish === 'discard') return true
  if (wish === 'resume') return ['paused', 'enough', 'failed'].includes(state)
  return state === 'running' || state === 'queued' || (state === 'paused' && wish === 'finish')
}

function resume(pass: PassRow): void {
  const { database } = useLantern()
  database.transaction((transaction) => {
    transaction
      .update(passes)
      .set({ state: 'queued', says: '', falls: 0, ended: null })
      .where(eq(passes.id, pass.id))
      .run()
    transaction.update(looks).set({ state: 'listing', says: '' }).where(eq(looks.id, pass.lookId)).run()
  })
}

/** Ends a pass and takes away all that it had written. */
async function discard(pass: PassRow): Promise<void> {
  const { database } = useLantern()
  const job = running.get(pass.id)
  // Without its claim the job writes nothing more, whatever it is doing.
  set(pass.id, { claim: null, state: 'paused' })
  if (job) {
    say(pass.id, { order: 'wish', wish: 'end' })
    await job.ended
  }
  database.delete(looks).where(eq(looks.id, pass.lookId)).run()
}

function say(id: number, order: PassOrder): void {
  const job = running.get(id)
  if (job?.child.connected) job.child.send(order)
}

let isBeginning = false

/** Begins what waits, as long as there is a core for it. */
async function beginNext(): Promise<void> {
  if (isBeginning || isClosing) return
  isBeginning = true
  try {
    while (running.size < mostAtOnce()) {
      const next = useLantern()
        .database.select()
        .from(passes)
        .where(eq(passes.state, 'queued'))
        .orderBy(asc(passes.queued), asc(passes.id))
        .limit(1)
        .get()
      if (!next) return
      await begin(next)
    }
  } finally {
    isBeginning = false
  }
}

async function begin(pass: PassRow): Promise<void> {
  const medium = await mediumById(pass.link)
  if (!medium) return fail(pass, 'The medium is no longer there.')
  if (medium.stamp !== pass.stamp) return fail(pass, 'The medium has changed since this scan began. Start a new scan.')
  const claim = randomUUID()
  set(pass.id, { state: 'running', claim, begun: pass.begun ?? instant(), ended: null, says: '' })
  const child = fork(jobFile('pass-process'), [], { stdio: ['ignore', 'inherit', 'inherit', 'ipc'], execArgv: [] })
  const ended = new Promise<void>((done) => {
    // What could not even be begun ends without an exit.
    child.once('error', () => done())
    child.once('exit', () => done())
  })
  const job: Running = { child, claim, progress: null, fault: null, ended }
  running.set(pass.id, job)
  child.on('message', (message: PassMessage) => {
    if (message.tells === 'progress') job.progress = message.progress
    if (message.tells === 'fault') job.fault = message.says
    tellNews(pass.caseId)
  })
  job.ended = ended.then(() => afterEnd(pass.id))
  child.send({
    order: 'run',
    job: { passId: pass.id, claim, medium: medium.place },
    dataFolder: dataFolder(),
  } satisfies PassOrder)
  tellNews(pass.caseId)
}

function fail(pass: PassRow, says: string): void {
  set(pass.id, { state: 'failed', says, claim: null, ended: instant() })
  tellNews(pass.caseId)
}

/** A job has ended: as it should, or by itself, and then it is begun again from where it had come to. */
function afterEnd(id: number): void {
  const job = running.get(id)
  running.delete(id)
  if (isClosing) return
  const pass = passRow(id)
  if (pass?.claim === job?.claim && pass) {
    if (pass.state !== 'running') {
      set(id, { ended: instant(), claim: null })
      noteEnd(pass)
    } else if (job?.fault) fail(pass, job.fault)
    else if (pass.falls >= MAX_FALLS)
      fail(pass, 'The scan crashed several times. Results so far are kept; you can resume it.')
    else set(id, { state: 'queued', claim: null, falls: pass.falls + 1 })
  }
  if (pass) tellNews(pass.caseId)
  void beginNext().catch((error) => console.error(error))
}

/** What a pass came to stands in the history of its case, the checksum with it. */
function noteEnd(pass: PassRow): void {
  if (pass.state !== 'done' && pass.state !== 'enough') return
  const { database, clock } = useLantern()
  const { code } = database.select({ code: cases.code }).from(cases).where(eq(cases.id, pass.caseId)).get()!
  const progress = pass.progress === null ? null : PassProgress.parse(JSON.parse(pass.progress))
  const { pass: kind } = PassOptions.parse(JSON.parse(pass.options))
  const words = [
    `the ${kind === 'quick' ? 'quick pass' : 'deep scan'} ${pass.state === 'done' ? 'ended' : 'was ended early'}`,
    progress && `${progress.found} found, ${progress.wanted} of them wanted`,
    progress && progress.unreadableBytes > 0 && `${progress.unreadableBytes} bytes could not be read`,
    pass.sha256 && pass.state === 'done' && `SHA-256 of the medium ${pass.sha256}`,
  ].filter((one) => typeof one === 'string')
  noteAtBench(code, pass.link, words.join('; '), { by: pass.by, now: clock.now() })
}

/** The passes of a case, the newest first. */
export function passesOf(caseId: number): PassShape[] {
  return useLantern()
    .database.select()
    .from(passes)
    .where(eq(passes.caseId, caseId))
    .orderBy(desc(passes.id))
    .limit(50)
    .all()
    .map(shapeOf)
}

/** The SHA-256 of a medium as it is, where a pass has taken it; in hexadecimal. */
export function checksumOfMedium({ id, stamp }: Pick<Medium, 'id' | 'stamp'>): string | null {
  const found = useLantern()
    .database.select({ sha256: passes.sha256 })
    .from(passes)
    .where(and(eq(passes.link, id), eq(passes.stamp, stamp), isNotNull(passes.sha256)))
    .orderBy(desc(passes.id))
    .limit(1)
    .get()
  return found?.sha256 ?? null
}

/** Every pass that is under way or waits, with the case that it is for. */
export function passesUnderWay(): (PassShape & { code: string; title: string })[] {
  return useLantern()
    .database.select({ pass: passes, code: cases.code, title: looks.title })
    .from(passes)
    .innerJoin(cases, eq(cases.id, passes.caseId))
    .innerJoin(looks, eq(looks.id, passes.lookId))
    .where(inArray(passes.state, ['queued', 'running', 'paused']))
    .orderBy(asc(passes.queued))
    .all()
    .map(({ pass, code, title }) => ({ ...shapeOf(pass), code, title }))
}

function shapeOf(pass: PassRow): PassShape {
  const live = running.get(pass.id)?.progress ?? null
  const stored = pass.progress === null ? null : PassProgress.parse(JSON.parse(pass.progress))
  return {
    id: pass.id,
    look: pass.lookId,
    link: pass.link,
    options: PassOptions.parse(JSON.parse(pass.options)),
    state: pass.state,
    says: pass.says,
    progress: pass.state === 'running' ? (live ?? stored) : stored,
    waitsFor: pass.state === 'queued' ? waitingBefore(pass) : 0,
    sha256: pass.sha256,
    begun: pass.begun,
    ended: pass.ended,
  }
}

function waitingBefore(pass: PassRow): number {
  const queued = useLantern()
    .database.select({ id: passes.id, queued: passes.queued })
    .from(passes)
    .where(and(eq(passes.state, 'queued'), ne(passes.id, pass.id)))
    .all()
  return (
    running.size +
    queued.filter((one) => one.queued < pass.queued || (one.queued === pass.queued && one.id < pass.id)).length
  )
}

/** After a start: what was running when the server ended, however it ended, is begun again from where it had come to. */
export async function resumePasses(): Promise<void> {
  useLantern().database.update(passes).set({ state: 'queued', claim: null }).where(eq(passes.state, 'running')).run()
  await beginNext()
}

/** Before an end: jobs write down where they are, and go on after the next start. */
export async function closePasses(): Promise<void> {
  isClosing = true
  const all = [...running.values()]
  for (const { child } of all) if (child.connected) child.send({ order: 'wish', wish: 'end' } satisfies PassOrder)
  const grace = new Promise((done) => setTimeout(done, GRACE_MS).unref())
  await Promise.race([Promise.all(all.map(({ ended }) => ended)), grace])
  for (const { child } of all) if (child.exitCode === null) child.kill('SIGKILL')
}
