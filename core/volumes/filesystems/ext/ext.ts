import { Reader } from '../../../sources/reader'
import { bytesSource, HOLE, piecesSource, sliceSource, type ByteSource, type Extent } from '../../../sources/source'
import type { ScanWarning } from '../volume-shape'
import {
  joinedExtents,
  type FileRecord,
  type FileSystem,
  type Layout,
  type FileSystemFormat,
  type Traces,
} from '../file-system'
import { UnitMap } from '../unit-map'
import { readEntries } from './folder'
import { findSuper, readSuper, type Geometry } from './geometry'
import { blocksMissing, readInode, runsOf, type BlockMap, type BlockRun, type Inode } from './inode'
import { bytesOfCopy, readJournal, type BlockCopy } from './journal'
import { ROOT_INODE } from './layout'
import { Lists, mayBeginList, readList, type Listed } from './lists'

/** Inline content of an inode, in its block area and in an extended attribute; null where some is missing. */
function keptContent({ size, block, inlineRest }: Inode): Uint8Array | null {
  if (size > block.length + inlineRest.length) return null
  const content = new Uint8Array(size)
  content.set(block.subarray(0, size))
  if (size > block.length) content.set(inlineRest.subarray(0, size - block.length), block.length)
  return content
}

function isZero(bytes: Uint8Array): boolean {
  for (let at = 0; at < bytes.length; at++) if (bytes[at] !== 0) return false
  return true
}

const MAX_DEPTH = 128
const MAX_FOLDER_BYTES = 64 * 1024 * 1024
const MAX_JOURNAL_BYTES = 4 * 2 ** 30
const BATCH_BYTES = 1024 * 1024

/** ext2, ext3 and ext4 (Linux kernel documentation, ext4 data structures). */
export const ext: FileSystemFormat = { kinds: ['ext2', 'ext3', 'ext4'], recognise, startsAt }

function recognise(image: ByteSource, offset: number, length: number): FileSystem | null {
  const volume = sliceSource(image, offset, length)
  const found = findSuper(new Reader(volume))
  return found ? new Ext(volume, offset, found.geometry, found.isBackup) : null
}

function startsAt(image: Reader, at: number): readonly Extent[] {
  const found = readSuper(image, at)
  return found ? [[at - found.before, found.bytes]] : []
}

/** An inode at an earlier time, and how to read the blocks of that time. */
interface Version {
  readonly inode: Inode
  readonly map: BlockMap
}

const NO_BLOCKS: BlockMap = { runs: [], listBlocks: 0 }
/** The first inode that is not reserved. */
const FIRST_INODE_OF_FILES = 11

interface Named {
  readonly path: string
  readonly isDeleted: boolean
}

class Ext implements FileSystem {
  readonly kind: string
  readonly label: string | null
  readonly bytes: number
  readonly unitBytes: number
  readonly unitsFrom: number
  readonly allocated: UnitMap
  readonly warnings: ScanWarning[] = []
  private readonly journal: ByteSource | null
  private readonly copies: Map<number, BlockCopy[]>
  private isSomeRecordLost = false

  constructor(
    private readonly volume: ByteSource,
    private readonly offset: number,
    private readonly geometry: Geometry,
    isBackup: boolean,
  ) {
    this.kind = geometry.usesExtents ? 'ext4' : geometry.hasJournal ? 'ext3' : 'ext2'
    this.label = geometry.label
    this.bytes = geometry.bytes
    this.unitBytes = geometry.blockBytes
    this.unitsFrom = offset
    if (isBackup) this.warn('superblock', 'is damaged; a backup copy was used')
    this.allocated = this.readBitmaps()
    this.journal = this.openJournal()
    this.copies = this.journal ? readJournal(this.journal, geometry.blockBytes) : new Map()
  }

  /** Indirect blocks, which stay when the inode of a file is cleared. */
  readonly traces: Traces = {
    begins: (block, at) => mayBeginList(block, at, this.geometry.blocks),
    files: () => [],
    layouts: (places) => this.layoutsOfLists(places),
  }

