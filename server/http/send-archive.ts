import type { Readable } from 'node:stream'
import type { H3Event } from 'h3'
import { sendStream, setResponseHeaders } from 'h3'
import { logFault } from '../log-fault'

/**
 * Sends a zip archive while it is packed. What was sent already cannot be taken back: at a fault the connection is cut, so
 * that the download fails. `size`: bytes, where it is known beforehand.
 */
export function sendArchive(event: H3Event, stream: Readable, name: string, size?: number): Promise<void> {
  setResponseHeaders(event, {
    'content-type': 'application/zip',
    'content-disposition': `attachment; filename="${name}"`,
    'x-content-type-options': 'nosniff',
    ...(size === undefined ? {} : { 'content-length': size }),
  })
  return sendStream(
    event,
    stream.once('error', (error) => {
      logFault(error)
      event.node.res.destroy()
    }),
  )
}
