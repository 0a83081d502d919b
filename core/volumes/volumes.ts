import type { FileSystem } from './filesystems/file-system'
import { recognise } from './recognise'
import type { ByteSource, Extent } from '../sources/source'
import type { ScanWarning, VolumeShape } from './filesystems/volume-shape'
import { readGpt } from './partitions/gpt'
import { readMbr } from './partitions/mbr'

/** A volume of an image, with its file system where it is a known one. */
export interface Volume {
  readonly shape: VolumeShape
  readonly fileSystem: FileSystem | null
}

const SECTOR_SIZES = [512, 4096] as const

/** The volumes of an image: those of its partition table, or the image itself where there is no table. */
export function findVolumes(image: ByteSource): { volumes: Volume[]; warnings: ScanWarning[] } {
  const { scheme, places, warnings } = partitionsOf(image)
  const volumes: Volume[] = []
  for (const [offset, bytes] of places) {
    const fileSystem = recognise(image, offset, bytes)
    const label = fileSystem?.label ?? null
    volumes.push({
      shape: { index: volumes.length, scheme, fileSystem: fileSystem?.kind ?? null, offset, bytes, label },
      fileSystem,
    })
  }
  return { volumes, warnings: [...warnings] }
}

function partitionsOf(image: ByteSource): {
  scheme: VolumeShape['scheme']
  places: readonly Extent[]
  warnings: readonly ScanWarning[]
} {
  for (const sectorBytes of SECTOR_SIZES) {
    const gpt = readGpt(image, sectorBytes)
    if (gpt) return { scheme: 'gpt', places: gpt.partitions.map(({ extent }) => extent), warnings: gpt.warnings }
  }
  const whole: Extent[] = [[0, image.size]]
  // The first sector of a file system ends with the same signature as a partition table.
  const mbr = readMbr(image, 512)
  if (!mbr || mbr.partitions.length === 0) return { scheme: 'none', places: whole, warnings: mbr?.warnings ?? [] }
  const isFileSystem =
    recognise(image, 0, image.size) !== null &&
    mbr.partitions.every(([offset]) => recognise(image, offset, 1e15) === null)
  if (isFileSystem) return { scheme: 'none', places: whole, warnings: [] }
  return { scheme: 'mbr', places: mbr.partitions, warnings: mbr.warnings }
}
