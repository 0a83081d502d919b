import { inflateRawSync } from 'node:zlib'
import type { FileHandle } from 'node:fs/promises'
import { cleanName } from '../../core/archives/entry-name'
import { crc32 } from '../../core/sources/checksums'

/** An entry found by its local header: the offset of its bytes in the file, and how many are stored. */
export interface SalvagedEntry {
  readonly name: string
  readonly bytes: number
  readonly changed: null
  readonly at: number
  readonly stored: number
  readonly isDeflated: boolean
}

/** The largest archive that is searched without its directory; it is held in memory for that, in bytes. */
const MAX_BYTES = 1 << 30
/** The largest entry that is unpacked to check that it is whole, in bytes. */
const MAX_UNPACKED = 256 << 20
/** At most this much of one archive is unpacked to check entries, in bytes; entries beyond are left out. */
const MAX_UNPACKED_IN_ALL = 4 * 1024 ** 3
const LOCAL_HEADER = Buffer.from([0x50, 0x4b, 3, 4])
const HEADER_BYTES = 30
const FLAG_SIZES_FOLLOW = 8

/**
 * Whole entries of a zip archive whose central directory is missing, found by their local headers
 * (APPNOTE 4.3.7) and proved by their checksums. What cannot be proved is left out.
 */
export async function salvageZip(file: FileHandle): Promise<SalvagedEntry[]> {
  const { size } = await file.stat()
  if (size > MAX_BYTES) return []
  const bytes = await file.readFile()
  const found: SalvagedEntry[] = []
  let left = MAX_UNPACKED_IN_ALL
  let at = bytes.indexOf(LOCAL_HEADER)
  while (at >= 0 && at + HEADER_BYTES <= bytes.length && left > 0) {
    const entry = entryAt(bytes, at)
    if (entry) {
      found.push(entry)
      left -= entry.bytes
    }
    at = bytes.indexOf(LOCAL_HEADER, entry ? entry.at + entry.stored : at + 4)
  }
  return found
}

function entryAt(bytes: Buffer, at: number): SalvagedEntry | null {
  const flags = bytes.readUInt16LE(at + 6)
  const method = bytes.readUInt16LE(at + 8)
  const nameBytes = bytes.readUInt16LE(at + 26)
  const from = at + HEADER_BYTES + nameBytes + bytes.readUInt16LE(at + 28)
  const name = bytes.toString('utf8', at + HEADER_BYTES, at + HEADER_BYTES + nameBytes)
  if ((method !== 0 && method !== 8) || (flags & 1) !== 0 || cleanName(name) === null || name.endsWith('/')) return null
  const isFollowed = (flags & FLAG_SIZES_FOLLOW) !== 0
  // Stored without a size, its end is unknown.
  if (isFollowed && method === 0) return null
  const unpacked = isFollowed
    ? inflated(bytes.subarray(from))
    : unpackedEntry(bytes.subarray(from, from + bytes.readUInt32LE(at + 18)), method, bytes.readUInt32LE(at + 18))
  if (!unpacked) return null
  const sum = isFollowed ? followingSum(bytes, from + unpacked.stored) : bytes.readUInt32LE(at + 14)
  if (sum !== crc32(unpacked.bytes)) return null
  return {
    name: cleanName(name)!,
    bytes: unpacked.bytes.length,
    changed: null,
    at: from,
    stored: unpacked.stored,
    isDeflated: method === 8,
  }
}

interface Unpacked {
  readonly bytes: Uint8Array
  readonly stored: number
}

function unpackedEntry(raw: Buffer, method: number, stored: number): Unpacked | null {
  if (raw.length < stored) return null
  if (method === 0) return { bytes: raw, stored }
  const out = inflated(raw)
  return out && out.stored === stored ? out : null
}

function inflated(raw: Buffer): Unpacked | null {
  try {
    const out = inflateRawSync(raw, { info: true, maxOutputLength: MAX_UNPACKED }) as unknown as {
      buffer: Buffer
      engine: { bytesWritten: number }
    }
    return { bytes: out.buffer, stored: out.engine.bytesWritten }
  } catch {
    return null
  }
}

/** The checksum in the descriptor behind an entry, with or without its signature (APPNOTE 4.3.9). */
function followingSum(bytes: Buffer, at: number): number | null {
  if (at + 8 > bytes.length) return null
  return bytes.readUInt32LE(at) === 0x08074b50 ? bytes.readUInt32LE(at + 4) : bytes.readUInt32LE(at)
}
