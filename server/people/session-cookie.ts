import type { H3Event } from 'h3'
import { deleteCookie, getCookie, setCookie } from 'h3'
import { MAX_SESSION_MS } from '../../core/people/session'
import { KNOWN_FOR_MS } from './known-devices'

/** The form of a secret from `newSecret`; anything else in a cookie is not looked up. */
const SECRET = /^[A-Za-z0-9_-]{43}$/

/** Whether a request came over TLS to this server itself. */
export const isEncrypted = (event: H3Event) => 'encrypted' in event.node.req.socket

/** With TLS the prefix of its name binds a cookie to this host and to TLS (RFC 6265bis, section 4.1.3.2). */
const named = (event: H3Event, name: string) => (isEncrypted(event) ? `__Host-${name}` : name)

const optionsOf = (event: H3Event) =>
  ({ httpOnly: true, sameSite: 'strict', path: '/', secure: isEncrypted(event) }) as const

function cookie(name: string, lifetimeMs: number) {
  return {
    read(event: H3Event): string | null {
      const value = getCookie(event, named(event, name)) ?? ''
      return SECRET.test(value) ? value : null
    },
    write(event: H3Event, secret: string): void {
      setCookie(event, named(event, name), secret, { ...optionsOf(event), maxAge: lifetimeMs / 1000 })
    },
    clear(event: H3Event): void {
      deleteCookie(event, named(event, name), optionsOf(event))
    },
  }
}

/** The secret of a session. */
export const sessionCookie = cookie('lantern', MAX_SESSION_MS)
/** The secret by which a browser is recognised, also after signing out. It opens nothing. */
export const deviceCookie = cookie('lantern-device', KNOWN_FOR_MS)
