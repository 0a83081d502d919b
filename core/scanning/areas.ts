import type { Volume } from '../volumes/volumes'
import type { ByteSource, Extent } from '../sources/source'

/**
 * Where to scan for content: what no file system has in use, and what is in use without a record, in order; with
 * `isWhole`, everywhere. Offsets and lengths in bytes of the image.
 */
export function areasOf(image: ByteSource, volumes: readonly Volume[], isWhole: boolean): Extent[] {
  if (isWhole) return [[0, image.size]]
  const areas: Extent[] = []
  let at = 0
  const read = volumes.flatMap(({ shape, fileSystem, unclaimed = [] }) =>
    fileSystem ? [{ shape, fileSystem, unclaimed }] : [],
  )
  for (const { shape, fileSystem, unclaimed } of read.sort((a, b) => a.shape.offset - b.shape.offset)) {
    if (shape.offset > at) areas.push([at, shape.offset - at])
    const end = shape.offset + shape.bytes
    const { unitBytes, unitsFrom, allocated } = fileSystem
    const free = Array.from(allocated.gaps(), ([first, count]): Extent => [
      unitsFrom + first * unitBytes,
      count * unitBytes,
    ])
    // A large volume has more gaps than a call takes arguments.
    for (const area of unclaimed.length === 0 ? free : inOrder([...free, ...unclaimed])) areas.push(area)
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

/** Sorted, and neighbours as one. */
function inOrder(extents: readonly Extent[]): Extent[] {
  const merged: [number, number][] = []
  for (const [offset, length] of [...extents].sort(([one], [other]) => one - other)) {
    const last = merged.at(-1)
    if (last && offset <= last[0] + last[1]) last[1] = Math.max(last[1], offset + length - last[0])
    else merged.push([offset, length])
  }
  return merged
}
