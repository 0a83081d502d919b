import { fork, type ChildProcess } from 'node:child_process'
import { readFile } from 'node:fs/promises'
import { linkFailure, LinkFailure, type LinkFault } from '../../core/bench/fault'
import { jobFile, type JobName } from './files'

/** How long a process may work on one order, and how much memory it may use. */
export interface Limits {
  readonly ms: number
  /** resident memory in bytes */
  readonly bytes: number
}

/** Why an order has no answer: too much time, too much memory, or a crash. */
export class LimitFault extends Error {
  constructor(readonly limit: 'time' | 'memory' | 'ended') {
    super(
      limit === 'time'
        ? 'It exceeds the time limit.'
        : limit === 'memory'
          ? 'It exceeds the memory limit.'
          : 'The reading process ended unexpectedly.',
    )
  }
}

/** An order with the bytes that belong to it, part by part. */
export type ToProcess =
  | { readonly id: number; readonly order: unknown; readonly hasParts: boolean }
  | { readonly id: number; readonly part: Uint8Array | null }

/** What comes back. */
export type FromProcess =
  { readonly id: number; readonly result: unknown } | { readonly id: number; readonly fault: LinkFault | string }

/** An idle process is ended after this time. */
const IDLE_MS = 60_000
const LOOK_MS = 100
const PAGE_BYTES = 4096
const MB = 1 << 20

/**
 * Reads what a client brought in a process beside the server, one order at a time, within limits: past them the process
 * is killed and the order fails with a LimitFault; the next order starts a new process. Nothing that a file does to its
 * parser reaches the server.
 */
export class ProcessLine {
  private child: ChildProcess | null = null
  private last: Promise<unknown> = Promise.resolve()
  private next = 0
  private idle: NodeJS.Timeout | null = null
  private waiting = 0

  /** `onGone`: called when a process has ended, for whatever reason */
  constructor(
    private readonly job: JobName,
    private readonly limits: Limits,
    private readonly onGone: () => void = () => {},
  ) {}

  /** orders that wait or are being worked on */
  get load(): number {
    return this.waiting
  }

  /** Sends an order; `parts`: its bytes, as they arrive. */
  ask<Result>(order: unknown, parts: AsyncIterable<Uint8Array> | null = null, ms = this.limits.ms): Promise<Result> {
    this.waiting++
    const answer = this.last.then(() => this.answered(order, parts, ms)).finally(() => this.waiting--)
    this.last = answer.catch(() => {})
    return answer as Promise<Result>
  }

  /** Ends the process; the order under way fails. */
  end(): void {
    this.child?.kill('SIGKILL')
  }

  private async answered(order: unknown, parts: AsyncIterable<Uint8Array> | null, ms: number): Promise<unknown> {
    if (this.idle) clearTimeout(this.idle)
    const child = (this.child ??= this.begin())
    child.ref()
    const id = this.next++
    let limit: LimitFault['limit'] = 'ended'
    const kill = (why: LimitFault['limit']) => {
      limit = why
      child.kill('SIGKILL')
    }
    const timer = setTimeout(() => kill('time'), ms)
    const watch = setInterval(
      () => void residentBytes(child.pid).then((bytes) => bytes > this.limits.bytes && kill('memory')),
      LOOK_MS,
    )
    let stop = () => {}
    try {
      return await new Promise((done, failed) => {
        const onMessage = (message: FromProcess) => {
          if (message.id !== id) return
          if ('fault' in message) failed(faultOf(message.fault))
          else done(message.result)
        }
        const onExit = (code: number | null) =>
          // The engine aborts when its heap is full.
          failed(new LimitFault(limit === 'ended' && code === HEAP_FULL ? 'memory' : limit))
        child.on('message', onMessage)
        child.once('exit', onExit)
        child.once('error', onExit)
        stop = () => {
          child.off('message', onMessage)
          child.off('exit', onExit)
          child.off('error', onExit)
        }
        send(child, { id, order, hasParts: parts !== null })
          .then(() => (parts ? sendParts(child, id, parts) : undefined))
          .catch((error) => (child.connected ? failed(error) : undefined))
      })
    } finally {
      stop()
      clearTimeout(timer)
      clearInterval(watch)
      child.unref()
      this.idle = setTimeout(() => this.end(), IDLE_MS)
      this.idle.unref()
    }
  }

  private begin(): ChildProcess {
    const heap = Math.max(64, Math.floor(this.limits.bytes / MB))
    const child = fork(jobFile(this.job), [], {
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      serialization: 'advanced',
      execArgv: [`--max-old-space-size=${heap}`],
      // It gets no environment of the shop.
      env: { PATH: process.env.PATH },
    })
    const gone = () => {
      if (this.child !== child) return
      this.child = null
      this.onGone()
    }
    child.once('exit', gone)
    child.once('error', gone)
    child.channel?.unref()
    return child
  }
}

/** The exit code of a process that aborted itself. */
const HEAP_FULL = 134

const faultOf = (fault: LinkFault | string) =>
  typeof fault === 'string' ? linkFailure('damaged', fault) : new LinkFailure(fault)

const send = (child: ChildProcess, message: ToProcess) =>
  new Promise<void>((done, failed) => child.send(message, (error) => (error ? failed(error) : done())))

async function sendParts(child: ChildProcess, id: number, parts: AsyncIterable<Uint8Array>): Promise<void> {
  for await (const part of parts) await send(child, { id, part })
  await send(child, { id, part: null })
}

/** The resident memory of a process; 0 where this system does not report it. */
async function residentBytes(pid: number | undefined): Promise<number> {
  const statm = await readFile(`/proc/${pid}/statm`, 'utf8').catch(() => '')
  return Number(statm.split(' ')[1] ?? 0) * PAGE_BYTES
}

/** Several processes for the same work: an order goes to the one with the fewest waiting. */
export class ProcessPool {
  private readonly lines: readonly ProcessLine[]

  constructor(job: JobName, limits: Limits, count: number) {
    this.lines = Array.from({ length: count }, () => new ProcessLine(job, limits))
  }

  ask<Result>(order: unknown, parts: AsyncIterable<Uint8Array> | null = null): Promise<Result> {
    const [line] = [...this.lines].sort((one, other) => one.load - other.load)
    return line!.ask<Result>(order, parts)
  }
}
