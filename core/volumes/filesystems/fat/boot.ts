import type { Reader } from '../../../sources/reader'
import { BOOT } from './layout'

export interface FatGeometry {
  readonly bits: 12 | 16 | 32
  /** of the volume, as it says itself */
  readonly bytes: number
  readonly sectorBytes: number
  readonly clusterBytes: number
  /** bytes from the start of the volume */
  readonly tableAt: number
  readonly tableBytes: number
  /** the numbers of the tables that are kept current, the one to follow first */
  readonly tables: readonly number[]
  /** the root folder of FAT12 and FAT16 */
  readonly rootAt: number
  readonly rootBytes: number
  readonly rootCluster: number
  readonly dataAt: number
  readonly clusters: number
  readonly label: string | null
}

/** Reads the boot sector at an offset of the volume; null where it is not FAT's. */
export function readBoot(reader: Reader, at = 0): FatGeometry | null {
  if (!reader.has(at, 512) || reader.u16le(at + BOOT.signature) !== 0xaa55) return null
  const sectorBytes = reader.u16le(at + BOOT.bytesPerSector)
  const perCluster = reader.u8(at + BOOT.sectorsPerCluster)
  const reserved = reader.u16le(at + BOOT.reservedSectors)
  const tables = reader.u8(at + BOOT.tables)
  if (![512, 1024, 2048, 4096].includes(sectorBytes) || perCluster === 0 || (perCluster & (perCluster - 1)) !== 0)
    return null
  if (reserved === 0 || tables < 1 || tables > 4) return null
  const rootEntries = reader.u16le(at + BOOT.rootEntries)
  const tableSectors = reader.u16le(at + BOOT.tableSectors16) || reader.u32le(at + BOOT.tableSectors32)
  const sectors = reader.u16le(at + BOOT.sectors16) || reader.u32le(at + BOOT.sectors32)
  const rootSectors = Math.ceil((rootEntries * 32) / sectorBytes)
  const dataSector = reserved + tables * tableSectors + rootSectors
  if (tableSectors === 0 || sectors <= dataSector) return null
  const clusters = Math.floor((sectors - dataSector) / perCluster)
  const bits = clusters < 4085 ? 12 : clusters < 65_525 ? 16 : 32
  // A small volume may still be FAT32: only that has no fixed root directory and no 16-bit table size.
  const isWide = rootEntries === 0 && reader.u16le(at + BOOT.tableSectors16) === 0
  const kind = isWide ? 32 : bits === 32 ? 16 : bits
  const tableBytes = tableSectors * sectorBytes
  const fits = Math.floor((tableBytes * 8) / kind) - 2
  // A truncated image ends before the volume does.
  const inside = Math.ceil((reader.size - dataSector * sectorBytes) / (sectorBytes * perCluster))
  const label = reader.text(at + (kind === 32 ? BOOT.label32 : BOOT.label16), 11).trim()
  return {
    bits: kind,
    bytes: sectors * sectorBytes,
    sectorBytes,
    clusterBytes: sectorBytes * perCluster,
    tableAt: reserved * sectorBytes,
    tableBytes,
    tables:
      kind === 32 && reader.u16le(at + BOOT.tableUse) & 0x80
        ? [Math.min(tables - 1, reader.u16le(at + BOOT.tableUse) & 15)]
        : Array.from({ length: tables }, (_, index) => index),
    rootAt: (reserved + tables * tableSectors) * sectorBytes,
    rootBytes: rootEntries * 32,
    rootCluster: kind === 32 ? reader.u32le(at + BOOT.rootCluster) : 0,
    dataAt: dataSector * sectorBytes,
    clusters: Math.max(0, Math.min(clusters, fits, inside)),
    label: label === '' || label === 'NO NAME' ? null : label,
  }
}

export const BACKUP_SECTOR = 6

/** The boot sector, or FAT32's backup of it where the first is damaged. */
export function findBoot(reader: Reader): { geometry: FatGeometry; isBackup: boolean } | null {
  const first = readBoot(reader)
  if (first) return { geometry: first, isBackup: false }
  for (const sectorBytes of [512, 4096]) {
    const backup = readBoot(reader, BACKUP_SECTOR * sectorBytes)
    if (backup?.bits === 32) return { geometry: backup, isBackup: true }
  }
  return null
}
