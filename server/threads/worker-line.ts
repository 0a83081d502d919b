import { Worker } from 'node:worker_threads'
import { jobFile, type JobName } from './files'
import type { LineAnswer, LineOrder } from './answer-orders'

/** A failure as a thread reports it. */
export class ThreadFailure extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message)
  }
}

/** How long a thread may take for one order, and how large its heap may grow; past that it is ended. */
export interface ThreadLimits {
  readonly ms?: number
  readonly heapMb?: number
}

/** One thread beside the server's: it takes and returns plain data, in its own time. */
export class WorkerLine {
  private readonly worker: Worker
  private readonly waiting = new Map<number, { done: (result: unknown) => void; failed: (error: Error) => void }>()
  private next = 0
  /** ms: when it was last asked */
  used = Date.now()

  /** `onEnd`: called once, when the thread has ended and its pending requests have failed */
  constructor(
    job: JobName,
    data: unknown,
    onEnd: () => void,
    private readonly limits: ThreadLimits = {},
  ) {
    this.worker = new Worker(jobFile(job), {
      workerData: data,
      resourceLimits: limits.heapMb === undefined ? {} : { maxOldGenerationSizeMb: limits.heapMb },
    })
    this.worker.unref()
    this.worker.on('message', ({ id, ...answer }: LineAnswer) => {
      const one = this.waiting.get(id)
      this.waiting.delete(id)
      if (this.waiting.size === 0) this.worker.unref()
      if (answer.fault) one?.failed(new ThreadFailure(answer.fault.code, answer.fault.message))
      else one?.done(answer.result)
    })
    const end = (error: Error) => {
      for (const { failed } of this.waiting.values()) failed(error)
      this.waiting.clear()
      onEnd()
    }
    this.worker.on('error', end)
    this.worker.on('exit', () => end(new ThreadFailure('ENDED', 'the thread has ended')))
  }

  get isBusy(): boolean {
    return this.waiting.size > 0
  }

  async ask<Result>(order: unknown): Promise<Result> {
    this.used = Date.now()
    const id = this.next++
    const { ms } = this.limits
    const timer = ms === undefined ? undefined : setTimeout(() => this.end(), ms)
    const result = await new Promise<unknown>((done, failed) => {
      this.waiting.set(id, { done, failed })
      this.worker.ref()
      this.worker.postMessage({ id, order } satisfies LineOrder)
    }).finally(() => clearTimeout(timer))
    return result as Result
  }

  end(): void {
    void this.worker.terminate()
  }
}
