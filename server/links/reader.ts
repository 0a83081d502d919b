import { linkFailure } from '../../core/bench/fault'
import type { Description, ReadBytes, ReadOrder } from '../threads/messages'
import { ThreadFailure, WorkerLine } from '../threads/worker-line'
import type { Medium } from './medium'

/** A reader that was not used for this long is closed, and its medium with it. */
const IDLE_MS = 120_000
const MAX_READERS = 8
/** Limits of one order: a worn medium may take long, but none needs more time or memory than this to be described. */
const LIMITS = { ms: 120_000, heapMb: 1024 }

/** One thread a medium: a slow or worn one delays only requests for itself. */
const readers = new Map<string, WorkerLine>()

type Without<Order> = Order extends ReadOrder ? Omit<Order, 'medium'> : never

export const describe = (medium: Medium) => ask<Description>(medium, { ask: 'describe' })
export const readFrom = (medium: Medium, what: Omit<Extract<ReadOrder, { ask: 'read' }>, 'medium' | 'ask'>) =>
  ask<ReadBytes>(medium, { ask: 'read', ...what })

async function ask<Result>(medium: Medium, order: Without<ReadOrder>): Promise<Result> {
  try {
    return await readerOf(medium).ask<Result>({ ...order, medium: medium.place })
  } catch (error) {
    throw error instanceof ThreadFailure ? failureOf(error) : error
  }
}

function failureOf({ code, message }: ThreadFailure): Error {
  if (code === 'ENOENT') return linkFailure('not-found', 'The medium is no longer there.')
  if (code === 'EACCES' || code === 'EPERM')
    return linkFailure('not-ready', 'The server has no permission to read the medium.')
  if (code === 'ENDED')
    return linkFailure('interrupted', 'The medium was closed in the meantime, or did not answer for two minutes.')
  // An error without a code is a bug of this program; the operator reads it.
  return code === '' ? new Error(message) : linkFailure('interrupted', 'The medium cannot be read any more.')
}

/** The reader of a medium, started where there is none. */
function readerOf(medium: Medium): WorkerLine {
  const key = `${medium.id} ${medium.stamp}`
  for (const [other, { isBusy, used }] of readers) if (!isBusy && used < Date.now() - IDLE_MS) drop(other)
  const known = readers.get(key)
  if (known) return known
  const idle = [...readers].filter(([, one]) => !one.isBusy).sort(([, one], [, other]) => one.used - other.used)
  if (readers.size >= MAX_READERS && idle[0]) drop(idle[0][0])
  const reader: WorkerLine = new WorkerLine(
    'read-media',
    null,
    () => {
      if (readers.get(key) === reader) readers.delete(key)
    },
    LIMITS,
  )
  readers.set(key, reader)
  return reader
}

/** Closes a medium as it is open now, and forgets what opened it. */
export const closeReader = ({ id, stamp }: Medium) => drop(`${id} ${stamp}`)

function drop(key: string): void {
  const reader = readers.get(key)
  readers.delete(key)
  reader?.end()
}
