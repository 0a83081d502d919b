import { FILE_NAME, INDEX } from './layout'
import { momentOf, utf16, wide } from './record'

/** A name left in a directory whose file is gone. */
export interface OldEntry {
  readonly name: string
  readonly isFolder: boolean
  /** size of the file when the folder entry was last updated, in bytes */
  readonly bytes: number
  readonly created: string | null
  readonly modified: string | null
  /** its former record number and sequence number; null where they were overwritten */
  readonly record: { readonly number: number; readonly sequence: number } | null
}

/** a DOS (8.3) name */
const SHORT_NAMESPACE = 2
const MAX_NAMESPACE = 3
const ENTRY_ALIGNMENT = 8

/**
 * The names in unused bytes of a directory. Removing an entry moves those behind it forward, and what were the last
 * ones stay behind the end. A name is recognised by the directory that it refers to as its parent; its entry header may
 * have been overwritten by the end entry.
 */
export function* oldEntries(
  bytes: Uint8Array,
  [from, to]: readonly [from: number, to: number],
  folder: { readonly number: number; readonly sequence: number },
): Iterable<OldEntry> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  const low = folder.number % 2 ** 32
  const high = Math.floor(folder.number / 2 ** 32)
  const first = Math.ceil(from / ENTRY_ALIGNMENT) * ENTRY_ALIGNMENT
  for (let at = first; at + FILE_NAME.name + 2 <= to; at += ENTRY_ALIGNMENT) {
    if (view.getUint32(at, true) !== low || view.getUint16(at + 4, true) !== high) continue
    if (view.getUint16(at + 6, true) !== folder.sequence) continue
    const length = bytes[at + FILE_NAME.length]!
    const namespace = bytes[at + FILE_NAME.namespace]!
    const end = at + FILE_NAME.name + length * 2
    if (length === 0 || end > to || namespace > MAX_NAMESPACE || namespace === SHORT_NAMESPACE) continue
    const name = utf16(view, at + FILE_NAME.name, length)
    const created = momentOf(view, at + FILE_NAME.created)
    // eslint-disable-next-line no-control-regex
    if (created === null || /[\0-\x1f/]/.test(name)) continue
    yield {
      name,
      isFolder: (view.getUint32(at + FILE_NAME.flags, true) & FILE_NAME.folder) !== 0,
      bytes: wide(view, at + FILE_NAME.bytes),
      created,
      modified: momentOf(view, at + FILE_NAME.modified),
      record: recordBefore(view, at, from, FILE_NAME.name + length * 2),
    }
  }
}

/** The header of an entry, where it is still in front of the name and fits it. */
function recordBefore(view: DataView, at: number, from: number, nameBytes: number): OldEntry['record'] {
  const head = at - INDEX.name
  if (head < from || view.getUint16(head + INDEX.nameBytes, true) !== nameBytes) return null
  const length = view.getUint16(head + INDEX.entryBytes, true)
  if (length < INDEX.name + nameBytes || length > INDEX.name + nameBytes + 16) return null
  return {
    number: view.getUint32(head, true) + view.getUint16(head + 4, true) * 2 ** 32,
    sequence: view.getUint16(head + 6, true),
  }
}
