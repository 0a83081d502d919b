import { Failure } from '../failure'
import { addressFrom } from '../people/sign-in'
import { logSecurity } from '../people/security-log'
import { isEncrypted } from '../people/session-cookie'

/** A page of another origin may not write here, whatever cookies its reader has. Personal answers are never cached. */
export default defineEventHandler((event) => {
  if (!event.path.startsWith('/api/')) return
  setResponseHeader(event, 'cache-control', 'no-store')
  if (event.method === 'GET' || event.method === 'HEAD') return
  const origin = getRequestHeader(event, 'origin')
  const site = getRequestHeader(event, 'sec-fetch-site')
  const isForeign =
    origin === undefined
      ? site !== undefined && site !== 'same-origin' && site !== 'none'
      : !isOwn(origin, getRequestHost(event), isEncrypted(event))
  if (!isForeign) return
  const { database, clock } = useLantern()
  logSecurity(database, { event: 'foreign-origin', address: addressFrom(event) }, clock.now())
  const { status, body } = new Failure('foreign-origin', 'This request came from another site.')
  setResponseStatus(event, status)
  return body
})

function isOwn(origin: string, host: string, isEncrypted: boolean): boolean {
  if (!URL.canParse(origin)) return false
  const { host: from, protocol } = new URL(origin)
  return from === host && (!isEncrypted || protocol === 'https:')
}
