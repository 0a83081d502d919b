import { RateLimiterMemory, type RateLimiterRes } from 'rate-limiter-flexible'
import { isIP } from 'node:net'
import { Failure } from '../failure'

const MINUTE_S = 60
const HOUR_S = 3600

/** From where somebody tries to sign in. */
export interface Origin {
  /** as `addressOf` gives it */
  readonly address: string
  /** the digest of the browser's secret, where this person has signed in from it before; otherwise null */
  readonly device: string | null
}

/**
 * Limits guesses at passwords. Each attempt counts before it is looked at, so that attempts at the same moment count too:
 *
 * - for a name from one address or one known device: 5 a minute, 40 in half a day;
 * - from one address, whatever the names: 10 a minute;
 * - for a name from all addresses: 60 an hour.
 *
 * A known device counts for itself alone, and the shop's own machine not for the last, so that strangers lock nobody out.
 */
export class Tries {
  private readonly pair = limiter('pair', 5, MINUTE_S)
  private readonly pairLong = limiter('pair-long', 40, 12 * HOUR_S)
  private readonly address = limiter('address', 10, MINUTE_S)
  private readonly name = limiter('name', 60, HOUR_S)

  /** Counts an attempt; throws a Failure with the seconds to wait where it is over a limit. */
  async begin(name: string, origin: Origin): Promise<void> {
    // In this order: an attempt that one limit refuses does not use up the next.
    for (const [limit, key] of this.limitsFor(name, origin))
      await limit.consume(key).catch((passed: RateLimiterRes | Error) => {
        if (passed instanceof Error) throw passed
        const seconds = Math.ceil(passed.msBeforeNext / 1000)
        throw new Failure('too-many-tries', `Too many attempts to sign in. Try again in ${waitWords(seconds)}.`)
      })
  }

  /** The password was right: the attempts before it no longer count. */
  async wasRight(name: string, origin: Origin): Promise<void> {
    const key = pairKey(name, origin)
    await Promise.all([
      this.pair.delete(key),
      this.pairLong.delete(key),
      ...this.limitsFor(name, origin)
        .filter(([limit]) => limit === this.address || limit === this.name)
        .map(([limit, one]) => limit.reward(one)),
    ])
  }

  private limitsFor(name: string, origin: Origin): (readonly [RateLimiterMemory, string])[] {
    const key = pairKey(name, origin)
    const own = [[this.pair, key] as const, [this.pairLong, key] as const]
    if (origin.device) return own
    const everywhere = isLoopback(origin.address) ? [] : [[this.name, name] as const]
    return [[this.address, origin.address] as const, ...own, ...everywhere]
  }
}

const limiter = (keyPrefix: string, points: number, duration: number) =>
  new RateLimiterMemory({ keyPrefix, points, duration })

const pairKey = (name: string, { address, device }: Origin) => `${name}|${device ?? address}`

const waitWords = (seconds: number) => (seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`)

const MAPPED = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i

/**
 * The address of a connection for the limits: an IPv4 address whole, of IPv6 the first 64 bits, which one machine has
 * to itself.
 */
export function addressOf(remote: string | undefined): string {
  const plain = MAPPED.exec(remote ?? '')?.[1] ?? remote ?? ''
  if (isIP(plain) !== 6 || plain === '::1') return plain
  const [head = '', tail = ''] = plain.split('%')[0]!.split('::')
  const first = head.split(':').filter(Boolean)
  const last = tail.split(':').filter(Boolean)
  const zeros = plain.includes('::') ? Array<string>(Math.max(0, 8 - first.length - last.length)).fill('0') : []
  return `${[...first, ...zeros, ...last].slice(0, 4).join(':')}::/64`
}

/** Whether an address is this machine's own (RFC 1122, section 3.2.1.3; RFC 4291, section 2.5.3). */
export const isLoopback = (address: string) => address === '::1' || /^127\.\d+\.\d+\.\d+$/.test(address)
