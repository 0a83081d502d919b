import { closeSync, fstatSync, openSync, readSync } from 'node:fs'
import type { ByteSource } from '../core/sources/source'
import { UnreadableError } from '../core/sources/patient-source'

export interface OpenFile extends ByteSource {
  close(): void
}

const SMALL_BYTES = 4096

/** Error codes of a faulty medium; any other error stops the reading. */
const UNREADABLE = new Set(['EIO', 'EREMOTEIO', 'ENODATA', 'EILSEQ'])

/**
 * A file, a disk image or a block device as a source, opened for reading only. What the medium does not return is reported
 * as unreadable. Throws what the system throws where it cannot be opened.
 */
export function openFile(path: string): OpenFile {
  const descriptor = openSync(path, 'r')
  const facts = fstatSync(descriptor)
  const size = facts.isBlockDevice() ? deviceBytes(descriptor) : facts.size
  const readInto = (bytes: Uint8Array, offset: number) => {
    let have = 0
    while (have < bytes.length) {
      const more = readSome(descriptor, bytes, have, offset)
      if (more === 0) break
      have += more
    }
    return have
  }
  return {
    size,
    read: (offset, length) => {
      const part = Math.max(0, Math.min(length, size - offset))
      // Small reads come by the hundred thousand: they share their memory. Nobody keeps or changes what was read.
      const bytes = part < SMALL_BYTES ? Buffer.allocUnsafe(part) : Buffer.allocUnsafeSlow(part)
      return new Uint8Array(bytes.buffer, bytes.byteOffset, readInto(bytes, offset))
    },
    readInto,
    close: () => closeSync(descriptor),
  }
}

function readSome(descriptor: number, bytes: Uint8Array, have: number, offset: number): number {
  try {
    return readSync(descriptor, bytes, have, bytes.length - have, offset + have)
  } catch (error) {
    if (UNREADABLE.has((error as NodeJS.ErrnoException).code ?? '')) throw new UnreadableError(offset, bytes.length)
    throw error
  }
}

/** A device reports no size; its end is found by bisection. */
function deviceBytes(descriptor: number): number {
  const probe = Buffer.alloc(1)
  const isThere = (offset: number) => {
    try {
      return readSync(descriptor, probe, 0, 1, offset) === 1
    } catch (error) {
      return UNREADABLE.has((error as NodeJS.ErrnoException).code ?? '')
    }
  }
  if (!isThere(0)) return 0
  let beyond = 512
  while (beyond < 2 ** 52 && isThere(beyond)) beyond *= 2
  let [low, high] = [Math.floor(beyond / 2), beyond]
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (isThere(middle)) low = middle
    else high = middle
  }
  return high
}
