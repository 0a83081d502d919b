import { createHash } from 'node:crypto'
import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readSync,
  statfsSync,
  unlinkSync,
  writeSync,
} from 'node:fs'
import { dirname, join } from 'node:path'
import type { ByteSource } from '../core/sources/source'

const STEP_BYTES = 1024 * 1024

/** The checksum of what a source holds, in hexadecimal. */
export function sha256Of(source: ByteSource): string {
  const hash = createHash('sha256')
  for (let at = 0; at < source.size; at += STEP_BYTES)
    hash.update(source.read(at, Math.min(STEP_BYTES, source.size - at)))
  return hash.digest('hex')
}

/** Bytes that can still be written where a path is, or will be. */
export function roomAt(path: string): number {
  let there = path
  while (!existsSync(there) && dirname(there) !== there) there = dirname(there)
  const { bavail, bsize } = statfsSync(there)
  return bavail * bsize
}

/**
 * Writes what a source holds to a new file below a folder, and reads it back from there: answers the checksum of what was
 * read back and whether it is that of the source. Never writes over a file that is there.
 */
export function writeItem(
  folder: string,
  path: string,
  source: ByteSource,
): { sha256: string; bytes: number; isVerified: boolean } {
  const full = join(folder, path)
  mkdirSync(dirname(full), { recursive: true })
  const descriptor = openSync(full, 'wx+')
  try {
    const hash = createHash('sha256')
    for (let at = 0; at < source.size;) {
      const part = source.read(at, Math.min(STEP_BYTES, source.size - at))
      if (part.length === 0) break
      hash.update(part)
      for (let done = 0; done < part.length;) done += writeSync(descriptor, part, done, part.length - done, at + done)
      at += part.length
    }
    fsyncSync(descriptor)
    const { sha256, bytes } = readBack(descriptor)
    return { sha256, bytes, isVerified: sha256 === hash.digest('hex') && bytes === source.size }
  } catch (error) {
    // Half of a file under its name would pass for the file.
    unlinkSync(full)
    throw error
  } finally {
    closeSync(descriptor)
  }
}

function readBack(descriptor: number): { sha256: string; bytes: number } {
  const hash = createHash('sha256')
  const part = Buffer.alloc(STEP_BYTES)
  for (let at = 0; ;) {
    const have = readSync(descriptor, part, 0, part.length, at)
    if (have === 0) return { sha256: hash.digest('hex'), bytes: at }
    hash.update(part.subarray(0, have))
    at += have
  }
}
