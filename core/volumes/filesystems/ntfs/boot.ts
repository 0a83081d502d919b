import type { Reader } from '../../../sources/reader'
import { BOOT } from './layout'

/** Sizes and locations of a volume, in bytes and clusters, from its boot sector. */
export interface Geometry {
  readonly sectorBytes: number
  readonly clusterBytes: number
  readonly recordBytes: number
  /** of an index block */
  readonly folderBlockBytes: number
  readonly mftCluster: number
  readonly mirrorCluster: number
  readonly clusters: number
  /** of the volume with its backup boot sector, as it says itself */
  readonly bytes: number
}

/** Reads a boot sector; null where there is none, or its sizes are impossible. */
export function geometryAt(reader: Reader, at: number): Geometry | null {
  if (!reader.has(at, 512) || !reader.is(at + BOOT.name, BOOT.signature)) return null
  const sectorBytes = reader.u16le(at + BOOT.bytesPerSector)
  const perCluster = reader.u8(at + BOOT.sectorsPerCluster)
  if (![256, 512, 1024, 2048, 4096].includes(sectorBytes) || perCluster === 0) return null
  // Large clusters are stored as a negated power of two.
  const clusterBytes = perCluster > 128 ? sectorBytes * 2 ** (256 - perCluster) : sectorBytes * perCluster
  // A size is stored in clusters, or as a negated power of two.
  const sizeAt = (place: number) => {
    const size = (reader.u8(at + place) << 24) >> 24
    return size > 0 ? size * clusterBytes : 2 ** -size
  }
  const [recordBytes, folderBlockBytes] = [sizeAt(BOOT.recordSize), sizeAt(BOOT.folderBlockSize)]
  if (recordBytes < 256 || recordBytes > 65_536 || clusterBytes > 2 ** 21) return null
  return {
    sectorBytes,
    clusterBytes,
    recordBytes,
    folderBlockBytes: Math.max(512, Math.min(65_536, folderBlockBytes)),
    bytes: (reader.u64le(at + BOOT.sectors) + 1) * sectorBytes,
    mftCluster: reader.u64le(at + BOOT.mftCluster),
    mirrorCluster: reader.u64le(at + BOOT.mirrorCluster),
    clusters: Math.min(
      Math.floor((reader.u64le(at + BOOT.sectors) * sectorBytes) / clusterBytes),
      Math.ceil(reader.size / clusterBytes),
    ),
  }
}