  private layoutsOfLists(places: readonly number[]): (start: number, followed: number) => Iterable<Layout> {
    const lists: [number, number[]][] = []
    for (const place of places) {
      const block = (place - this.offset) / this.unitBytes
      const bytes = Number.isInteger(block) ? this.block(block) : null
      const numbers = bytes && readList(bytes, this.geometry.blocks)
      if (numbers) lists.push([block, numbers])
    }
    const known = new Lists(lists, this.unitBytes / 4)
    return (start, followed) => {
      const block = (start - this.offset) / this.unitBytes
      return Number.isInteger(block)
        ? this.freeLayouts(known.layouts(block, Math.floor(followed / this.unitBytes)))
        : []
    }
  }

  private *freeLayouts(layouts: Iterable<Listed>): Iterable<Layout> {
    for (const { runs, isTold, more } of layouts)
      if (runs.every((run) => this.isFree(run)))
        yield { extents: this.extentsOf(runs, Infinity), isTold, more: () => this.freeLayouts(more()) }
  }

  private isFree({ physical, count }: BlockRun): boolean {
    for (let at = 0; at < count; at++) if (this.allocated.has(physical! + at)) return false
    return true
  }

  /** Inodes are reused without a trace. */
  hasEveryRecord(): boolean {
    return false
  }
  hasLostRecords(): boolean {
    return this.isSomeRecordLost
  }

  *files(): Iterable<FileRecord> {
    const names = this.names()
    for (const [number, bytes] of this.inodes()) {
      const inode = readInode(bytes)
      if (number < FIRST_INODE_OF_FILES && number !== ROOT_INODE) continue
      if (inode?.isFile && inode.links > 0) {
        yield this.presentFile(inode, names.get(number)?.find((one) => !one.isDeleted)?.path ?? `inode ${number}`)
        const earlier = this.lastVersion(number, null, inode.created)
        const old = names.get(number)?.find((one) => one.isDeleted)?.path ?? `inode ${number}, earlier`
        if (earlier) yield this.fileOf(earlier, old, 'deleted', null)
        continue
      }
      if (inode && !inode.isFile) continue
      const version = this.lastVersion(number, inode)
      if (!version) continue
      const name = names.get(number)?.[0]?.path ?? `inode ${number}`
      yield this.fileOf(version, name, 'deleted', inode?.deleted ?? null)
    }
  }

  private presentFile(inode: Inode, path: string): FileRecord {
    const map = inode.isInline ? NO_BLOCKS : this.mapOf(inode)
    if (!map) this.warn(path, 'its block list is damaged')
    if (inode.isEncrypted) this.warn(path, 'is encrypted by the file system: its content is useless without the key')
    const told = this.fileOf({ inode, map: map ?? NO_BLOCKS }, path, 'present', null)
    if (map && told.fault) this.warn(path, told.fault)
    return map ? told : { ...told, extents: [], fault: 'its block list is damaged' }
  }

  private fileOf(
    { inode, map }: Version,
    path: string,
    record: 'present' | 'deleted',
    deleted: string | null,
  ): FileRecord {
    const kept = inode.isInline ? keptContent(inode) : null
    const missing = inode.isInline || this.geometry.countsClusters ? 0 : blocksMissing(inode, map, this.unitBytes)
    return {
      path,
      record,
      bytes: inode.size,
      created: inode.created,
      modified: inode.modified,
      deleted,
      extents: inode.isInline ? [] : this.extentsOf(map.runs, inode.size),
      otherExtents: [],
      // Deleting clears the size, so a deleted file without a size need not have been empty.
      isChainRecorded: record === 'present' || inode.size > 0,
      content: kept && bytesSource(kept),
      fault:
        inode.isInline && !kept
          ? 'inline data is missing from its inode'
          : missing > 0
            ? `${missing} of its blocks are not listed: a block list is damaged`
            : null,
    }
  }

  /** Unlisted blocks were never written and read as zeros. */
  private extentsOf(runs: readonly BlockRun[], size: number): Extent[] {
    const extents: Extent[] = []
    let next = 0
    for (const { logical, physical, count } of runs) {
      if (logical > next) extents.push([HOLE, (logical - next) * this.unitBytes])
      extents.push([physical === null ? HOLE : this.offset + physical * this.unitBytes, count * this.unitBytes])
      next = logical + count
    }
    if (next * this.unitBytes < size && Number.isFinite(size)) extents.push([HOLE, size - next * this.unitBytes])
    return joinedExtents(extents, size)
  }

