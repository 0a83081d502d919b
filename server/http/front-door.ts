import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http'
import { Failure, notFound } from '../failure'
import { isLoopback, addressOf } from '../people/tries'
import { isOwnHost } from './hosts'
import { MAX_BODY_BYTES, tooLarge } from './limited-body'

export interface Door {
  /** names of this machine, besides its addresses */
  readonly names: ReadonlySet<string>
  /** seconds for which browsers use TLS only (HSTS); 0 sends no such header */
  readonly strictSeconds: number
  /** called for each refusal, with the address of the sender */
  readonly onRefused: (code: 'foreign-host' | 'too-large', address: string) => void
}

/** Routes that take raw bytes, straight to the disk or to a stand-in. */
const UNLIMITED = ['/api/bench/media/uploads/', '/api/cases/import/bundle', '/helper/']
/** How long a client may go on sending after it was answered, in ms. */
const LINGER_MS = 1000

/**
 * The first check of every request: a foreign host name, plain HTTP from another machine, or too large a body is
 * refused.
 */
export function frontDoor(inside: RequestListener, door: Door): RequestListener {
  return (request, response) => {
    response.once('finish', () => endSending(request))
    const isEncrypted = 'encrypted' in request.socket
    if (isEncrypted && door.strictSeconds > 0)
      response.setHeader('strict-transport-security', `max-age=${door.strictSeconds}`)
    const failure = refusalOf(request, door)
    if (failure) {
      const { code } = failure.body
      if (code === 'foreign-host' || code === 'too-large') door.onRefused(code, addressOf(request.socket.remoteAddress))
      return refuse(response, failure)
    }
    if (!isEncrypted && !isOfThisMachine(request)) return toTls(request, response)
    inside(request, response)
  }
}

function refusalOf({ socket, headers, url = '' }: IncomingMessage, { names }: Door): Failure | null {
  if (!isOwnHost(headers.host, socket.localAddress ?? '', names))
    return new Failure('foreign-host', 'This server does not answer by that name.', {
      safe: 'Use the address that the server showed when it started.',
    })
  if (!url.startsWith('/') || !canDecode(url)) return notFound('such address')
  const isLimited = !UNLIMITED.some((path) => url.startsWith(path))
  return isLimited && Number(headers['content-length'] ?? 0) > MAX_BODY_BYTES ? tooLarge(MAX_BODY_BYTES) : null
}

function canDecode(url: string): boolean {
  try {
    decodeURIComponent(url.split('?')[0]!)
    return true
  } catch {
    return false
  }
}

const isOfThisMachine = ({ socket }: IncomingMessage) =>
  isLoopback(addressOf(socket.remoteAddress)) && isLoopback(addressOf(socket.localAddress))

/** Pages are redirected to TLS; any other request, which may have sent a secret already, is refused. */
function toTls({ method, headers, url }: IncomingMessage, response: ServerResponse): void {
  if (method !== 'GET' && method !== 'HEAD')
    return refuse(response, new Failure('refused', 'This server accepts only https.'))
  response.writeHead(308, { location: `https://${headers.host}${url}`, connection: 'close' }).end()
}

/** Answers a failure in the one shape of errors. */
export function refuse(response: ServerResponse, { status, body }: Failure): void {
  response
    .writeHead(status, {
      'content-type': 'application/json; charset=utf-8',
      'cache-control': 'no-store',
      'x-content-type-options': 'nosniff',
      connection: 'close',
    })
    .end(JSON.stringify(body))
}

/** A body that nobody reads is not waited for. */
function endSending(request: IncomingMessage): void {
  if (request.complete) return
  setTimeout(() => {
    if (!request.complete) request.socket.destroy()
  }, LINGER_MS).unref()
}
