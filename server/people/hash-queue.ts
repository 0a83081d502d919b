import { Failure } from '../failure'

/** A password to hash, or to check against a hash. */
export interface HashOrder {
  readonly password: string
  readonly hash?: string
}

/** Sign-ins from known devices go ahead of others. */
export type Lane = 'known' | 'strange'
/** At a third of a second each, the last of a full lane waits for ten seconds; further ones are asked to come again. */
export const MAX_WAITING = 30

interface Waiting {
  /** who asks: several who wait are served in turn, however many requests one of them has */
  readonly from: string
  readonly order: HashOrder
  readonly done: (result: string | boolean) => void
  readonly failed: (error: unknown) => void
}

/** Password hashes one at a time, since each takes 128 MiB and a core: two bounded lanes, known devices first. */
export class HashQueue {
  private readonly lanes: Record<Lane, Waiting[]> = { known: [], strange: [] }
  private isBusy = false
  /** when each was last served; only of those who wait */
  private readonly served = new Map<string, number>()
  private turn = 0

  /** `work`: carries out one order, beside the server's thread */
  constructor(private readonly work: (order: HashOrder) => Promise<string | boolean>) {}

  hash = (password: string) => this.ask({ password }, 'known', '') as Promise<string>
  fits = (hash: string, password: string, lane: Lane, from: string) =>
    this.ask({ password, hash }, lane, from) as Promise<boolean>

  /** Throws a Failure where the lane is full. */
  requireRoom(lane: Lane): void {
    if (this.lanes[lane].length < MAX_WAITING) return
    throw new Failure('too-many-tries', 'Too many people are signing in at once. Try again in a few seconds.')
  }

  private ask(order: HashOrder, lane: Lane, from: string): Promise<string | boolean> {
    this.requireRoom(lane)
    return new Promise((done, failed) => {
      this.lanes[lane].push({ from, order, done, failed })
      void this.next()
    })
  }

  /** The first waiting order of the person served longest ago. */
  private take(lane: Lane): Waiting | undefined {
    const waiting = this.lanes[lane]
    const turnOf = ({ from }: Waiting) => this.served.get(from) ?? 0
    const next = waiting.reduce<Waiting | undefined>(
      (best, one) => (best === undefined || turnOf(one) < turnOf(best) ? one : best),
      undefined,
    )
    if (!next) return undefined
    waiting.splice(waiting.indexOf(next), 1)
    this.served.set(next.from, ++this.turn)
    return next
  }

  private async next(): Promise<void> {
    if (this.isBusy) return
    const waiting = this.take('known') ?? this.take('strange')
    if (!waiting) return this.served.clear()
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
