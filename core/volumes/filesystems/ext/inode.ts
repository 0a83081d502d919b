import { isoMoment } from '../../../sources/iso-moment'
import { ATTRIBUTES, EXTENT, INODE, INODE_FLAG, MODE } from './layout'

export interface Inode {
  readonly isFile: boolean
  readonly isFolder: boolean
  readonly links: number
  readonly size: number
  readonly created: string | null
  readonly modified: string | null
  /** null while it is in use */
  readonly deleted: string | null
  readonly usesExtents: boolean
  readonly isInline: boolean
  readonly isEncrypted: boolean
  /** sectors of 512 bytes that it has, indirect blocks and attributes included; blocks where `countsBlocks` */
  readonly held: number
  readonly countsBlocks: boolean
  readonly hasAttributeBlock: boolean
  /** its sixty bytes of block numbers, extent tree root, or inline content */
  readonly block: Uint8Array
  /** the rest of inline content */
  readonly inlineRest: Uint8Array
}

/** Reads an inode from its bytes; null where nothing was ever written to it. */
export function readInode(bytes: Uint8Array): Inode | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  const mode = view.getUint16(INODE.mode, true)
  if (mode === 0) return null
  const flags = view.getUint32(INODE.flags, true)
  const extra = bytes.length > 128 + 4 ? view.getUint16(INODE.extraBytes, true) : 0
  const isFile = (mode & MODE.mask) === MODE.file
  const seconds = (at: number, extraAt: number, least: number) => {
    const epoch = extra >= least && bytes.length >= extraAt + 4 ? view.getUint32(extraAt, true) : 0
    const time = view.getInt32(at, true) + (epoch & 3) * 2 ** 32
    return time === 0 ? null : isoMoment(time * 1000 + Math.floor((epoch >>> 2) / 1_000_000))
  }
  const deleted = view.getUint32(INODE.deleted, true)
  const links = view.getUint16(INODE.links, true)
  return {
    isFile,
    isFolder: (mode & MODE.mask) === MODE.folder,
    links,
    size: view.getUint32(INODE.size, true) + (isFile ? view.getUint32(INODE.sizeHigh, true) * 2 ** 32 : 0),
    created: extra >= 24 && bytes.length >= 152 ? seconds(INODE.created, INODE.createdExtra, 24) : null,
    modified: seconds(INODE.modified, INODE.modifiedExtra, 12),
    // While a file is an orphan, this field links to the next orphan and is no time.
    deleted: links === 0 && deleted > 0 ? isoMoment(deleted * 1000) : null,
    usesExtents: (flags & INODE_FLAG.extents) !== 0,
    isInline: (flags & INODE_FLAG.inline) !== 0,
    isEncrypted: (flags & INODE_FLAG.encrypted) !== 0,
    held: view.getUint32(INODE.sectors, true) + view.getUint16(INODE.sectorsHigh, true) * 2 ** 32,
    countsBlocks: (flags & INODE_FLAG.countsBlocks) !== 0,
    hasAttributeBlock: view.getUint32(INODE.attributes, true) !== 0,
    block: bytes.slice(INODE.block, INODE.block + INODE.blockBytes),
    inlineRest: inlineRest(bytes, view, extra),
  }
}

/** Inline content beyond the inode's own sixty bytes is in an extended attribute behind them (4.5, 3.8). */
function inlineRest(bytes: Uint8Array, view: DataView, extra: number): Uint8Array {
  const head = 128 + extra
  const none = new Uint8Array(0)
  if (head + 4 > bytes.length || view.getUint32(head, true) !== ATTRIBUTES.magic) return none
  const first = head + 4
  for (let at = first; at + ATTRIBUTES.name <= bytes.length && view.getUint32(at, true) !== 0;) {
    const nameBytes = bytes[at]!
    const isData =
      bytes[at + 1] === ATTRIBUTES.system && nameBytes === 4 && view.getUint32(at + ATTRIBUTES.name) === 0x64617461
    if (isData) {
      const from = first + view.getUint16(at + ATTRIBUTES.value, true)
      return bytes.slice(from, from + view.getUint32(at + ATTRIBUTES.valueBytes, true))
    }
    at += (ATTRIBUTES.name + nameBytes + 3) & ~3
  }
  return none
}

/** A run of blocks of a file; `physical` is null where they were allocated and never written. */
export interface BlockRun {
  readonly logical: number
  readonly physical: number | null
  readonly count: number
}

