import { Worker } from 'node:worker_threads'
import { linkFailure } from '../../core/links/fault'
import { jobFile } from '../jobs/files'
import type { ReadAnswer, ReadOrder } from '../jobs/messages'
import type { Medium } from './register'

/** Readers that nobody asked for so long are let go, and the medium with them. */
const IDLE_MS = 120_000
const MOST_READERS = 8

type Ask = ReadOrder extends infer Order ? (Order extends ReadOrder ? Omit<Order, 'id' | 'medium'> : never) : never

/** Reads one medium in a thread of its own. */
class Reader {
  private readonly worker = new Worker(jobFile('read-media'))
  private readonly waiting = new Map<number, { done: (answer: ReadAnswer) => void; failed: (error: Error) => void }>()
  private next = 0
  used = Date.now()

  constructor(
    private readonly medium: Medium,
    onEnd: () => void,
  ) {
    this.worker.unref()
    this.worker.on('message', (answer: ReadAnswer) => {
      this.waiting.get(answer.id)?.done(answer)
      this.waiting.delete(answer.id)
      if (this.waiting.size === 0) this.worker.unref()
    })
    const end = (error: Error) => {
      for (const { failed } of this.waiting.values()) failed(error)
      this.waiting.clear()
      onEnd()
    }
    this.worker.on('error', end)
    this.worker.on('exit', () => end(linkFailure('interrupted', 'The medium was let go meanwhile.')))
  }

  get isIdle(): boolean {
    return this.waiting.size === 0 && this.used < Date.now() - IDLE_MS
  }

  get isBusy(): boolean {
    return this.waiting.size > 0
  }

  async ask(ask: Ask): Promise<ReadAnswer> {
    this.used = Date.now()
    const id = this.next++
    const answer = await new Promise<ReadAnswer>((done, failed) => {
      this.waiting.set(id, { done, failed })
      this.worker.ref()
      this.worker.postMessage({ ...ask, id, medium: this.medium.place })
    })
    if (answer.gives !== 'fault') return answer
    if (answer.code === 'ENOENT') throw linkFailure('not-found', 'The medium is not there any more.')
    if (answer.code === 'EACCES' || answer.code === 'EPERM')
      throw linkFailure('not-ready', 'This machine does not let the medium be read.')
    throw linkFailure('interrupted', `The medium can not be read: ${answer.says}.`)
  }

  end(): void {
    void this.worker.terminate()
  }
}

const readers = new Map<string, Reader>()

/** Asks the reader of a medium, begun where there is none. */
export function askMedium(medium: Medium, ask: Ask): Promise<ReadAnswer> {
  const key = `${medium.id} ${medium.stamp}`
  for (const [other, reader] of readers) if (reader.isIdle) drop(other)
  let reader = readers.get(key)
  if (!reader) {
    if (readers.size >= MOST_READERS) {
      const [oldest] = [...readers].filter(([, one]) => !one.isBusy).sort(([, one], [, other]) => one.used - other.used)
      if (oldest) drop(oldest[0])
    }
    reader = new Reader(medium, () => readers.delete(key))
    readers.set(key, reader)
  }
  return reader.ask(ask)
}

function drop(key: string): void {
  readers.get(key)?.end()
  readers.delete(key)
}
