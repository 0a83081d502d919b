import { workerData, type MessagePort } from 'node:worker_threads'
import { answerTo, type Answer, type Question } from '../core/scanning/helpers'
import type { ByteSource } from '../core/sources/source'
import { watched } from '../core/sources/watched'

/** What the shared counters count. */
export const ANSWERS = 0
export const READS = 1

/** What a thread is started with. */
export interface HelperData {
  readonly port: MessagePort
  /** shared: how many answers and reads there were */
  readonly counts: Int32Array
  readonly medium: unknown
}

export interface HelperQuestion {
  readonly key: string
  readonly question: Question
}

export interface HelperAnswer {
  readonly key: string
  readonly answer: Answer | undefined
  /** false where the medium could not be read there: then the scan tries by itself, with patience */
  readonly isReadable: boolean
}

/** The thread's side: answers what it is asked, out of the medium that `open` returns. */
export function answerQuestions(open: (medium: unknown) => ByteSource): void {
  const { port, counts, medium } = workerData as HelperData
  let image: ByteSource | null = null
  port.on('message', ({ key, question }: HelperQuestion) => {
    let told: HelperAnswer = { key, answer: undefined, isReadable: false }
    try {
      image ??= watched(open(medium), () => Atomics.add(counts, READS, 1))
      told = { key, answer: answerTo(image, question), isReadable: true }
    } catch {
      // The scan meets the same fault, and knows what to do about it.
    }
    port.postMessage(told)
    Atomics.add(counts, ANSWERS, 1)
    Atomics.notify(counts, ANSWERS)
  })
}
