import type { H3Event } from 'h3'
import { Failure, notFound } from '../failure'

/** A page of another origin may not write here, whatever cookies its reader has; and only our own routes answer. */
export default defineEventHandler((event) => {
  // The session package brings a route of its own, which nothing here uses.
  if (event.path.startsWith('/api/_auth')) return told(event, notFound('such address'))
  if (!event.path.startsWith('/api/') || event.method === 'GET' || event.method === 'HEAD') return
  const origin = getRequestHeader(event, 'origin')
  if (!origin) return
  const host = getRequestHost(event)
  if (URL.canParse(origin) && new URL(origin).host === host) return
  return told(event, new Failure('foreign-origin', 'That came from another site.'))
})

function told(event: H3Event, { status, body }: Failure) {
  setResponseStatus(event, status)
  return body
}
