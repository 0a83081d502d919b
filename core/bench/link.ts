import type { ActionName, ActionOffer, ActionParameters, Task } from './action'
import type { ItemPage, LinkItem } from './item'
import type { Answer, LinkState } from './state'

/** Where an item is restored to, and what it was. */
export interface PutBack {
  readonly item: Pick<LinkItem, 'id' | 'name' | 'place' | 'type' | 'mime' | 'made' | 'record'>
  readonly bytes: Uint8Array
}

/** The bytes of an item, as they arrive. */
export interface ItemBytes extends AsyncIterable<Uint8Array> {
  /** after they have all arrived: how many of them were unreadable and are zeros */
  readonly missingBytes?: number
}

/**
 * Anything connected to the bench: a phone on a cable, an account, a computer, a folder of backups. Everything that the
 * bench does uses these eight methods; a driver for another kind is one more file that has them. Every failure is a
 * LinkFailure.
 */
export interface Link {
  state(): Promise<LinkState>
  /** passes on what a person said or did: a passcode, a password, trust */
  answer(answer: Answer): Promise<LinkState>
  /** items of one keep, a page at a time */
  list(keep: string, after: number): Promise<ItemPage>
  /** an item's bytes from an offset on, as they come */
  read(keep: string, item: string, from?: number): Promise<ItemBytes>
  putBack(keep: string, what: PutBack): Promise<void>
  /** what an action would need and do, without doing it */
  offer(action: ActionName, parameters: ActionParameters): Promise<ActionOffer>
  /** starts an action; refused by the link itself where a precondition is not met */
  act(action: ActionName, parameters: ActionParameters): Promise<Task>
  /** releases what was needed for the work: sessions, unlocking */
  leave(): Promise<void>
}

/** All bytes of one item; refuses one larger than `most` bytes. */
export async function readWhole(parts: AsyncIterable<Uint8Array>, most: number): Promise<Uint8Array> {
  const chunks: Uint8Array[] = []
  let size = 0
  for await (const part of parts) {
    size += part.length
    if (size > most) throw new RangeError(`is larger than ${most} bytes`)
    chunks.push(part)
  }
  const whole = new Uint8Array(size)
  let at = 0
  for (const chunk of chunks) {
    whole.set(chunk, at)
    at += chunk.length
  }
  return whole
}
