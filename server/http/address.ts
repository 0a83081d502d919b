import { isLoopback } from '../people/tries'

export const LOOPBACK = '127.0.0.1'
const DEFAULT_PORT = 4747

/** The address that the settings ask this server to listen on. */
export function askedAddress(env = process.env): { host: string; port: number; isOpen: boolean } {
  const host = env.LANTERN_HOST || LOOPBACK
  return {
    host,
    port: Number(env.LANTERN_PORT || env.PORT || DEFAULT_PORT),
    isOpen: host !== 'localhost' && !isLoopback(host),
  }
}

/** The address by which this machine reaches its own server, without TLS. */
export function ownAddress(env = process.env): string {
  const { host, port, isOpen } = askedAddress(env)
  const here = isOpen ? LOOPBACK : host
  return `http://${here.includes(':') ? `[${here}]` : here}:${port}`
}
