import { HOLE, type ByteSource, type Extent } from '../../../sources/source'
import { joinedExtents } from '../file-system'
import type { Geometry } from './boot'
import { CompressedSource } from './compressed'
import { ATTRIBUTE, TYPE } from './layout'
import type { Attribute, MftRecord } from './record'
import type { Run } from './runs'

/** The volume of a stream; its offset is in bytes of the image. */
export interface OnVolume {
  readonly volume: ByteSource
  readonly offset: number
  readonly geometry: Geometry
}

/** A data stream of a file. Extents are in bytes of the image; `content` where it is not simply their bytes. */
interface Stream {
  readonly bytes: number
  readonly extents: readonly Extent[]
  readonly content: ByteSource | null
  readonly isEncrypted: boolean
  readonly fault: string | null
}

/** The location of a record, to read it again. */
export interface Where {
  /** in bytes of the image */
  readonly place: number | null
  readonly again: () => MftRecord | null
}

/** Resident content, read from its record when it is needed. */
function kept({ again }: Where, { id, bytes }: Attribute): ByteSource {
  return {
    size: bytes,
    read: (offset, length) => {
      const own = again()?.attributes.find((one) => one.id === id && one.type === TYPE.data)
      return own?.content?.subarray(offset, Math.min(bytes, offset + length)) ?? new Uint8Array(0)
    },
  }
}

/** The content of a stream from its attributes: its extents, and why not all of it can be read, where that is so. */
export function streamOf(parts: readonly Attribute[], where: Where, on: OnVolume): Stream {
  const sorted = [...parts].sort((a, b) => a.firstCluster - b.firstCluster)
  const first = sorted[0]!
  const isEncrypted = (first.flags & ATTRIBUTE.encrypted) !== 0
  if (first.content) {
    const at = where.place
    const extents: Extent[] = at !== null && first.bytes > 0 ? [[at + first.contentAt, first.bytes]] : []
    return { bytes: first.bytes, extents, content: kept(where, first), isEncrypted, fault: null }
  }
  let next = 0
  let fault: string | null = null
  const runs: Run[] = []
  for (const part of sorted) {
    if (part.firstCluster !== next) fault = 'part of its run list is lost'
    runs.push(...part.runs)
    next = part.firstCluster + part.runs.reduce((sum, run) => sum + run.count, 0)
  }
  const { clusterBytes, clusters } = on.geometry
  if (runs.some((run) => run.cluster !== null && run.cluster + run.count > clusters))
    fault = 'its run list points outside the volume'
  const inside = runs.filter((run) => run.cluster === null || run.cluster + run.count <= clusters)
  const { bytes } = first
  if (next * clusterBytes < first.bytes) fault ??= 'its run list is shorter than the file'
  if ((first.flags & ATTRIBUTE.compressed) !== 0 && first.compressionUnit > 0) {
    const written = inside.filter((run) => run.cluster !== null)
    const extents = joinedExtents(
      written.map((run) => extentOf(run, on)),
      Infinity,
    )
    const content = new CompressedSource(
      { source: on.volume, place: [on.offset, on.volume.size] },
      { clusterBytes, unitClusters: 2 ** Math.min(8, first.compressionUnit) },
      inside,
      bytes,
    )
    return { bytes, extents, content, isEncrypted, fault }
  }
  const valid = Math.min(first.validBytes, bytes)
  const extents = joinedExtents(
    inside.map((run) => extentOf(run, on)),
    valid,
  )
  if (valid < bytes && fault === null) extents.push([HOLE, bytes - valid])
  return { bytes, extents, content: null, isEncrypted, fault }
}

function extentOf({ cluster, count }: Run, { offset, geometry: { clusterBytes } }: OnVolume): Extent {
  return cluster === null ? [HOLE, count * clusterBytes] : [offset + cluster * clusterBytes, count * clusterBytes]
}
