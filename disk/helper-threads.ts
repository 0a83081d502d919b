import { availableParallelism } from 'node:os'
import { MessageChannel, receiveMessageOnPort, Worker, type MessagePort } from 'node:worker_threads'
import type { Answer, Answers, Helpers, Question } from '../core/scanning/helpers'
import { ANSWERS, READS, type HelperAnswer, type HelperData } from './helper-answers'

/** More threads than this wait for the medium. */
const MAX_THREADS = 8
/** Given to a thread at a time, so that it never waits for the next. */
const AT_ONCE = 2
/** Scans of smaller media end before the threads have begun. */
const MIN_IMAGE_BYTES = 96 * 1024 * 1024
/** A second of proving pictures: the threads need about as long to begin. */
const WORTH_AFTER_BYTES = 64 * 1024 * 1024
/** A thread that has read nothing for so long is no longer waited for, in ms. */
const SILENT_MS = 20_000

/** What a thread runs: the path of a program, or its text (as a CommonJS module). */
export interface HelperProgram {
  readonly text: string
  readonly isSource: boolean
}

interface Thread {
  readonly worker: Worker
  readonly port: MessagePort
  given: number
}

/**
 * Threads that follow files beside a scan. The scan waits for them without returning to its event loop: answers come over ports
 * that are read at once, and a shared counter says when there is one.
 */
export class HelperThreads implements Helpers {
  private readonly threads: Thread[] = []
  /** asked and not yet given to a thread, in order */
  private readonly queue = new Map<string, Question>()
  /** given to a thread */
  private readonly begun = new Set<string>()
  private readonly answers = new Map<string, Answer | undefined>()
  /** where the files begin that are asked for, by key */
  private readonly places = new Map<string, number>()
  /** answers and reads of all threads so far */
  private readonly counts = new Int32Array(new SharedArrayBuffer(8))
  private isEnded = false
  /** made when the first thread is needed: it takes a while, and noise needs none */
  private text: HelperProgram | null = null

  /** `medium`: how it opens the medium; `count`: how many threads */
  constructor(
    private readonly program: () => HelperProgram,
    private readonly medium: unknown,
    private readonly count = Math.min(MAX_THREADS, availableParallelism()),
    readonly worthAfter = 0,
  ) {}

  /** Threads for a medium of this size, in bytes; none where it is small or there is one core. */
  static for(size: number, medium: unknown, program: () => HelperProgram): HelperThreads | undefined {
    const isWorth = size >= MIN_IMAGE_BYTES && availableParallelism() > 1
    return isWorth ? new HelperThreads(program, medium, undefined, WORTH_AFTER_BYTES) : undefined
  }

  get hasRoom(): boolean {
    return !this.isEnded && this.queue.size < this.count * AT_ONCE
  }

  ask(question: Question): void {
    if (this.isEnded) return
    const key = keyOf(question)
    if (this.begun.has(key) || this.answers.has(key)) return
    this.queue.set(key, question)
    this.give()
  }

  answer<Asked extends Question>(question: Asked): Answers[Asked['asks']] | undefined {
    const key = keyOf(question)
    this.queue.delete(key)
    this.collect()
    for (let [reads, since] = [-1, 0]; this.begun.has(key) && !this.isEnded;) {
      const have = Atomics.load(this.counts, ANSWERS)
      this.collect()
      if (!this.begun.has(key)) break
      Atomics.wait(this.counts, ANSWERS, have, 1000)
      const now = Atomics.load(this.counts, READS)
      if (now !== reads) [reads, since] = [now, performance.now()]
      else if (performance.now() - since > SILENT_MS) this.end()
    }
    const told = this.answers.get(key)
    this.answers.delete(key)
    this.give()
    return told as Answers[Asked['asks']] | undefined
  }

  pass(offset: number): void {
    for (const [key, question] of this.queue)
      if (question.asks === 'file' && question.place[0] < offset) this.queue.delete(key)
    for (const [key, at] of this.places) if (at < offset && this.answers.delete(key)) this.places.delete(key)
    this.give()
  }

  /** Ends the threads; the scan goes on by itself. */
  end(): void {
    this.isEnded = true
    for (const { worker } of this.threads) void worker.terminate()
    this.queue.clear()
    this.begun.clear()
    this.answers.clear()
  }

  private give(): void {
    this.collect()
    for (const [key, question] of this.queue) {
      const thread = this.freeThread()
      if (!thread) return
      this.queue.delete(key)
      this.begun.add(key)
      if (question.asks === 'file') this.places.set(key, question.place[0])
      thread.given++
      thread.port.postMessage({ key, question })
    }
  }

  private freeThread(): Thread | null {
    const least = this.threads.toSorted((one, other) => one.given - other.given)[0]
    if (least?.given === 0 || (least && this.threads.length === this.count)) return least.given < AT_ONCE ? least : null
    const { port1, port2 } = new MessageChannel()
    this.text ??= this.program()
    const worker = new Worker(this.text.text, {
      workerData: { port: port2, counts: this.counts, medium: this.medium } satisfies HelperData,
      transferList: [port2],
      eval: this.text.isSource,
      execArgv: [],
    })
    // The scan is done without them: none of them keeps the program alive, or ends it.
    worker.on('error', () => this.end())
    worker.unref()
    port1.unref()
    const thread = { worker, port: port1, given: 0 }
    this.threads.push(thread)
    return thread
  }

  private collect(): void {
    for (const thread of this.threads)
      for (let got = receiveMessageOnPort(thread.port); got; got = receiveMessageOnPort(thread.port)) {
        const { key, answer, isReadable } = got.message as HelperAnswer
        thread.given--
        this.begun.delete(key)
        // A medium that fails is read by one alone, once, from its beginning to its end.
        if (!isReadable) return this.end()
        this.answers.set(key, answer)
      }
  }
}

const keyOf = (question: Question) =>
  question.asks === 'file'
    ? `file ${question.place.join()} ${question.formats.join()} ${question.unitBytes}`
    : `proof ${question.extents.join()} ${question.unitBytes} ${question.name}`
