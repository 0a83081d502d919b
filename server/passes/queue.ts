import { fork, type ChildProcess } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { availableParallelism } from 'node:os'
import { asc, eq } from 'drizzle-orm'
import type { PassProgress } from '../../core/bench/medium'
import { passes } from '../db/tables'
import { isOfClosed, viewsOf } from '../links/opened-media'
import { mediumById } from '../links/register'
import { jobFile } from '../threads/files'
import type { PassMessage, PassOrder } from './pass-messages'
import { type PassRow, passRow, instant, setPass } from './pass-rows'
import { tellNews } from './pass-news'
import { noteEnd } from './note-end'
import { logFault } from '../log-fault'

/** A job that crashes is restarted at most this often. */
const MAX_CRASHES = 2
const GRACE_MS = 4000

interface Running {
  readonly child: ChildProcess
  readonly claim: string
  progress: PassProgress | null
  fault: string | null
  ended: Promise<void>
}
const running = new Map<number, Running>()
let isClosing = false

/** At most one job a core. */
const mostAtOnce = () => Math.max(1, Number(process.env.LANTERN_JOBS) || availableParallelism())

/** Sends an order to the process of a scan, where it runs. */
export function orderPass(id: number, order: PassOrder): void {
  const job = running.get(id)
  if (job?.child.connected) job.child.send(order)
}

/** The process of a scan, where it runs. */
export const runningPass = (id: number) => running.get(id)
export const runningCount = () => running.size

let isBeginning = false

/** Starts queued scans, as long as there is a core for them. */
export async function beginNext(): Promise<void> {
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
  const known = await mediumById(pass.link)
  if (!known) return fail(pass, 'The medium is no longer there.')
  const medium = viewsOf(known).find(({ stamp }) => stamp === pass.stamp)
  if (!medium)
    return fail(
      pass,
      isOfClosed(known, pass.stamp)
        ? 'The encrypted volume is closed again. Open it with its passphrase, then resume the scan.'
        : 'The medium has changed since this scan began. Start a new scan.',
    )
  const claim = randomUUID()
  setPass(pass.id, { state: 'running', claim, begun: pass.begun ?? instant(), ended: null, says: '' })
  const child = fork(jobFile('pass-process'), [], { stdio: ['ignore', 'inherit', 'inherit', 'ipc'], execArgv: [] })
  const ended = new Promise<void>((done) => {
    // A process that could not be started ends without an exit code.
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
  setPass(pass.id, { state: 'failed', says, claim: null, ended: instant() })
  tellNews(pass.caseId)
}

/** A job has ended: as it should, or by a crash, after which it is restarted from its last checkpoint. */
function afterEnd(id: number): void {
  const job = running.get(id)
  running.delete(id)
  if (isClosing) return
  const pass = passRow(id)
  if (pass?.claim === job?.claim && pass) {
    if (pass.state !== 'running') {
      setPass(id, { ended: instant(), claim: null })
      noteEnd(pass)
    } else if (job?.fault) fail(pass, job.fault)
    else if (pass.crashes >= MAX_CRASHES)
      fail(pass, 'The scan crashed several times. Results so far are kept; you can resume it.')
    else setPass(id, { state: 'queued', claim: null, crashes: pass.crashes + 1 })
  }
  if (pass) tellNews(pass.caseId)
  void beginNext().catch((error) => logFault(error))
}

/** After a start: scans that ran when the server ended are resumed from their last checkpoints. */
export async function resumePasses(): Promise<void> {
  useLantern().database.update(passes).set({ state: 'queued', claim: null }).where(eq(passes.state, 'running')).run()
  await beginNext()
}

/** Before the server ends: jobs write a checkpoint, and resume after the next start. */
export async function closePasses(): Promise<void> {
  isClosing = true
  const all = [...running.values()]
  for (const { child } of all) if (child.connected) child.send({ order: 'wish', wish: 'end' } satisfies PassOrder)
  const grace = new Promise((done) => setTimeout(done, GRACE_MS).unref())
  await Promise.race([Promise.all(all.map(({ ended }) => ended)), grace])
  for (const { child } of all) if (child.exitCode === null) child.kill('SIGKILL')
}
