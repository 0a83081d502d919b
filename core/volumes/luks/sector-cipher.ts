import { createCipheriv, createDecipheriv, createHash } from 'node:crypto'
import { LuksFault } from './header'

/** Decrypts sectors in place; `firstUnit`: the number of the first of them, in units of 512 bytes. */
export type SectorCipher = (bytes: Uint8Array, firstUnit: number) => void

const UNIT_BYTES = 512
const BLOCK_BYTES = 16

/**
 * The cipher of a volume by its name (such as aes-xts-plain64 or aes-cbc-essiv:sha256), its key, and its sectors' size in
 * bytes. Throws a LuksFault where it is not known here. Source: dm-crypt of the Linux kernel, documentation of its modes.
 */
export function sectorCipher(name: string, key: Uint8Array, sectorBytes: number): SectorCipher {
  const [, mode, vector, hash] = /^aes-(xts|cbc)-(plain|plain64|essiv)(?::(sha256))?$/.exec(name) ?? []
  const bits = (key.length * 8) / (mode === 'xts' ? 2 : 1)
  const isKnown = mode && (vector === 'essiv') === (hash !== undefined)
  // The library has no XTS with keys of 192 bits.
  if (!isKnown || !(bits === 128 || bits === 256 || (bits === 192 && mode === 'cbc')))
    throw new LuksFault(`is encrypted with ${name.slice(0, 60)}, which is not read here`)
  const vectorOf = vector === 'essiv' ? essiv(hash!, key) : vector === 'plain' ? plain : plain64
  return (bytes, firstUnit) => {
    for (let at = 0; at + sectorBytes <= bytes.length; at += sectorBytes) {
      const one = createDecipheriv(`aes-${bits}-${mode}`, key, vectorOf(firstUnit + at / UNIT_BYTES))
      one.setAutoPadding(false)
      bytes.set(one.update(bytes.subarray(at, at + sectorBytes)), at)
    }
  }
}

function plain64(unit: number): Buffer {
  const vector = Buffer.alloc(BLOCK_BYTES)
  vector.writeBigUInt64LE(BigInt(unit))
  return vector
}

function plain(unit: number): Buffer {
  const vector = Buffer.alloc(BLOCK_BYTES)
  vector.writeUInt32LE(unit % 2 ** 32)
  return vector
}

/** The number of the sector, encrypted with the hash of the key. */
function essiv(hash: string, key: Uint8Array): (unit: number) => Buffer {
  const salted = createHash(hash).update(key).digest()
  return (unit) => createCipheriv('aes-256-ecb', salted, null).setAutoPadding(false).update(plain64(unit))
}