  /**
   * A deleted file as it last was: its own inode where that still has the block numbers, or the newest copy of it in
   * the journal that has them. For an inode that another file has now, a copy from before that file (`notOf`: when that
   * file was created).
   */
  private lastVersion(number: number, now: Inode | null, notOf?: string | null): Version | null {
    if (now && now.size > 0) {
      const map = this.mapOf(now)
      if (map && map.runs.length > 0) return { inode: now, map }
    }
    const place = this.placeOf(number)
    if (!place || !this.journal) return null
    for (const copy of this.copies.get(place.block) ?? []) {
      const block = bytesOfCopy(this.journal, copy, this.unitBytes)
      const inode = readInode(block.subarray(place.within, place.within + this.geometry.inodeBytes))
      if (!inode?.isFile || inode.links === 0 || (inode.size === 0 && !now?.deleted)) continue
      if (notOf !== undefined && (notOf === null || inode.created === notOf)) continue
      const asOf = (wanted: number) => this.blockAsOf(wanted, copy.sequence)
      const map = inode.isInline ? NO_BLOCKS : runsOf(inode, asOf, this.unitBytes, this.geometry.blocks)
      if (map && (map.runs.length > 0 || inode.isInline || inode.size === 0)) return { inode, map }
    }
    return null
  }

  /** A block at that point of the journal: the newest earlier copy, or what is on the volume now. */
  private blockAsOf(block: number, sequence: number): Uint8Array | null {
    const copy = this.copies.get(block)?.find((one) => one.sequence <= sequence)
    return copy && this.journal ? bytesOfCopy(this.journal, copy, this.unitBytes) : this.block(block)
  }

