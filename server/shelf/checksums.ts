import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'

/** The SHA-256 of a file on disk, in hexadecimal, and its length in bytes. */
export async function checksumOf(path: string): Promise<{ sha256: string; bytes: number }> {
  const hash = createHash('sha256')
  let bytes = 0
  for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) {
    hash.update(chunk)
    bytes += chunk.length
  }
  return { sha256: hash.digest('hex'), bytes }
}
