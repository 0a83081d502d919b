import { createHash, pbkdf2Sync, timingSafeEqual } from 'node:crypto'
import { argon2i, argon2id } from 'hash-wasm'
import { Reader } from '../../sources/reader'
import type { ByteSource, Extent } from '../../sources/source'
import { LuksFault, type Digest, type KeyFunction, type KeySlot, type LuksHeader, type Segment } from './header'
import type { OpenedVolume } from './opened'
import { sectorCipher } from './sector-cipher'
import { readVersion1 } from './version-1'
import { readVersion2 } from './version-2'

/** No header may ask for more than the format allows, or for work without end. */
const MAX_KEY_BYTES = 64
const MAX_SLOT_BYTES = 16 * 1024 * 1024
const MAX_ITERATIONS = 50_000_000
/** The key function has no more than this at hand. */
const MAX_MEMORY_KIB = 2 * 1024 * 1024 - 1024
const MAX_PASSES_KIB = 64 * 1024 * 1024
const HASHES = ['sha1', 'sha224', 'sha256', 'sha384', 'sha512', 'ripemd160']
const UNIT_BYTES = 512

/**
 * Opens the encrypted volume whose header begins at a place of an image (offset and length in bytes): tries the passphrase on each
 * key slot, and returns where its data is and its key; null where it opens none of them. Throws a LuksFault where the
 * volume cannot be opened with any passphrase. Source: LUKS On-Disk Format Specification 1.2.3, section 4.2; LUKS2 On-Disk Format
 * Specification 1.1.1.
 */
export async function unlock(image: ByteSource, extent: Extent, passphrase: Uint8Array): Promise<OpenedVolume | null> {
  const header = readHeader(image, extent)
  if (header.slots.length === 0) throw new LuksFault('has no key slot that is read here')
  const { segment, version } = header
  const faults: LuksFault[] = []
  for (const slot of header.slots)
    try {
      const key = await keyIn(image, extent[0], slot, passphrase)
      if (!key) continue
      // A key that the cipher refuses is a fault now, and not in the middle of a scan.
      tried(segment, key)
      return {
        kind: `LUKS ${version}`,
        at: extent[0],
        offset: extent[0] + segment.extent[0],
        bytes: segment.extent[1],
        sectorBytes: segment.sectorBytes,
        firstUnit: segment.firstUnit,
        cipher: segment.cipher,
        key: Buffer.from(key).toString('base64'),
      }
    } catch (error) {
      if (!(error instanceof LuksFault)) throw error
      faults.push(error)
    }
  if (faults[0]) throw faults[0]
  return null
}

function tried({ cipher, sectorBytes }: Segment, key: Uint8Array): void {
  try {
    sectorCipher(cipher, key, sectorBytes)(new Uint8Array(sectorBytes), 0)
  } catch (error) {
    throw error instanceof LuksFault ? error : new LuksFault('has a key that its cipher refuses')
  }
}

/** The header of the encrypted volume at a place of an image, in bytes. Throws a LuksFault where it cannot be used. */
export function readHeader(image: ByteSource, extent: Extent): LuksHeader {
  const reader = new Reader(image)
  return reader.is(extent[0], 'LUKS\xba\xbe\0\x01') ? readVersion1(reader, extent) : readVersion2(reader, extent)
}

/** The key of the volume, where the passphrase opens this slot. */
async function keyIn(
  image: ByteSource,
  at: number,
  { keyFunction, keyBytes, stripes, hash, offset, cipher, cipherKeyBytes, digest }: KeySlot,
  passphrase: Uint8Array,
): Promise<Uint8Array | null> {
  const bytes = keyBytes * stripes
  if (
    keyBytes < 16 ||
    keyBytes > MAX_KEY_BYTES ||
    cipherKeyBytes > MAX_KEY_BYTES ||
    bytes > MAX_SLOT_BYTES ||
    stripes < 1
  )
    throw new LuksFault('has a damaged key slot: its lengths cannot be')
  requireHash(hash)
  const sectors = new Uint8Array(image.read(at + offset, Math.ceil(bytes / UNIT_BYTES) * UNIT_BYTES))
  if (sectors.length < bytes) throw new LuksFault('has a key slot beyond the end of the image')
  const decrypt = sectorCipher(cipher, await slotKey(keyFunction, passphrase, cipherKeyBytes), UNIT_BYTES)
  decrypt(sectors, 0)
  const key = joined(sectors.subarray(0, bytes), keyBytes, hash)
  return fits(key, digest) ? key : null
}

async function slotKey(by: KeyFunction, passphrase: Uint8Array, bytes: number): Promise<Uint8Array> {
  if (by.type === 'pbkdf2') return pbkdf2(passphrase, by, bytes)
  const { time, memory, cpus, salt, type } = by
  if (memory > MAX_MEMORY_KIB || memory * time > MAX_PASSES_KIB)
    throw new LuksFault(`asks for more work than is done here (${memory} KiB of memory, ${time} times)`)
  try {
    return await (type === 'argon2i' ? argon2i : argon2id)({
      password: passphrase,
      salt,
      parallelism: cpus,
      iterations: time,
      memorySize: memory,
      hashLength: bytes,
      outputType: 'binary',
    })
  } catch (error) {
    throw new LuksFault(`has a key function that cannot be computed here (${(error as Error).message})`)
  }
}

function pbkdf2(secret: Uint8Array, { hash, iterations, salt }: Omit<Digest, 'digest'>, bytes: number): Uint8Array {
  requireHash(hash)
  if (iterations < 1 || iterations > MAX_ITERATIONS)
    throw new LuksFault(`asks for more work than is done here (${iterations} iterations)`)
  return pbkdf2Sync(secret, salt, iterations, bytes, hash)
}

function requireHash(hash: string): void {
  if (!HASHES.includes(hash)) throw new LuksFault(`uses the hash ${hash.slice(0, 40)}, which is not known here`)
}

function fits(key: Uint8Array, digest: Digest): boolean {
  const own = pbkdf2(key, digest, digest.digest.length)
  return own.length > 0 && timingSafeEqual(own, digest.digest)
}

/** Joins the stripes of a key: each is mixed into the next (LUKS On-Disk Format Specification 1.2.3, section 2.4). */
function joined(stripes: Uint8Array, keyBytes: number, hash: string): Uint8Array {
  let key: Uint8Array = new Uint8Array(keyBytes)
  for (let at = 0; at < stripes.length; at += keyBytes) {
    for (let place = 0; place < keyBytes; place++) key[place]! ^= stripes[at + place]!
    if (at + keyBytes < stripes.length) key = spread(key, hash)
  }
  return key
}

/** Makes each bit depend on the others of its block: the hash of its number and itself. */
function spread(key: Uint8Array, hash: string): Uint8Array {
  const out = new Uint8Array(key.length)
  const number = Buffer.alloc(4)
  const length = createHash(hash).digest().length
  for (let at = 0, block = 0; at < key.length; at += length, block++) {
    number.writeUInt32BE(block)
    const part = key.subarray(at, at + length)
    out.set(createHash(hash).update(number).update(part).digest().subarray(0, part.length), at)
  }
  return out
}
