import { Reader } from '../../sources/reader'
import type { ByteSource, Extent } from '../../sources/source'
import type { ScanWarning } from '../filesystems/volume-shape'
import { EXTENDED_TYPES, MBR, MBR_ENTRY, PROTECTIVE_TYPE } from './mbr.layout'

interface Entry {
  readonly type: number
  readonly first: number
  readonly sectors: number
}

const MAX_LOGICAL = 256

export interface Mbr {
  /** primary and logical partitions in bytes, in the order of the tables */
  readonly partitions: readonly Extent[]
  readonly isProtective: boolean
  readonly warnings: readonly ScanWarning[]
}

/**
 * Reads the partition table of a source with sectors of this size, extended partitions included. Null where there is
 * none, and where the first sector is the boot sector of a file system rather than a table.
 */
export function readMbr(source: ByteSource, sectorBytes: number): Mbr | null {
  const reader = new Reader(source)
  const entries = entriesAt(reader, 0)
  if (!entries || !isTable(reader, entries)) return null
  const warnings: ScanWarning[] = []
  const partitions: Extent[] = []
  const add = (first: number, sectors: number, where: string) => {
    const offset = first * sectorBytes
    const room = source.size - offset
    if (sectors === 0 || first === 0) return
    if (room <= 0) {
      warnings.push({ where, what: 'a partition starts beyond the end of the image' })
      return
    }
    if (sectors * sectorBytes > room) warnings.push({ where, what: 'a partition extends beyond the end of the image' })
    partitions.push([offset, Math.min(sectors * sectorBytes, room)])
  }
  for (const [at, entry] of entries.entries()) {
    if (entry.type === 0 || entry.type === PROTECTIVE_TYPE) continue
    if (EXTENDED_TYPES.has(entry.type)) readLogical(reader, entry, sectorBytes, add, warnings)
    else add(entry.first, entry.sectors, `partition table, entry ${at + 1}`)
  }
  return { partitions, isProtective: entries.some(({ type }) => type === PROTECTIVE_TYPE), warnings }
}

/** Logical partitions: each in a table of its own, the next table linked from it, with two different bases. */
function readLogical(
  reader: Reader,
  extended: Entry,
  sectorBytes: number,
  add: (first: number, sectors: number, where: string) => void,
  warnings: ScanWarning[],
): void {
  const seen = new Set<number>()
  let table = extended.first
  while (seen.size < MAX_LOGICAL) {
    if (seen.has(table)) {
      warnings.push({ where: `extended partition table in sector ${table}`, what: 'refers to itself' })
      return
    }
    seen.add(table)
    const entries = entriesAt(reader, table * sectorBytes)
    if (!entries) {
      warnings.push({ where: `extended partition table in sector ${table}`, what: 'is not there' })
      return
    }
    const [own, next] = entries
    if (own!.type !== 0) add(table + own!.first, own!.sectors, `extended partition table in sector ${table}`)
    if (!EXTENDED_TYPES.has(next!.type) || next!.first === 0) return
    table = extended.first + next!.first
  }
}

function entriesAt(reader: Reader, at: number): Entry[] | null {
  if (!reader.has(at, MBR.signature + 2) || reader.u16le(at + MBR.signature) !== MBR.signatureValue) return null
  return Array.from({ length: MBR.entryCount }, (_, index) => {
    const entry = at + MBR.entries + index * MBR.entryBytes
    return {
      type: reader.u8(entry + MBR_ENTRY.type),
      first: reader.u32le(entry + MBR_ENTRY.firstSector),
      sectors: reader.u32le(entry + MBR_ENTRY.sectors),
    }
  })
}

/** Boot sectors of file systems end with the same two bytes; the bytes in place of the entries distinguish them. */
function isTable(reader: Reader, entries: readonly Entry[]): boolean {
  for (let index = 0; index < MBR.entryCount; index++) {
    const status = reader.u8(MBR.entries + index * MBR.entryBytes + MBR_ENTRY.status)
    if (status !== 0 && status !== 0x80) return false
  }
  return entries.some(({ type, sectors }) => type !== 0 && sectors > 0)
}
