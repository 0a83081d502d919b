import { ENTRY } from './layout'

export interface FolderEntry {
  readonly name: string
  readonly inode: number
  readonly isFolder: boolean
  readonly isDeleted: boolean
}

const utf8 = new TextDecoder()

/** live directory entries, and deleted ones in the slack of the preceding entry (rec_len) */
export function* readEntries(block: Uint8Array, inodes: number): Iterable<FolderEntry> {
  const view = new DataView(block.buffer, block.byteOffset, block.length)
  for (let at = 0; at + ENTRY.least <= block.length;) {
    const length = view.getUint16(at + ENTRY.length, true)
    if (length < ENTRY.least || length % 4 !== 0 || at + length > block.length) return
    const own = entryAt(block, view, at, at + length, inodes)
    if (own) yield own
    const used = view.getUint32(at, true) === 0 ? ENTRY.least : roomOf(block[at + ENTRY.nameLength]!)
    // Deleting the first entry of a block sets its inode to zero; the name may still be there.
    for (let slack = at + used; slack + ENTRY.least <= at + length;) {
      const old = entryAt(block, view, slack, at + length, inodes)
      if (old) {
        yield { ...old, isDeleted: true }
        slack += roomOf(block[slack + ENTRY.nameLength]!)
      } else slack += 4
    }
    at += length
  }
}

const roomOf = (nameLength: number) => (ENTRY.name + nameLength + 3) & ~3

function entryAt(block: Uint8Array, view: DataView, at: number, end: number, inodes: number): FolderEntry | null {
  const inode = view.getUint32(at + ENTRY.inode, true)
  const nameLength = block[at + ENTRY.nameLength]!
  const type = block[at + ENTRY.type]!
  if (inode === 0 || inode > inodes || nameLength === 0 || at + ENTRY.name + nameLength > end || type > 7) return null
  const bytes = block.subarray(at + ENTRY.name, at + ENTRY.name + nameLength)
  if (bytes.some((byte) => byte === 0 || byte === 0x2f)) return null
  const name = utf8.decode(bytes)
  if (name === '.' || name === '..') return null
  return { name, inode, isFolder: type === ENTRY.isFolder, isDeleted: false }
}
