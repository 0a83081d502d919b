import { isoMoment } from '../../../sources/iso-moment'
import { ATTRIBUTE, RECORD, TYPE } from './layout'
import { readRuns, type Run } from './runs'

/** An attribute of a record: its resident content, or its runs. */
export interface Attribute {
  readonly type: number
  readonly name: string
  readonly id: number
  readonly flags: number
  /** resident content, a view of the record's bytes; null where it is non-resident */
  readonly content: Uint8Array | null
  /** where the content begins, in bytes of the record */
  readonly contentAt: number
  readonly firstCluster: number
  readonly runs: readonly Run[]
  readonly bytes: number
  readonly validBytes: number
  /** the compression unit in clusters, as a power of two */
  readonly compressionUnit: number
}

export interface MftRecord {
  readonly isInUse: boolean
  readonly isFolder: boolean
  readonly sequence: number
  /** for an extension record: the number of its base record; otherwise 0 */
  readonly base: number
  readonly attributes: readonly Attribute[]
}

/**
 * Reads a record of the master file table from a copy of its bytes, after applying its update sequence. Null where it
 * is invalid or was torn during writing. Its attributes are read only when they are needed.
 */
export function readRecord(bytes: Uint8Array, sectorBytes: number, isWanted = always): MftRecord | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  if (bytes.length < 48 || view.getUint32(0) !== 0x46494c45 || !putBack(bytes, view, sectorBytes)) return null
  const flags = view.getUint16(RECORD.flags, true)
  const base = view.getUint32(RECORD.base, true) + view.getUint16(RECORD.base + 4, true) * 2 ** 32
  const used = Math.min(view.getUint32(RECORD.usedBytes, true), bytes.length)
  const attributes: Attribute[] = []
  const isRead = isWanted(base !== 0, (flags & RECORD.folder) !== 0)
  for (let at = view.getUint16(RECORD.firstAttribute, true); isRead && at + 16 <= used;) {
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
    base,
    attributes,
  }
}

const always = (_goesOn: boolean, _isFolder: boolean) => true

/** Restores the last two bytes of each sector (update sequence); false where the sectors are not of one write. */
export function putBack(bytes: Uint8Array, view: DataView, sectorBytes: number): boolean {
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
  // Built field by field: spreading objects takes ten times as long, and there are millions.
  const type = view.getUint32(at, true)
  const name = nameLength === 0 ? '' : utf16(view, nameAt, nameLength)
  const flags = view.getUint16(at + ATTRIBUTE.flags, true)
  const id = view.getUint16(at + ATTRIBUTE.id, true)
  if (bytes[at + ATTRIBUTE.isNonResident] === 0) {
    const count = view.getUint32(at + ATTRIBUTE.contentBytes, true)
    const contentAt = at + view.getUint16(at + ATTRIBUTE.contentAt, true)
    if (contentAt + count > at + length) return null
    const content = bytes.subarray(contentAt, contentAt + count)
    return {
      type,
      name,
      id,
      flags,
      content,
      contentAt,
      firstCluster: 0,
      runs: NO_RUNS,
      bytes: count,
      validBytes: count,
      compressionUnit: 0,
    }
  }
  if (length < 64) return null
  const runsAt = view.getUint16(at + ATTRIBUTE.runsAt, true)
  if (runsAt < 64 || runsAt >= length) return null
  return {
    type,
    name,
    id,
    flags,
    content: null,
    contentAt: 0,
    firstCluster: wide(view, at + ATTRIBUTE.firstCluster),
    runs: readRuns(bytes.subarray(at + runsAt, at + length)),
    bytes: wide(view, at + ATTRIBUTE.bytes),
    validBytes: wide(view, at + ATTRIBUTE.validBytes),
    compressionUnit: view.getUint16(at + ATTRIBUTE.compressionUnit, true),
  }
}

const NO_RUNS: readonly Run[] = []

/** So many characters of UTF-16LE from an offset; fewer where the view ends before. */
export function utf16(view: DataView, at: number, characters: number): string {
  let text = ''
  for (let index = 0; index < characters && at + index * 2 + 2 <= view.byteLength; index++)
    text += String.fromCharCode(view.getUint16(at + index * 2, true))
  return text
}

/** a 64-bit number; it is not exact beyond 2^53, which no valid value exceeds */
export const wide = (view: DataView, at: number) => view.getUint32(at + 4, true) * 2 ** 32 + view.getUint32(at, true)

/** A time in hundreds of nanoseconds since 1601, as an instant; null where it is impossible. */
export function momentOf(view: DataView, at: number): string | null {
  const ticks = view.getUint32(at + 4, true) * 2 ** 32 + view.getUint32(at, true)
  const ms = Math.floor(ticks / 10_000) - 11_644_473_600_000
  return ms > -62_135_596_800_000 && ms < 253_402_300_800_000 ? isoMoment(ms) : null
}

/** A view of exactly these bytes. */
export const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
