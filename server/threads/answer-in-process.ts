import { constants, setPriority } from 'node:os'
import { LinkFailure } from '../../core/bench/fault'
import type { FromProcess, ToProcess } from './process-line'

interface Open {
  readonly id: number
  readonly order: unknown
  readonly parts: Uint8Array[]
}

/**
 * Runs in a process beside the server and answers one order after the other. `bytes` come with the order, at most as
 * many as the sender allows. A LinkFailure is passed on as it is; any other error as its message.
 */
export function answerInProcess<Order>(answer: (order: Order, bytes: Uint8Array) => unknown): void {
  try {
    setPriority(constants.priority.PRIORITY_BELOW_NORMAL)
  } catch {
    // Not every system lets a process lower its priority; it works all the same.
  }
  let open: Open | null = null
  const tell = (message: FromProcess) => process.send?.(message)
  const work = async ({ id, order, parts }: Open) => {
    try {
      tell({ id, result: await answer(order as Order, Buffer.concat(parts)) })
    } catch (error) {
      tell({ id, fault: error instanceof LinkFailure ? error.fault : (error as Error).message })
    }
  }
  process.on('message', (message: ToProcess) => {
    if ('order' in message) {
      open = { id: message.id, order: message.order, parts: [] }
      if (!message.hasParts) void work(open)
    } else if (open?.id === message.id) {
      if (message.part) open.parts.push(message.part)
      else void work(open)
    }
  })
  // Without a server there is nobody to read for.
  process.on('disconnect', () => process.exit(0))
  process.on('SIGINT', () => {})
}
