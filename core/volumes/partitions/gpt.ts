import { crc32 } from '../../sources/checksums'
import { Reader } from '../../sources/reader'
import type { ByteSource, Extent } from '../../sources/source'
import type { ScanWarning } from '../filesystems/volume-shape'
import { GPT_ENTRY, GPT_HEADER } from './gpt.layout'

const MAX_ENTRIES = 1024

export interface Gpt {
  /** partitions in bytes, in the order of the table */
  readonly partitions: readonly { readonly extent: Extent; readonly name: string }[]
  readonly warnings: readonly ScanWarning[]
}

/** Reads a GUID partition table, from its backup at the end where the first header is damaged (UEFI 2.10, 5.3). */
export function readGpt(source: ByteSource, sectorBytes: number): Gpt | null {
  const reader = new Reader(source)
  const last = Math.floor(source.size / sectorBytes) - 1
  const first = tableAt(reader, 1, sectorBytes)
  if (first) return first
  const backup = tableAt(reader, last, sectorBytes)
  if (!backup) return null
  const warning = { where: 'GUID partition table', what: 'the primary header is damaged; the backup header was used' }
  return { ...backup, warnings: [warning, ...backup.warnings] }
}

function tableAt(reader: Reader, sector: number, sectorBytes: number): Gpt | null {
  const at = sector * sectorBytes
  const headerBytes = reader.u32le(at + GPT_HEADER.headerBytes)
  if (sector < 1 || !reader.is(at, GPT_HEADER.signature) || headerBytes < 92 || headerBytes > sectorBytes) return null
  const header = new Uint8Array(reader.bytes(at, headerBytes))
  const checksum = reader.u32le(at + GPT_HEADER.headerChecksum)
  header.fill(0, GPT_HEADER.headerChecksum, GPT_HEADER.headerChecksum + 4)
  if (crc32(header) !== checksum || reader.u64le(at + GPT_HEADER.ownSector) !== sector) return null

  const count = reader.u32le(at + GPT_HEADER.entryCount)
  const entryBytes = reader.u32le(at + GPT_HEADER.entryBytes)
  const entries = reader.u64le(at + GPT_HEADER.entriesSector) * sectorBytes
  if (count > MAX_ENTRIES || entryBytes < GPT_ENTRY.leastBytes || entryBytes > 4096) return null
  if (!reader.has(entries, count * entryBytes)) return null
  const isWhole =
    crc32(reader.source.read(entries, count * entryBytes)) === reader.u32le(at + GPT_HEADER.entriesChecksum)
  if (!isWhole && sector === 1) return null

  const warnings: ScanWarning[] = isWhole
    ? []
    : [{ where: 'GUID partition table', what: 'checksum of its entries does not match' }]
  const partitions: { extent: Extent; name: string }[] = []
  for (let index = 0; index < count; index++) {
    const entry = entries + index * entryBytes
    if (reader.bytes(entry + GPT_ENTRY.type, 16).every((byte) => byte === 0)) continue
    const from = reader.u64le(entry + GPT_ENTRY.firstSector) * sectorBytes
    const to = (reader.u64le(entry + GPT_ENTRY.lastSector) + 1) * sectorBytes
    if (!(from < to) || from >= reader.size) {
      warnings.push({ where: `GUID partition table, entry ${index + 1}`, what: 'is outside the image' })
      continue
    }
    const name = new TextDecoder('utf-16le').decode(reader.bytes(entry + GPT_ENTRY.name, GPT_ENTRY.nameBytes))
    partitions.push({ extent: [from, Math.min(to, reader.size) - from], name: name.split('\0')[0]! })
  }
  return { partitions, warnings }
}
