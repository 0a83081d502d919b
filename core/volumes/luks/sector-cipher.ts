import { createCipheriv, createDecipheriv, createHash, type Cipheriv, type Decipheriv } from 'node:crypto'
import { LuksFault } from './header'

/** Decrypts whole sectors in place; `firstUnit`: the number of the first of them, in units of 512 bytes. */
export type SectorCipher = (bytes: Uint8Array, firstUnit: number) => void

const UNIT_BYTES = 512
const BLOCK_BYTES = 16
const BLOCK_WORDS = 4

/**
 * The cipher of a volume by its name (such as aes-xts-plain64 or aes-cbc-essiv:sha256), its key, and its sectors' size in
 * bytes. Throws a LuksFault where it is not known here. A call of the library costs as much as a sector, so that its modes are
 * put together here from single blocks, for many sectors at once. Sources: IEEE 1619 (XTS), NIST SP 800-38A (CBC), dm-crypt of the
 * Linux kernel (how sectors are numbered).
 */
export function sectorCipher(name: string, key: Uint8Array, sectorBytes: number): SectorCipher {
  const [, mode, vector, hash] = /^aes-(xts|cbc)-(plain|plain64|essiv)(?::(sha256))?$/.exec(name) ?? []
  const keyBytes = key.length / (mode === 'xts' ? 2 : 1)
  if (!mode || (vector === 'essiv') !== (hash !== undefined) || ![16, 24, 32].includes(keyBytes))
    throw new LuksFault(`is encrypted with ${name.slice(0, 60)}, which is not read here`)
  const numbers = (count: number, firstUnit: number) =>
    sectorNumbers(count, { firstUnit, step: sectorBytes / UNIT_BYTES, isLong: vector !== 'plain' })
  if (mode === 'xts') return xts(key, sectorBytes, numbers)
  const salted = hash && encrypting(createHash(hash).update(key).digest())
  return cbc(key, sectorBytes, (count, unit) => (salted ? salted.update(numbers(count, unit)) : numbers(count, unit)))
}

/** A block for each of some sectors. */
type BlocksOf = (count: number, firstUnit: number) => Uint8Array

const bitsOf = (key: Uint8Array) => key.length * 8
const encrypting = (key: Uint8Array): Cipheriv =>
  createCipheriv(`aes-${bitsOf(key)}-ecb`, key, null).setAutoPadding(false)
const decrypting = (key: Uint8Array): Decipheriv =>
  createDecipheriv(`aes-${bitsOf(key)}-ecb`, key, null).setAutoPadding(false)

function xts(key: Uint8Array, sectorBytes: number, numbers: BlocksOf): SectorCipher {
  const data = decrypting(key.subarray(0, key.length / 2))
  const tweak = encrypting(key.subarray(key.length / 2))
  return (bytes, firstUnit) => {
    const sectors = Math.floor(bytes.length / sectorBytes)
    const masks = masksOf(wordsOf(tweak.update(numbers(sectors, firstUnit))), sectorBytes)
    const words = wordsOf(bytes.subarray(0, sectors * sectorBytes))
    for (let at = 0; at < words.length; at++) words[at]! ^= masks[at]!
    const plain = wordsOf(data.update(bytesOf(words)))
    for (let at = 0; at < plain.length; at++) plain[at]! ^= masks[at]!
    bytes.set(bytesOf(plain))
  }
}

/** The mask of each block: that of the block before, times x in the field of 128 bits (IEEE 1619, 5.2). */
function masksOf(firsts: Uint32Array, sectorBytes: number): Uint32Array {
  const each = sectorBytes / BLOCK_BYTES
  const masks = new Uint32Array(firsts.length * each)
  for (let first = 0, at = 0; first < firsts.length; first += BLOCK_WORDS) {
    let [one, two, three, four] = [firsts[first]!, firsts[first + 1]!, firsts[first + 2]!, firsts[first + 3]!]
    for (let block = 0; block < each; block++, at += BLOCK_WORDS) {
      masks[at] = one
      masks[at + 1] = two
      masks[at + 2] = three
      masks[at + 3] = four
      const carry = four >>> 31
      four = (four << 1) | (three >>> 31)
      three = (three << 1) | (two >>> 31)
      two = (two << 1) | (one >>> 31)
      one = (one << 1) ^ (carry === 0 ? 0 : 0x87)
    }
  }
  return masks
}

function cbc(key: Uint8Array, sectorBytes: number, vectors: BlocksOf): SectorCipher {
  const data = decrypting(key)
  const each = sectorBytes / 4
  return (bytes, firstUnit) => {
    const sectors = Math.floor(bytes.length / sectorBytes)
    const firsts = wordsOf(vectors(sectors, firstUnit))
    const before = wordsOf(bytes.subarray(0, sectors * sectorBytes))
    const plain = wordsOf(data.update(bytesOf(before)))
    for (let sector = 0; sector < sectors; sector++) {
      const begin = sector * each
      for (let word = 0; word < BLOCK_WORDS; word++) plain[begin + word]! ^= firsts[sector * BLOCK_WORDS + word]!
      for (let at = begin + BLOCK_WORDS; at < begin + each; at++) plain[at]! ^= before[at - BLOCK_WORDS]!
    }
    bytes.set(bytesOf(plain))
  }
}

/** A copy of some bytes as words of 32 bits. */
const wordsOf = (bytes: Uint8Array) => new Uint32Array(new Uint8Array(bytes).buffer)
const bytesOf = (words: Uint32Array) => new Uint8Array(words.buffer)

/** The numbers of some sectors, a block each: in its first eight bytes, or four (plain). */
function sectorNumbers(
  count: number,
  { firstUnit, step, isLong }: { firstUnit: number; step: number; isLong: boolean },
): Uint8Array {
  const blocks = new Uint8Array(count * BLOCK_BYTES)
  const view = new DataView(blocks.buffer)
  for (let sector = 0; sector < count; sector++) {
    const unit = firstUnit + sector * step
    view.setUint32(sector * BLOCK_BYTES, unit % 2 ** 32, true)
    if (isLong) view.setUint32(sector * BLOCK_BYTES + 4, Math.floor(unit / 2 ** 32), true)
  }
  return blocks
}