/** Reads a block of the volume, or an older copy of it, by its number. */
export type ReadBlock = (block: number) => Uint8Array | null

/** The blocks of a file in order, and how many further blocks hold its tree or indirect blocks. */
export interface BlockMap {
  readonly runs: readonly BlockRun[]
  readonly listBlocks: number
}

/** Reads an inode's block list; null where its extent tree or its indirect blocks are invalid. */
export function runsOf(inode: Inode, readBlock: ReadBlock, blockBytes: number, blocks: number): BlockMap | null {
  const need = Math.ceil(inode.size / blockBytes)
  return inode.usesExtents
    ? extentRuns(inode.block, readBlock, blocks)
    : indirectRuns(inode.block, readBlock, blockBytes, blocks, need)
}

/** How many blocks the inode counts that are in no list: some list was damaged. */
export function blocksMissing(inode: Inode, { runs, listBlocks }: BlockMap, blockBytes: number): number {
  const held = inode.countsBlocks ? inode.held : Math.floor(inode.held / (blockBytes / 512))
  const found = runs.reduce((sum, { count }) => sum + count, listBlocks + Number(inode.hasAttributeBlock))
  return Math.max(0, held - found)
}

function extentRuns(root: Uint8Array, readBlock: ReadBlock, blocks: number): BlockMap | null {
  const runs: BlockRun[] = []
  let nodes = 0
  const walk = (bytes: Uint8Array, depthAbove: number): boolean => {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
    const entries = view.getUint16(EXTENT.entries, true)
    const depth = view.getUint16(EXTENT.depth, true)
    if (view.getUint16(0, true) !== EXTENT.magic || depth >= depthAbove || (entries + 1) * EXTENT.bytes > bytes.length)
      return false
    if (++nodes > 10_000) return false
    for (let entry = 1; entry <= entries; entry++) {
      const at = entry * EXTENT.bytes
      const logical = view.getUint32(at, true)
      if (depth > 0) {
        const child = view.getUint32(at + 4, true) + view.getUint16(at + 8, true) * 2 ** 32
        const below = child < blocks ? readBlock(child) : null
        if (!below || !walk(below, depth)) return false
        continue
      }
      const told = view.getUint16(at + 4, true)
      const count = told > 32_768 ? told - 32_768 : told
      const physical = view.getUint32(at + 8, true) + view.getUint16(at + 6, true) * 2 ** 32
      if (count === 0 || physical + count > blocks) return false
      runs.push({ logical, physical: told > 32_768 ? null : physical, count })
    }
    return true
  }
  if (!walk(root, 6)) return null
  runs.sort((a, b) => a.logical - b.logical)
  const overlaps = runs.some(({ logical }, at) => at > 0 && logical < runs[at - 1]!.logical + runs[at - 1]!.count)
  return overlaps ? null : { runs, listBlocks: nodes - 1 }
}

function indirectRuns(
  block: Uint8Array,
  readBlock: ReadBlock,
  blockBytes: number,
  blocks: number,
  need: number,
): BlockMap | null {
  const view = new DataView(block.buffer, block.byteOffset, block.length)
  const runs: { logical: number; physical: number; count: number }[] = []
  let [logical, listBlocks] = [0, 0]
  const add = (physical: number): boolean => {
    if (physical >= blocks) return false
    const last = runs.at(-1)
    if (physical !== 0) {
      if (last && last.logical + last.count === logical && last.physical + last.count === physical) last.count++
      else runs.push({ logical, physical, count: 1 })
    }
    logical++
    return true
  }
  const perBlock = blockBytes / 4
  const follow = (number: number, depth: number): boolean => {
    if (logical >= need) return true
    if (depth === 0) return add(number)
    if (number === 0) {
      logical += perBlock ** depth
      return true
    }
    const bytes = number < blocks ? readBlock(number) : null
    if (!bytes) return false
    listBlocks++
    const below = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
    for (let index = 0; index < perBlock && logical < need; index++)
      if (!follow(below.getUint32(index * 4, true), depth - 1)) return false
    return true
  }
  for (let index = 0; index < 12; index++) if (!follow(view.getUint32(index * 4, true), 0)) return null
  for (let depth = 1; depth <= 3; depth++) if (!follow(view.getUint32((11 + depth) * 4, true), depth)) return null
  return { runs, listBlocks }
}
