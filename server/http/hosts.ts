import { isLoopback } from '../people/tries'

const LOOPBACK_NAMES = new Set(['localhost', '127.0.0.1', '[::1]'])

/**
 * The host of a Host header without its port, in lower case; null where the header is invalid (RFC 9110, section 7.2).
 */
export function hostOf(header: string | undefined): string | null {
  const read = /^(\[[0-9a-f:.]+\]|[a-z0-9._-]+)(?::\d{1,5})?$/i.exec(header ?? '')
  return read ? read[1]!.toLowerCase().replace(/\.$/, '') : null
}

/**
 * Whether a request may name this host: a name of this machine, or the address that the request reached. Any other name
 * that leads here may belong to somebody else, whose pages would then count as ours.
 */
export function isOwnHost(header: string | undefined, reached: string, names: ReadonlySet<string>): boolean {
  const host = hostOf(header)
  if (host === null) return false
  if (names.has(host)) return true
  const address = reached.replace(/^::ffff:/i, '').split('%')[0]!
  if (isLoopback(address) && (LOOPBACK_NAMES.has(host) || isLoopback(host))) return true
  return host === address || host === `[${address.toLowerCase()}]`
}
