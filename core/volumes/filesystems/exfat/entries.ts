import { isoMoment } from '../../../sources/iso-moment'
import { ENTRY, FILE, FOLDER, IN_USE, IS_CONTIGUOUS, NAME, STREAM } from './layout'

/** A file or folder as its directory entry set describes it. */
export interface EntrySet {
  readonly name: string
  readonly isDeleted: boolean
  readonly isFolder: boolean
  readonly isContiguous: boolean
  readonly cluster: number
  readonly bytes: number
  readonly validBytes: number
  readonly created: string | null
  readonly modified: string | null
}

/** A critical entry of the root directory: the location of the allocation bitmap, the volume label. */
export interface RootFacts {
  readonly bitmap: { readonly cluster: number; readonly bytes: number } | null
  readonly label: string | null
}

/** Every entry set in the bytes of a directory whose checksum is right, deleted ones too. */
export function* readSets(bytes: Uint8Array): Iterable<EntrySet> {
  for (let at = 0; at + ENTRY.bytes <= bytes.length; at += ENTRY.bytes) {
    if (bytes[at] === 0) return
    if ((bytes[at]! & ~IN_USE) !== ENTRY.file) continue
    const set = setAt(bytes, at)
    if (!set) continue
    yield set
    at += bytes[at + FILE.secondaries]! * ENTRY.bytes
  }
}

/** Reads the entry set at an offset; null where its entries or its checksum do not fit. */
export function setAt(bytes: Uint8Array, at: number): EntrySet | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  const secondaries = bytes[at + FILE.secondaries]!
  const end = at + (secondaries + 1) * ENTRY.bytes
  if (secondaries < 2 || secondaries > 18 || end > bytes.length) return null
  const isDeleted = (bytes[at]! & IN_USE) === 0
  const stream = at + ENTRY.bytes
  if ((bytes[stream]! & ~IN_USE) !== ENTRY.stream) return null
  if (checksumOf(bytes, at, end) !== view.getUint16(at + FILE.checksum, true)) return null
  const length = bytes[stream + STREAM.nameLength]!
  let name = ''
  for (let entry = stream + ENTRY.bytes; entry < end && name.length < length; entry += ENTRY.bytes) {
    if ((bytes[entry]! & ~IN_USE) !== ENTRY.name) return null
    for (let index = 0; index < NAME.characters && name.length < length; index++)
      name += String.fromCharCode(view.getUint16(entry + NAME.at + index * 2, true))
  }
  if (name.length !== length || length === 0) return null
  return {
    name,
    isDeleted,
    isFolder: (view.getUint16(at + FILE.attributes, true) & FOLDER) !== 0,
    isContiguous: (bytes[stream + STREAM.flags]! & IS_CONTIGUOUS) !== 0,
    cluster: view.getUint32(stream + STREAM.cluster, true),
    bytes: wide(view, stream + STREAM.bytes),
    validBytes: wide(view, stream + STREAM.validBytes),
    created: moment(
      view.getUint32(at + FILE.created, true),
      bytes[at + FILE.createdTenths]!,
      bytes[at + FILE.createdZone]!,
    ),
    modified: moment(
      view.getUint32(at + FILE.modified, true),
      bytes[at + FILE.modifiedTenths]!,
      bytes[at + FILE.modifiedZone]!,
    ),
  }
}

/** The allocation bitmap and the label in a root directory (exFAT specification, 7.1 and 7.3); null where it has none. */
export function rootFacts(bytes: Uint8Array): RootFacts {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  let bitmap: RootFacts['bitmap'] = null
  let label: string | null = null
  for (let at = 0; at + ENTRY.bytes <= bytes.length && bytes[at] !== 0; at += ENTRY.bytes) {
    if (bytes[at] === (ENTRY.bitmap | IN_USE) && (bytes[at + 1]! & 1) === 0)
      bitmap = { cluster: view.getUint32(at + 20, true), bytes: wide(view, at + 24) }
    if (bytes[at] === (ENTRY.label | IN_USE)) {
      const length = Math.min(11, bytes[at + 1]!)
      label = String.fromCharCode(...Array.from({ length }, (_, index) => view.getUint16(at + 2 + index * 2, true)))
    }
  }
  return { bitmap, label: label === '' ? null : label }
}

/** The checksum of a set while it was in use: over all its bytes except the two of the checksum (6.3.3). */
function checksumOf(bytes: Uint8Array, from: number, to: number): number {
  let sum = 0
  for (let at = from; at < to; at++) {
    if (at === from + FILE.checksum || at === from + FILE.checksum + 1) continue
    const byte = (at - from) % ENTRY.bytes === 0 ? bytes[at]! | IN_USE : bytes[at]!
    sum = (((sum & 1) << 15) + (sum >> 1) + byte) & 0xffff
  }
  return sum
}

/** A time with its offset from UTC in quarters of an hour, where that is valid (7.4.8 to 7.4.10). */
function moment(stamp: number, tenths: number, zone: number): string | null {
  const [date, time] = [stamp >>> 16, stamp & 0xffff]
  const [year, month, day] = [1980 + (date >> 9), (date >> 5) & 15, date & 31]
  const [hour, minute, second] = [time >> 11, (time >> 5) & 63, (time & 31) * 2]
  if (month < 1 || month > 12 || day < 1 || hour > 23 || minute > 59 || second > 59) return null
  const quarters = zone & 0x80 ? ((zone & 0x7f) << 25) >> 25 : 0
  const local = Date.UTC(year, month - 1, day, hour, minute, second) + Math.min(199, tenths) * 10
  return isoMoment(local - quarters * 15 * 60_000)
}

function wide(view: DataView, at: number): number {
  return Number(view.getBigUint64(at, true))
}
