import { randomBytes, scryptSync, timingSafeEqual } from 'node:crypto'

/** The cost of scrypt (RFC 7914) as the OWASP Password Storage Cheat Sheet names it first: 128 MiB for each hash. */
export const COST = { n: 2 ** 17, r: 8, p: 1 }
type Cost = typeof COST
const SALT_BYTES = 16
const KEY_BYTES = 64
/** A hash that claims to cost more is not one of ours. */
const MAX_MEMORY = 512 << 20
const PATTERN = /^\$scrypt\$n=(\d+),r=(\d+),p=(\d+)\$([A-Za-z0-9+/]+)\$([A-Za-z0-9+/]+)$/

const derive = (password: string, salt: Buffer, { n, r, p }: Cost, bytes: number) =>
  scryptSync(password, salt, bytes, { N: n, r, p, maxmem: 128 * n * r + (32 << 20) })
const base64 = (bytes: Buffer) => bytes.toString('base64').replace(/=+$/, '')

/** Hashes a password; the result contains cost and salt. Takes a third of a second: not for the server's own thread. */
export function hashPassword(password: string): string {
  const salt = randomBytes(SALT_BYTES)
  const { n, r, p } = COST
  return `$scrypt$n=${n},r=${r},p=${p}$${base64(salt)}$${base64(derive(password, salt, COST, KEY_BYTES))}`
}

/** Whether a password fits a hash of any cost. False where it is no hash. */
export function fitsPassword(hash: string, password: string): boolean {
  const read = costOf(hash)
  if (!read) return false
  return timingSafeEqual(derive(password, read.salt, read.cost, read.key.length), read.key)
}

/** Whether a hash has another cost than new ones. */
export function isOfOldCost(hash: string): boolean {
  const cost = costOf(hash)?.cost
  return cost?.n !== COST.n || cost.r !== COST.r || cost.p !== COST.p
}

function costOf(hash: string): { cost: Cost; salt: Buffer; key: Buffer } | null {
  const [, n, r, p, salt, key] = PATTERN.exec(hash) ?? []
  if (!salt || !key) return null
  const cost = { n: Number(n), r: Number(r), p: Number(p) }
  return 128 * cost.n * cost.r > MAX_MEMORY || cost.p > 4
    ? null
    : { cost, salt: Buffer.from(salt, 'base64'), key: Buffer.from(key, 'base64') }
}
