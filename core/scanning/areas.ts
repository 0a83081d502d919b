import type { Volume } from '../volumes/volumes'
import type { ByteSource, Extent } from '../sources/source'

/**
 * Where to scan for content: what no file system has in use, in order; with `isWhole`, everywhere. Offsets and lengths
 * in bytes of the image.
 */
export function areasOf(image: ByteSource, volumes: readonly Volume[], isWhole: boolean): Extent[] {
  if (isWhole) return [[0, image.size]]
  const areas: Extent[] = []
  let at = 0
  const read = volumes.flatMap(({ shape, fileSystem }) => (fileSystem ? [{ shape, fileSystem }] : []))
  for (const { shape, fileSystem } of read.sort((a, b) => a.shape.offset - b.shape.offset)) {
    if (shape.offset > at) areas.push([at, shape.offset - at])
    const end = shape.offset + shape.bytes
    const { unitBytes, unitsFrom, allocated } = fileSystem
    for (const [first, count] of allocated.gaps()) areas.push([unitsFrom + first * unitBytes, count * unitBytes])
    // What is left behind the last unit belongs to no file.
    const left = unitsFrom + allocated.count * unitBytes
    if (left < end) areas.push([left, end - left])
    at = Math.max(at, end)
  }
  if (at < image.size) areas.push([at, image.size - at])
  return areas
    .filter(([offset, length]) => length > 0 && offset >= 0 && offset < image.size)
    .map(([offset, length]): Extent => [offset, Math.min(length, image.size - offset)])
}
