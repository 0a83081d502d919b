import { isLoopback } from '../people/tries'

const LOOPBACK_NAMES = new Set(['localhost', '127.0.0.1', '[::1]'])

/** The host of a Host header without its port, in small letters; null where it is none (RFC 9110, section 7.2). */
export function hostOf(header: string | undefined): string | null {
  const read = /^(\[[0-9a-f:.]+\]|[a-z0-9._-]+)(?::\d{1,5})?$/i.exec(header ?? '')
  return read ? read[1]!.toLowerCase().replace(/\.$/, '') : null
}

/**
 * Whether a request may ask by this host: a name of this machine itself, or the very address that it reached. Any other name
 * that leads here may be somebody else's, whose pages would be taken for ours.
 */
export function isOwnHost(header: string | undefined, reached: string, names: ReadonlySet<string>): boolean {
  const host = hostOf(header)
  if (host === null) return false
  if (names.has(host)) return true
  const address = reached.replace(/^::ffff:/i, '').split('%')[0]!
  if (isLoopback(address) && (LOOPBACK_NAMES.has(host) || isLoopback(host))) return true
  return host === address || host === `[${address.toLowerCase()}]`
}
