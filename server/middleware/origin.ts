import { Failure } from '../failure'

/** A page of another origin may not write here, whatever cookies its reader has. */
export default defineEventHandler((event) => {
  if (!event.path.startsWith('/api/') || event.method === 'GET' || event.method === 'HEAD') return
  const origin = getRequestHeader(event, 'origin')
  if (!origin) return
  const host = getRequestHost(event)
  if (URL.canParse(origin) && new URL(origin).host === host) return
  const { status, body } = new Failure('foreign-origin', 'That came from another site.')
  setResponseStatus(event, status)
  return body
})
