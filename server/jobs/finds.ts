import { Worker } from 'node:worker_threads'
import { jobFile } from './files'
import type { FindAnswer, FindGiven, FindOrder, FindOrderName, FindResult } from './find-orders'

let worker: Worker | null = null
let next = 0
const waiting = new Map<number, { done: (result: unknown) => void; failed: (error: Error) => void }>()

/** Has something done with a found list in the thread for such; begun where there is none. */
export async function askFinds<Name extends FindOrderName>(
  name: Name,
  ...given: FindGiven<Name>
): Promise<FindResult<Name>> {
  worker ??= begin()
  const id = next++
  const result = await new Promise<unknown>((done, failed) => {
    waiting.set(id, { done, failed })
    worker!.postMessage({ id, name, given } satisfies FindOrder)
  })
  return result as FindResult<Name>
}

function begin(): Worker {
  const begun = new Worker(jobFile('count-finds'), { workerData: { dataFolder: dataFolder() } })
  begun.unref()
  begun.on('message', (answer: FindAnswer) => {
    const one = waiting.get(answer.id)
    waiting.delete(answer.id)
    if ('fault' in answer) one?.failed(new Error(answer.fault))
    else one?.done(answer.result)
  })
  const end = (error: Error) => {
    for (const { failed } of waiting.values()) failed(error)
    waiting.clear()
    if (worker === begun) worker = null
  }
  begun.on('error', end)
  begun.on('exit', () => end(new Error('The thread of the found lists has ended.')))
  return begun
}
