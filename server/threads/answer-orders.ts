import { parentPort } from 'node:worker_threads'

export interface LineOrder {
  readonly id: number
  readonly order: unknown
}
export interface LineAnswer {
  readonly id: number
  readonly result?: unknown
  readonly fault?: { readonly code: string; readonly message: string }
}

/** Runs in a thread and answers one order after the other. Bytes of an answer are transferred, not copied. */
export function answerOrders<Order>(answer: (order: Order) => unknown): void {
  parentPort!.on('message', ({ id, order }: LineOrder) => {
    try {
      const result = answer(order as Order)
      parentPort!.postMessage({ id, result } satisfies LineAnswer, handedOver(result))
    } catch (error) {
      const { code, stack, message } = error as NodeJS.ErrnoException
      // System errors are passed on; anything else is a bug and reported in full.
      const fault = { code: code ?? '', message: code === undefined ? (stack ?? message) : message }
      parentPort!.postMessage({ id, fault } satisfies LineAnswer)
    }
  })
}

function handedOver(result: unknown): ArrayBuffer[] {
  const { bytes } = (result ?? {}) as { bytes?: unknown }
  return bytes instanceof Uint8Array ? [bytes.buffer as ArrayBuffer] : []
}