  /** Every path by inode number, present ones first, from the directories and their older copies. */
  private names(): Map<number, Named[]> {
    const names = new Map<number, Named[]>()
    const seen = new Set<number>()
    const waiting = [{ inode: ROOT_INODE, path: '', isDeleted: false, depth: 0 }]
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      if (seen.has(next.inode) || next.depth > MAX_DEPTH) continue
      seen.add(next.inode)
      for (const block of this.folderBlocks(next.inode, next.isDeleted))
        for (const entry of readEntries(block.bytes, this.geometry.inodes)) {
          const path = next.path === '' ? entry.name : `${next.path}/${entry.name}`
          const isDeleted = entry.isDeleted || next.isDeleted || block.isOld
          const own = names.get(entry.inode) ?? []
          if (!own.some((one) => one.path === path && (one.isDeleted || !isDeleted))) {
            own.push({ path, isDeleted })
            own.sort((a, b) => Number(a.isDeleted) - Number(b.isDeleted))
            names.set(entry.inode, own)
          }
          if (entry.isFolder) waiting.push({ inode: entry.inode, path, isDeleted, depth: next.depth + 1 })
        }
      // Present directories are walked before deleted ones, so that a directory has its present name.
      waiting.sort((a, b) => Number(a.isDeleted) - Number(b.isDeleted))
    }
    return names
  }

  private *folderBlocks(number: number, isDeleted: boolean): Iterable<{ bytes: Uint8Array; isOld: boolean }> {
    const now = this.inode(number)
    const isThere = now?.isFolder && now.links > 0
    const version = isThere ? { inode: now, map: this.mapOf(now) } : isDeleted ? this.lastFolder(number, now) : null
    if (!version) return
    let left = Math.min(version.inode.size, MAX_FOLDER_BYTES)
    for (const { physical, count } of version.map?.runs ?? [])
      for (let at = 0; physical !== null && at < count && left > 0; at++, left -= this.unitBytes) {
        const bytes = this.block(physical + at)
        if (bytes && (isThere || !this.allocated.has(physical + at))) yield { bytes, isOld: false }
        for (const copy of this.copies.get(physical + at) ?? [])
          if (this.journal) yield { bytes: bytesOfCopy(this.journal, copy, this.unitBytes), isOld: true }
      }
  }

  private lastFolder(number: number, now: Inode | null): Version | null {
    if (now?.isFolder) {
      const map = this.mapOf(now)
      if (map && map.runs.length > 0 && now.size > 0) return { inode: now, map }
    }
    const place = this.placeOf(number)
    if (!place || !this.journal) return null
    for (const copy of this.copies.get(place.block) ?? []) {
      const block = bytesOfCopy(this.journal, copy, this.unitBytes)
      const inode = readInode(block.subarray(place.within, place.within + this.geometry.inodeBytes))
      if (!inode?.isFolder || inode.links === 0) continue
      const map = runsOf(inode, (wanted) => this.blockAsOf(wanted, copy.sequence), this.unitBytes, this.geometry.blocks)
      if (map && map.runs.length > 0) return { inode, map }
    }
    return null
  }

  private mapOf(inode: Inode): BlockMap | null {
    return runsOf(inode, (block) => this.block(block), this.unitBytes, this.geometry.blocks)
  }

  private *inodes(): Iterable<[number, Uint8Array]> {
    const { inodesPerGroup, inodeBytes, groups } = this.geometry
    for (const [group, { inodeTable }] of groups.entries()) {
      const from = inodeTable * this.unitBytes
      const length = inodesPerGroup * inodeBytes
      let isEmptySince = false
      for (let done = 0; done < length; done += BATCH_BYTES) {
        const batch = this.volume.read(from + done, Math.min(BATCH_BYTES, length - done))
        if (batch.length < Math.min(BATCH_BYTES, length - done)) this.isSomeRecordLost = true
        for (let at = 0; at + inodeBytes <= batch.length; at += inodeBytes) {
          const number = group * inodesPerGroup + (done + at) / inodeBytes + 1
          const bytes = batch.subarray(at, at + inodeBytes)
          // Inodes are allocated from the first on: an empty one before a used one was used once.
          const isEmpty = number >= FIRST_INODE_OF_FILES && isZero(bytes)
          if (!isEmpty && isEmptySince) this.isSomeRecordLost = true
          isEmptySince = isEmpty
          yield [number, bytes]
        }
      }
    }
  }

  private inode(number: number): Inode | null {
    const place = this.placeOf(number)
    if (!place) return null
    const bytes = this.volume.read(place.block * this.unitBytes + place.within, this.geometry.inodeBytes)
    return bytes.length === this.geometry.inodeBytes ? readInode(bytes) : null
  }

  private placeOf(number: number): { block: number; within: number } | null {
    const { inodesPerGroup, inodeBytes, groups } = this.geometry
    const group = groups[Math.floor((number - 1) / inodesPerGroup)]
    if (!group || number < 1) return null
    const at = ((number - 1) % inodesPerGroup) * inodeBytes
    return { block: group.inodeTable + Math.floor(at / this.unitBytes), within: at % this.unitBytes }
  }

  private block(block: number): Uint8Array | null {
    const bytes = this.volume.read(block * this.unitBytes, this.unitBytes)
    return bytes.length === this.unitBytes ? bytes : null
  }

  private readBitmaps(): UnitMap {
    const { blocks, blocksPerGroup, firstDataBlock, groups, inodesPerGroup, inodeBytes } = this.geometry
    const map = new UnitMap(blocks)
    for (let block = 0; block < firstDataBlock; block++) map.add(block)
    for (const [group, one] of groups.entries()) {
      const first = firstDataBlock + group * blocksPerGroup
      const tableBlocks = Math.ceil((inodesPerGroup * inodeBytes) / this.unitBytes)
      for (let at = 0; at < tableBlocks; at++) map.add(one.inodeTable + at)
      if (one.isBitmapUnused) continue
      const bits = this.volume.read(one.blockBitmap * this.unitBytes, Math.ceil(blocksPerGroup / 8))
      for (let at = 0; at < blocksPerGroup && first + at < blocks; at++)
        if ((bits[at >> 3]! >> (at & 7)) & 1) map.add(first + at)
    }
    return map
  }

  private openJournal(): ByteSource | null {
    const inode = this.geometry.hasJournal ? this.inode(this.geometry.journalInode) : null
    const map = inode ? this.mapOf(inode) : null
    if (!inode || !map || inode.size > MAX_JOURNAL_BYTES) return null
    const extents = map.runs.map(({ physical, count }): Extent => [
      physical === null ? HOLE : physical * this.unitBytes,
      count * this.unitBytes,
    ])
    return piecesSource(this.volume, joinedExtents(extents, inode.size))
  }

  private warn(where: string, what: string): void {
    if (this.warnings.length < 1000) this.warnings.push({ where, what })
  }
}
