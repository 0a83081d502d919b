import { Failure } from '../failure'

/** A password to be hashed, or to be held against a hash. */
export interface HashOrder {
  readonly password: string
  readonly hash?: string
}

/** Whoever signs in where they have signed in before goes ahead of strangers. */
export type Lane = 'known' | 'strange'
/** At a third of a second each, nobody in the queue waits for longer than a few seconds. */
export const MAX_WAITING = 12

interface Waiting {
  readonly order: HashOrder
  readonly done: (result: string | boolean) => void
  readonly failed: (error: unknown) => void
}

/** Password hashes one at a time, since each takes 128 MiB and a core: two bounded lanes, known devices first. */
export class HashQueue {
  private readonly lanes: Record<Lane, Waiting[]> = { known: [], strange: [] }
  private isBusy = false

  /** `work`: does one order, beside the server's thread */
  constructor(private readonly work: (order: HashOrder) => Promise<string | boolean>) {}

  hash = (password: string) => this.ask({ password }, 'known') as Promise<string>
  fits = (hash: string, password: string, lane: Lane) => this.ask({ password, hash }, lane) as Promise<boolean>

  /** Throws a Failure where the lane is full. */
  requireRoom(lane: Lane): void {
    if (this.lanes[lane].length < MAX_WAITING) return
    throw new Failure('too-many-tries', 'Too many people are signing in at once. Try again in a few seconds.')
  }

  private ask(order: HashOrder, lane: Lane): Promise<string | boolean> {
    this.requireRoom(lane)
    return new Promise((done, failed) => {
      this.lanes[lane].push({ order, done, failed })
      void this.next()
    })
  }

  private async next(): Promise<void> {
    if (this.isBusy) return
    const waiting = this.lanes.known.shift() ?? this.lanes.strange.shift()
    if (!waiting) return
    this.isBusy = true
    try {
      waiting.done(await this.work(waiting.order))
    } catch (error) {
      waiting.failed(error)
    } finally {
      this.isBusy = false
      void this.next()
    }
  }
}
