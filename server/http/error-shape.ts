import type { H3Error, H3Event } from 'h3'
import { getRequestHeader, send, setResponseHeaders, setResponseStatus } from 'h3'
import type { ErrorShape } from '../../core/errors'
import { Failure, notFound } from '../failure'
import { tooLarge, MAX_BODY_BYTES } from './limited-body'
import { logFault } from '../log-fault'

/**
 * Every error that no route has answered leaves in the one shape of errors; a person who opens an address reads its
 * message.
 */
export default async function errorShape(error: H3Error, event: H3Event): Promise<void> {
  if (event.handled) return
  const { status, body } = failureOf(error)
  setResponseStatus(event, status)
  setResponseHeaders(event, { 'cache-control': 'no-store', 'x-content-type-options': 'nosniff' })
  const isPerson = getRequestHeader(event, 'sec-fetch-mode') === 'navigate'
  return isPerson
    ? send(event, `${body.message} ${body.safe}`, 'text/plain; charset=utf-8')
    : send(event, JSON.stringify(body), 'application/json; charset=utf-8')
}

function failureOf(error: H3Error): { status: number; body: ErrorShape } {
  if (error.statusCode === 404 || error.statusCode === 405) return notFound('such address')
  if (error.statusCode === 413) return tooLarge(MAX_BODY_BYTES)
  if (error.statusCode < 500) return new Failure('invalid', 'The request cannot be read.')
  logFault(error.cause ?? error)
  return new Failure('broken', 'The server failed because of a fault in it.', {
    safe: 'What was saved before is safe. This request was not carried out.',
  })
}
