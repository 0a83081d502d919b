import { ATTRIBUTE, RECORD, TYPE } from './layout'
import { readRuns, type Run } from './runs'

/** One attribute of a record: its content, or the runs where it lies. */
export interface Attribute {
  readonly type: number
  readonly name: string
  readonly id: number
  readonly flags: number
  /** kept in the record; null where it lies in clusters */
  readonly content: Uint8Array | null
  /** where the content begins, in bytes of the record */
  readonly contentAt: number
  readonly firstCluster: number
  readonly runs: readonly Run[]
  readonly bytes: number
  readonly validBytes: number
  /** clusters that are compressed together, as a power of two */
  readonly compressionUnit: number
}

export interface MftRecord {
  readonly isInUse: boolean
  readonly isFolder: boolean
  readonly sequence: number
  /** of a record that only goes on with another: number of the one that it belongs to; 0 otherwise */
  readonly base: number
  readonly attributes: readonly Attribute[]
}

/**
 * Reads a record of the master file table out of a copy of its bytes; the last two bytes of each sector are put
 * back from where they are kept. Null where it is none or was torn while it was written.
 */
export function readRecord(bytes: Uint8Array, sectorBytes: number): MftRecord | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  if (bytes.length < 48 || view.getUint32(0) !== 0x46494c45 || !putBack(bytes, view, sectorBytes)) return null
  const flags = view.getUint16(RECORD.flags, true)
  const used = Math.min(view.getUint32(RECORD.usedBytes, true), bytes.length)
  const attributes: Attribute[] = []
  for (let at = view.getUint16(RECORD.firstAttribute, true); at + 16 <= used;) {
    if (view.getUint32(at, true) === TYPE.end) break
    const length = view.getUint32(at + ATTRIBUTE.length, true)
    if (length < 16 || at + length > used) break
    const attribute = attributeAt(bytes, view, at, length)
    if (attribute) attributes.push(attribute)
    at += length
  }
  return {
    isInUse: (flags & RECORD.inUse) !== 0,
    isFolder: (flags & RECORD.folder) !== 0,
    sequence: view.getUint16(RECORD.sequence, true),
    base: view.getUint32(RECORD.base, true) + view.getUint16(RECORD.base + 4, true) * 2 ** 32,
    attributes,
  }
}

function putBack(bytes: Uint8Array, view: DataView, sectorBytes: number): boolean {
  const at = view.getUint16(RECORD.fixupAt, true)
  const count = view.getUint16(RECORD.fixupCount, true)
  if (count < 2 || at + count * 2 > bytes.length || (count - 1) * sectorBytes > bytes.length) return false
  const mark = view.getUint16(at, true)
  for (let sector = 1; sector < count; sector++) {
    const end = sector * sectorBytes - 2
    if (view.getUint16(end, true) !== mark) return false
    view.setUint16(end, view.getUint16(at + sector * 2, true), true)
  }
  return true
}

function attributeAt(bytes: Uint8Array, view: DataView, at: number, length: number): Attribute | null {
  const nameLength = bytes[at + ATTRIBUTE.nameLength]!
  const nameAt = at + view.getUint16(at + ATTRIBUTE.nameAt, true)
  if (nameLength > 0 && nameAt + nameLength * 2 > at + length) return null
  const common = {
    type: view.getUint32(at, true),
    name: utf16(view, nameAt, nameLength),
    flags: view.getUint16(at + ATTRIBUTE.flags, true),
    id: view.getUint16(at + ATTRIBUTE.id, true),
  }
  if (bytes[at + ATTRIBUTE.isNonResident] === 0) {
    const count = view.getUint32(at + ATTRIBUTE.contentBytes, true)
    const from = at + view.getUint16(at + ATTRIBUTE.contentAt, true)
    if (from + count > at + length) return null
    const content = bytes.slice(from, from + count)
    return {
      ...common,
      content,
      contentAt: from,
      firstCluster: 0,
      runs: [],
      bytes: count,
      validBytes: count,
      compressionUnit: 0,
    }
  }
  if (length < 64) return null
  const runsAt = view.getUint16(at + ATTRIBUTE.runsAt, true)
  if (runsAt < 64 || runsAt >= length) return null
  return {
    ...common,
    content: null,
    contentAt: 0,
    firstCluster: wide(view, at + ATTRIBUTE.firstCluster),
    runs: readRuns(bytes.subarray(at + runsAt, at + length)),
    bytes: wide(view, at + ATTRIBUTE.bytes),
    validBytes: wide(view, at + ATTRIBUTE.validBytes),
    compressionUnit: view.getUint16(at + ATTRIBUTE.compressionUnit, true),
  }
}

export function utf16(view: DataView, at: number, characters: number): string {
  let text = ''
  for (let index = 0; index < characters && at + index * 2 + 2 <= view.byteLength; index++)
    text += String.fromCharCode(view.getUint16(at + index * 2, true))
  return text
}

export const wide = (view: DataView, at: number) => Number(view.getBigUint64(at, true))

/** A time in hundreds of nanoseconds since 1601, as an instant; null where it is none that can be. */
export function momentOf(view: DataView, at: number): string | null {
  const ms = wide(view, at) / 10_000 - 11_644_473_600_000
  return ms > -62_135_596_800_000 && ms < 253_402_300_800_000 ? new Date(ms).toISOString() : null
}
