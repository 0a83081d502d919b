import type { ByteSource } from '../../../sources/source'
import { JOURNAL } from './layout'

/** An older copy of a block in the journal. */
export interface BlockCopy {
  /** offset in bytes of the journal */
  readonly at: number
  readonly sequence: number
  readonly isEscaped: boolean
}

/** Every copy of a block in the journal, newest first, by block number. */
export function readJournal(journal: ByteSource, blockBytes: number): Map<number, BlockCopy[]> {
  const copies = new Map<number, BlockCopy[]>()
  const head = viewOf(journal.read(0, blockBytes))
  if (head.byteLength < 1024 || head.getUint32(0) !== JOURNAL.magic) return copies
  const type = head.getUint32(JOURNAL.blockType)
  const incompatible = type === JOURNAL.superV2 ? head.getUint32(JOURNAL.incompatible) : 0
  const isV3 = (incompatible & JOURNAL.checksumV3) !== 0
  const isWide = (incompatible & JOURNAL.wide) !== 0
  const blocks = Math.floor(journal.size / blockBytes)
  for (let block = 1; block < blocks; block++) {
    const view = viewOf(journal.read(block * blockBytes, blockBytes))
    if (view.byteLength < blockBytes || view.getUint32(0) !== JOURNAL.magic) continue
    if (view.getUint32(JOURNAL.blockType) !== JOURNAL.descriptor) continue
    const sequence = view.getUint32(JOURNAL.sequence)
    let at: number = JOURNAL.tags
    for (let next = block + 1; next < blocks; next++) {
      const tag = tagAt(view, at, isV3, isWide, (incompatible & JOURNAL.checksumV2) !== 0)
      if (!tag) break
      const list = copies.get(tag.block) ?? []
      list.push({ at: next * blockBytes, sequence, isEscaped: tag.isEscaped })
      copies.set(tag.block, list)
      if (tag.isLast) break
      at = tag.end
    }
  }
  for (const list of copies.values()) list.sort((a, b) => b.sequence - a.sequence)
  return copies
}

function tagAt(view: DataView, at: number, isV3: boolean, isWide: boolean, isV2: boolean) {
  const bytes = isV3 ? 16 : 8 + (isWide ? 4 : 0) + (isV2 ? 2 : 0)
  if (at + bytes > view.byteLength) return null
  const flags = isV3 ? view.getUint32(at + 4) : view.getUint16(at + 6)
  const high = isWide ? view.getUint32(at + 8) : 0
  return {
    block: view.getUint32(at) + high * 2 ** 32,
    isEscaped: (flags & JOURNAL.escaped) !== 0,
    isLast: (flags & JOURNAL.last) !== 0,
    end: at + bytes + (flags & JOURNAL.sameId ? 0 : 16),
  }
}

/** The bytes of a copy; its first four were escaped where they equal the journal's magic number. */
export function bytesOfCopy(journal: ByteSource, copy: BlockCopy, blockBytes: number): Uint8Array {
  const bytes = new Uint8Array(journal.read(copy.at, blockBytes))
  if (copy.isEscaped && bytes.length >= 4) viewOf(bytes).setUint32(0, JOURNAL.magic)
  return bytes
}

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
