import type { Reader } from '../../sources/reader'
import type { Extent } from '../../sources/source'
import { LuksFault, textOf, type KeySlot, type LuksHeader } from './header'

const SECTOR_BYTES = 512
const SLOTS = 8
const IS_IN_USE = 0x00ac71f3

/**
 * Reads a header of version 1 (LUKS On-Disk Format Specification 1.2.3, figure 1) at the start of a volume of an image. Offsets
 * and lengths in bytes. Throws a LuksFault where it cannot be used.
 */
export function readVersion1(reader: Reader, [at, length]: Extent): LuksHeader {
  const cipher = `${textOf(reader, at + 8, 32)}-${textOf(reader, at + 40, 32)}`
  const hash = textOf(reader, at + 72, 32)
  const payload = reader.u32be(at + 104) * SECTOR_BYTES
  const keyBytes = reader.u32be(at + 108)
  const digest = {
    hash,
    iterations: reader.u32be(at + 164),
    salt: reader.bytes(at + 132, 32).slice(),
    digest: reader.bytes(at + 112, 20).slice(),
  }
  const slots: KeySlot[] = []
  for (let slot = 0; slot < SLOTS; slot++) {
    const from = at + 208 + slot * 48
    if (reader.u32be(from) !== IS_IN_USE) continue
    slots.push({
      keyFunction: {
        type: 'pbkdf2',
        hash,
        iterations: reader.u32be(from + 4),
        salt: reader.bytes(from + 8, 32).slice(),
      },
      keyBytes,
      stripes: reader.u32be(from + 44),
      hash,
      offset: reader.u32be(from + 40) * SECTOR_BYTES,
      cipher,
      cipherKeyBytes: keyBytes,
      digest,
    })
  }
  if (payload === 0 || payload >= length) throw new LuksFault('has its data beyond the end of the image')
  const extent: Extent = [payload, length - payload - ((length - payload) % SECTOR_BYTES)]
  return { version: 1, slots, segment: { extent, sectorBytes: SECTOR_BYTES, firstUnit: 0, cipher } }
}
