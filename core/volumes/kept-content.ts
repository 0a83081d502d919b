import { z } from 'zod'
import { CompressedSource } from './filesystems/ntfs/compressed'
import { bytesSource, piecesSource, sliceSource, type ByteSource, type Extent } from '../sources/source'

const count = z.int().min(0)

/**
 * How the content of a found item is read from its medium later: simply as the bytes of its extents, as resident
 * content stored here, or as its file system compressed it.
 */
export const KeptContent = z.discriminatedUnion('as', [
  z.object({ as: z.literal('pieces') }),
  z.object({ as: z.literal('bytes'), base64: z.base64() }),
  z.object({
    as: z.literal('packed'),
    /** of the volume in the image, in bytes */
    offset: count,
    length: count,
    clusterBytes: count,
    unitClusters: count,
    /** runs of clusters; null for those that were never written */
    runs: z.array(z.tuple([count.nullable(), count])),
    bytes: count,
  }),
])
export type KeptContent = z.infer<typeof KeptContent>

/** The largest resident content, in bytes. */
const MAX_KEPT_BYTES = 65_536

/** Describes how content is read again; null for content in none of the known forms. */
export function describeContent(source: ByteSource | null): KeptContent | null {
  if (source === null) return { as: 'pieces' }
  if (source instanceof CompressedSource) {
    const { place, clusterBytes, unitClusters, runs, size } = source
    return {
      as: 'packed',
      offset: place[0],
      length: place[1],
      clusterBytes,
      unitClusters,
      runs: runs.map(({ cluster, count }): [number | null, number] => [cluster, count]),
      bytes: size,
    }
  }
  if (source.size > MAX_KEPT_BYTES) return null
  return { as: 'bytes', base64: base64Of(source.read(0, source.size)) }
}

/** Opens content of an image by its description. Extents in bytes of the image. */
export function openContent(image: ByteSource, extents: readonly Extent[], kept: KeptContent): ByteSource {
  if (kept.as === 'pieces') return piecesSource(image, extents)
  if (kept.as === 'bytes') return bytesSource(Uint8Array.from(atob(kept.base64), (letter) => letter.charCodeAt(0)))
  const { offset, length, clusterBytes, unitClusters, runs, bytes } = kept
  return new CompressedSource(
    { source: sliceSource(image, offset, length), place: [offset, length] },
    { clusterBytes, unitClusters },
    runs.map(([cluster, count]) => ({ cluster, count })),
    bytes,
  )
}

function base64Of(bytes: Uint8Array): string {
  let letters = ''
  for (const byte of bytes) letters += String.fromCharCode(byte)
  return btoa(letters)
}
