import type { H3Event } from 'h3'
import { sendStream, setResponseHeaders } from 'h3'
import { logFault } from '../log-fault'
import type { ZipSending } from './write-bundle'

/** Sends an archive while it is packed. What was sent already cannot be taken back: at a fault the connection is cut. */
export function sendZip(event: H3Event, zip: ZipSending, name: string): Promise<void> {
  setResponseHeaders(event, {
    'content-type': 'application/zip',
    'content-disposition': `attachment; filename="${name}"`,
    'x-content-type-options': 'nosniff',
  })
  const stream = zip.end().once('error', (error) => {
    logFault(error)
    event.node.res.destroy()
  })
  return sendStream(event, stream)
}
