import { Failure } from '../failure'

/** A password to be hashed, or to be held against a hash. */
export interface HashOrder {
  readonly password: string
  readonly hash?: string
}

/** Whoever signs in where they have signed in before goes ahead of strangers. */
export type Lane = 'known' | 'strange'
/** At a third of a second each, the last of a full lane waits for ten seconds; whoever comes then is asked to come again. */
export const MAX_WAITING = 30

interface Waiting {
  /** whoever asks: of several who wait, each is served in turn, however much one of them asks for */
  readonly from: string
  readonly order: HashOrder
  readonly done: (result: string | boolean) => void
  readonly failed: (error: unknown) => void
}

/** Password hashes one at a time, since each takes 128 MiB and a core: two bounded lanes, known devices first. */
export class HashQueue {
  private readonly lanes: Record<Lane, Waiting[]> = { known: [], strange: [] }
  private isBusy = false
  /** by whom, when each was served last; only of those who wait */
  private readonly served = new Map<string, number>()
  private turn = 0

  /** `work`: does one order, beside the server's thread */
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

  /** The first that waits of whoever was served the longest ago. */
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
