import { createHmac, timingSafeEqual } from 'node:crypto'

/**
 * An entry of the history as the chain sees it: plain fields without anything about a client, the salted digest of its
 * content, and the encrypted content.
 */
export interface ChainEntry {
  /** 1, 2, 3 … over all cases */
  readonly id: number
  readonly caseId: number
  /** the version of the case that it belongs to */
  readonly version: number
  readonly at: string
  /** the name of the member of staff */
  readonly by: string
  readonly kind: string
  /** written before there was a chain, and added to it later */
  readonly isEarlier: boolean
  /** SHA-256 of salt and content, hex */
  readonly content: string
  /** salt and content, encrypted with the key of the case */
  readonly sealed: Uint8Array
  /** keyed digest of all of these and of the digest before, hex */
  readonly digest: string
}

/** The digest "before" the first entry. */
export const CHAIN_START = '0'.repeat(64)

/**
 * The digest of an entry after another one: HMAC-SHA-256 (RFC 2104) under the key of the shop over the digest before and
 * every field of the entry, each with its length, so that no two entries have the same text. Hex.
 */
export function chainDigest(key: Uint8Array, before: string, entry: Omit<ChainEntry, 'digest'>): string {
  const hmac = createHmac('sha256', key)
  const fields = [
    before,
    entry.id,
    entry.caseId,
    entry.version,
    entry.at,
    entry.by,
    entry.kind,
    entry.isEarlier ? 1 : 0,
    entry.content,
  ]
  for (const field of fields) {
    const bytes = Buffer.from(String(field), 'utf8')
    hmac.update(`${bytes.length}:`).update(bytes)
  }
  return hmac.update(`${entry.sealed.length}:`).update(entry.sealed).digest('hex')
}

/** The last entry of a chain: printed on sheets, so that a chain that was cut or rebuilt can be recognised. */
export interface ChainHead {
  /** number of entries */
  readonly count: number
  readonly digest: string
}

/** Hex digits of a head as printed; a forger would have to try 2^80 chains to hit one. */
const PRINTED_DIGITS = 20

/** A head as it is printed: number of entries and the first digits of the digest, in groups of five. */
export const printedHead = ({ count, digest }: ChainHead) =>
  `${count}-${digest.slice(0, PRINTED_DIGITS).match(/.{5}/g)!.join('-')}`

/** Where a chain does not fit, in a sentence, or what a chain that fits consists of. */
export type ChainReport =
  | { readonly fits: true; readonly head: ChainHead; readonly earlier: number }
  | { readonly fits: false; readonly entry: Pick<ChainEntry, 'id' | 'caseId' | 'at'> | null; readonly why: string }

/**
 * Follows a chain from its first entry. `expected`: the number of entries that were ever written, where that is known.
 * `head`: a head from a printed sheet, or at least 16 digits of a digest; the chain has to pass through it.
 */
export function verifyChain(
  key: Uint8Array,
  entries: Iterable<ChainEntry>,
  { expected = null, head = null }: { expected?: number | null; head?: string | null } = {},
): ChainReport {
  const wanted = head === null ? null : readHead(head)
  if (wanted && 'fault' in wanted) return { fits: false, entry: null, why: wanted.fault }
  let before = CHAIN_START
  let count = 0
  let earlier = 0
  let isPassed = wanted === null
  for (const entry of entries) {
    const wrong = (why: string): ChainReport => ({ fits: false, entry, why })
    if (entry.id !== count + 1) return wrong(`${missingWords(count + 1, entry.id - 1)} missing before it`)
    if (!sameDigest(entry.digest, chainDigest(key, before, entry)))
      return wrong('it was changed, or written without the key of this shop')
    before = entry.digest
    count++
    if (entry.isEarlier) earlier++
    if (wanted && before.startsWith(wanted.digits)) {
      if (wanted.count !== null && wanted.count !== count) continue
      isPassed = true
    } else if (wanted && wanted.count === count)
      return wrong('it is not the entry whose head was printed: the chain was written anew')
  }
  if (expected !== null && count < expected)
    return { fits: false, entry: null, why: `the end is missing: ${expected} entries were written, ${count} are there` }
  if (!isPassed)
    return {
      fits: false,
      entry: null,
      why: `the chain does not contain the head ${head}: its end is missing, or it was written anew`,
    }
  return { fits: true, head: { count, digest: before }, earlier }
}

const missingWords = (from: number, to: number) => (from === to ? `entry ${from} is` : `entries ${from} to ${to} are`)

const sameDigest = (one: string, other: string) =>
  one.length === other.length && timingSafeEqual(Buffer.from(one), Buffer.from(other))

function readHead(head: string): { count: number | null; digits: string } | { fault: string } {
  const said = head.trim().toLowerCase()
  const printed = /^(\d+)((?:-[0-9a-f]{5}){4})$/.exec(said)
  if (printed) return { count: Number(printed[1]), digits: printed[2]!.replaceAll('-', '') }
  if (/^[0-9a-f]{16,64}$/.test(said)) return { count: null, digits: said }
  return { fault: `“${head}” is not a head: it looks like 1204-0a1b2-c3d4e-5f607-18293, or like 16 to 64 hex digits` }
}
