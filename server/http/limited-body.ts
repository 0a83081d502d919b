import type { IncomingMessage } from 'node:http'
import { Failure } from '../failure'

/** The largest form or case file in bytes; images are uploaded in another way. */
export const MAX_BODY_BYTES = 4_000_000

export const tooLarge = (most: number) =>
  new Failure('too-large', `The request is larger than ${most / 1_000_000} MB.`, { safe: 'Nothing of it was read.' })

/**
 * The whole body of a request, counted as it arrives, whatever its headers say; throws a Failure beyond `most` bytes.
 */
export async function readLimited(request: IncomingMessage, most: number): Promise<Buffer> {
  const parts: Buffer[] = []
  let bytes = 0
  await new Promise<void>((done, failed) => {
    const onData = (part: Buffer) => {
      bytes += part.length
      if (bytes <= most) return void parts.push(part)
      request.off('data', onData)
      request.pause()
      failed(tooLarge(most))
    }
    request.on('data', onData)
    request.once('end', done)
    request.once('error', failed)
    request.once('close', () => failed(new Failure('invalid', 'The request was cut off.')))
  })
  return Buffer.concat(parts)
}
