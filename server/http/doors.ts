import { createServer as createPlain, type RequestListener, type Server as PlainServer } from 'node:http'
import { createServer as createSecure } from 'node:https'
import { createServer as createSocketServer, type Server, type Socket } from 'node:net'
import type { Duplex } from 'node:stream'
import { Failure } from '../failure'

/** The longest that a request may take to arrive, in ms. */
const HEADERS_MS = 20_000
const MAX_CONNECTIONS = 2000
/** The first byte of a TLS record that begins a handshake (RFC 8446, section 5.1). */
const HANDSHAKE = 0x16

interface Certificate {
  readonly certificate: string
  readonly key: string
}

/** The ways into the server: plain HTTP on this machine itself, TLS on the same port for all others. */
export class Doors {
  private readonly plain: PlainServer
  private readonly secure: ReturnType<typeof createSecure> | null
  private readonly listening: Server[] = []
  private readonly sockets = new Set<Socket>()

  /** `certificate`: null where only this machine is let in */
  constructor(listener: RequestListener, certificate: Certificate | null) {
    const options = { headersTimeout: HEADERS_MS }
    this.plain = createPlain(options, listener)
    this.secure =
      certificate && createSecure({ ...options, ...contextOf(certificate), minVersion: 'TLSv1.2' }, listener)
    for (const server of [this.plain, this.secure]) server?.on('clientError', answerBadRequest)
  }

  /** Connections from now on get this certificate. */
  renew(certificate: Certificate): void {
    this.secure?.setSecureContext({ ...contextOf(certificate), minVersion: 'TLSv1.2' })
  }

  /** Listens on an address; fails where the port is in use. */
  open(host: string, port: number): Promise<void> {
    const server = createSocketServer({ noDelay: true, pauseOnConnect: false }, (socket) => this.enter(socket))
    server.maxConnections = MAX_CONNECTIONS
    this.listening.push(server)
    return new Promise((done, failed) => {
      server.once('error', failed)
      server.listen({ host, port }, done)
    })
  }

  /** Refuses new connections and ends all others, those with a request under way after at most `graceMs`. */
  async close(graceMs: number): Promise<void> {
    for (const server of this.listening) server.close()
    for (const server of [this.plain, this.secure]) server?.closeIdleConnections()
    const end = Date.now() + graceMs
    while (this.sockets.size > 0 && Date.now() < end) await new Promise((done) => setTimeout(done, 20))
    for (const socket of this.sockets) socket.destroy()
  }

  private enter(socket: Socket): void {
    this.sockets.add(socket)
    socket.once('close', () => this.sockets.delete(socket))
    if (!this.secure) return void this.plain.emit('connection', socket)
    const silent = setTimeout(() => socket.destroy(), HEADERS_MS)
    socket.once('error', () => socket.destroy())
    socket.once('data', (first: Buffer) => {
      clearTimeout(silent)
      socket.pause()
      socket.unshift(first)
      const server = first[0] === HANDSHAKE ? this.secure! : this.plain
      server.emit('connection', socket)
      process.nextTick(() => socket.resume())
    })
    socket.once('close', () => clearTimeout(silent))
  }
}

const contextOf = ({ certificate, key }: Certificate) => ({ cert: certificate, key })

/** Answers a request that is not HTTP, in the one shape of errors. */
function answerBadRequest({ code }: NodeJS.ErrnoException, socket: Duplex): void {
  // After a failed handshake there is nobody to answer.
  if (!socket.writable || !code?.startsWith('HPE_')) return void socket.destroy()
  const body = JSON.stringify(new Failure('invalid', 'The request cannot be read.').body)
  socket.end(
    `HTTP/1.1 400 Bad Request\r\ncontent-type: application/json\r\ncontent-length: ${Buffer.byteLength(body)}\r\nconnection: close\r\n\r\n${body}`,
  )
}
