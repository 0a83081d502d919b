import { z } from 'zod'
import type { ByteSource } from '../../sources/source'
import { sectorCipher } from './sector-cipher'

const count = z.int().min(0)

/** An encrypted volume that a passphrase has opened: where its data is on the image, and its key. Never stored. */
export const OpenedVolume = z.object({
  kind: z.string(),
  /** where its header begins, in bytes of the image */
  at: count,
  /** where its data begins, in bytes of the image */
  offset: count,
  bytes: count,
  sectorBytes: count,
  /** number of its first unit of 512 bytes, for the cipher */
  firstUnit: count,
  cipher: z.string(),
  key: z.base64(),
})
export type OpenedVolume = z.infer<typeof OpenedVolume>

const UNIT_BYTES = 512

/**
 * An image whose opened volumes are read decrypted, each at the place where it is encrypted: offsets stay those of the image. What
 * cannot be read throws what the image throws.
 */
export function openedSource<Image extends ByteSource>(image: Image, volumes: readonly OpenedVolume[]): Image {
  if (volumes.length === 0) return image
  const parts = volumes
    .map((volume) => ({
      ...volume,
      end: volume.offset + volume.bytes,
      decrypt: sectorCipher(volume.cipher, Buffer.from(volume.key, 'base64'), volume.sectorBytes),
    }))
    .sort((one, other) => one.offset - other.offset)
  const read = (offset: number, length: number): Uint8Array => {
    const end = Math.min(image.size, offset + length)
    if (!parts.some((part) => offset < part.end && end > part.offset)) return image.read(offset, length)
    const bytes = new Uint8Array(Math.max(0, end - offset))
    for (let at = offset; at < end;) {
      const part = parts.find((one) => at < one.end && end > one.offset)
      if (part && at >= part.offset) {
        const to = Math.min(end, part.end)
        bytes.set(decrypted(part, at, to), at - offset)
        at = to
      } else {
        const to = part ? part.offset : end
        bytes.set(image.read(at, to - at), at - offset)
        at = to
      }
    }
    return bytes
  }
  const decrypted = (part: (typeof parts)[number], from: number, to: number): Uint8Array => {
    const [first, last] = [from - part.offset, to - part.offset]
    const begin = first - (first % part.sectorBytes)
    const end = Math.min(part.bytes, Math.ceil(last / part.sectorBytes) * part.sectorBytes)
    // A copy: what an image gives is not changed.
    const sectors = new Uint8Array(image.read(part.offset + begin, end - begin))
    part.decrypt(sectors, part.firstUnit + begin / UNIT_BYTES)
    return sectors.subarray(first - begin, last - begin)
  }
  return {
    ...image,
    read,
    readInto: (bytes: Uint8Array, offset: number) => {
      const part = read(offset, bytes.length)
      bytes.set(part)
      return part.length
    },
  }
}
