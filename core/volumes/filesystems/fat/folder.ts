import { isoMoment } from '../../../sources/iso-moment'
import { ATTRIBUTE, DELETED, ENTRY, LONG_NAME } from './layout'

/** A directory entry with its assembled long name. */
export interface FolderEntry {
  readonly name: string
  readonly isDeleted: boolean
  readonly isFolder: boolean
  readonly cluster: number
  readonly size: number
  readonly created: string | null
  readonly modified: string | null
}

interface LongPart {
  readonly text: string
  readonly checksum: number
  readonly isDeleted: boolean
}

/** The entries in the bytes of a directory, deleted ones too; ".", ".." and labels are left out. */
export function* readEntries(bytes: Uint8Array): Iterable<FolderEntry> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  let parts: LongPart[] = []
  for (let at = 0; at + ENTRY.bytes <= bytes.length; at += ENTRY.bytes) {
    const first = bytes[at]!
    if (first === 0) return
    const attributes = bytes[at + ENTRY.attributes]!
    const isDeleted = first === DELETED
    if ((attributes & 0x3f) === ATTRIBUTE.longName) {
      parts.push({ text: longPart(view, at), checksum: bytes[at + LONG_NAME.checksum]!, isDeleted })
      continue
    }
    const entry = entryAt(bytes, view, at, isDeleted, parts)
    parts = []
    if (entry) yield entry
  }
}

function entryAt(
  bytes: Uint8Array,
  view: DataView,
  at: number,
  isDeleted: boolean,
  parts: readonly LongPart[],
): FolderEntry | null {
  const attributes = bytes[at + ENTRY.attributes]!
  if ((attributes & ATTRIBUTE.label) !== 0 || (attributes & 0xc0) !== 0 || bytes[at] === 0x2e) return null
  const short = shortName(bytes, at)
  if (short === null) return null
  return {
    name: longName(bytes, at, isDeleted, parts) ?? short,
    isDeleted,
    isFolder: (attributes & ATTRIBUTE.folder) !== 0,
    cluster: view.getUint16(at + ENTRY.clusterHigh, true) * 65_536 + view.getUint16(at + ENTRY.cluster, true),
    size: view.getUint32(at + ENTRY.size, true),
    created: moment(
      view.getUint16(at + ENTRY.createdDate, true),
      view.getUint16(at + ENTRY.createdTime, true),
      bytes[at + ENTRY.createdTenths]!,
    ),
    modified: moment(view.getUint16(at + ENTRY.modifiedDate, true), view.getUint16(at + ENTRY.modifiedTime, true), 0),
  }
}

/** Deleting overwrites the first character of the short name; "_" replaces it. */
function shortName(bytes: Uint8Array, at: number): string | null {
  const letterCase = bytes[at + ENTRY.letterCase]!
  const characters: string[] = []
  for (let index = 0; index < 11; index++) {
    let byte = bytes[at + index]!
    if (index === 0 && byte === DELETED) byte = 0x5f
    if (index === 0 && byte === 0x05) byte = DELETED
    if (byte < 0x20 || '"*+,./:;<=>?[\\]|'.includes(String.fromCharCode(byte))) return null
    characters.push(String.fromCharCode(byte))
  }
  const base = characters.slice(0, 8).join('').trimEnd()
  const extension = characters.slice(8).join('').trimEnd()
  if (base === '') return null
  const name = letterCase & 0x08 ? base.toLowerCase() : base
  return extension === '' ? name : `${name}.${letterCase & 0x10 ? extension.toLowerCase() : extension}`
}

function longPart(view: DataView, at: number): string {
  let text = ''
  for (const offset of LONG_NAME.characters) {
    const character = view.getUint16(at + offset, true)
    if (character === 0 || character === 0xffff) break
    text += String.fromCharCode(character)
  }
  return text
}

/** The long name in front of a short one, where its checksum shows that it belongs to it. */
function longName(bytes: Uint8Array, at: number, isDeleted: boolean, parts: readonly LongPart[]): string | null {
  const checksum = parts.at(-1)?.checksum
  const own: string[] = []
  for (const part of [...parts].reverse()) {
    if (part.checksum !== checksum || part.isDeleted !== isDeleted) break
    own.push(part.text)
  }
  if (checksum === undefined || own.length === 0) return null
  const fits = isDeleted
    ? FIRST_CHARACTERS.some((first) => shortChecksum(bytes, at, first) === checksum)
    : shortChecksum(bytes, at, bytes[at]!) === checksum
  return fits ? own.join('') : null
}

const FIRST_CHARACTERS = Array.from({ length: 256 }, (_, byte) => byte).filter(
  (byte) => byte > 0x20 && !(byte >= 0x61 && byte <= 0x7a) && byte !== DELETED,
)
function shortChecksum(bytes: Uint8Array, at: number, first: number): number {
  let sum = first
  for (let index = 1; index < 11; index++) sum = (((sum & 1) << 7) + (sum >> 1) + bytes[at + index]!) & 0xff
  return sum
}

/** FAT stores local time without a zone; it is read as UTC. */
function moment(date: number, time: number, tenths: number): string | null {
  const [year, month, day] = [1980 + (date >> 9), (date >> 5) & 15, date & 31]
  const [hour, minute, second] = [time >> 11, (time >> 5) & 63, (time & 31) * 2]
  if (month < 1 || month > 12 || day < 1 || hour > 23 || minute > 59 || second > 59) return null
  const instant = new Date(Date.UTC(year, month - 1, day, hour, minute, second) + Math.min(199, tenths) * 10)
  return instant.getUTCDate() === day ? isoMoment(instant.getTime()) : null
}
