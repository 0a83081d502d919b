import type { Reader } from '../../../sources/reader'
import { BLOCKS_UNUSED, FEATURE, GROUP, SUPER } from './layout'

export interface Geometry {
  /** of the volume, as it says itself */
  readonly bytes: number
  /** where the volume begins, in bytes before this copy of the superblock */
  readonly before: number
  readonly blockBytes: number
  readonly blocks: number
  readonly firstDataBlock: number
  readonly blocksPerGroup: number
  readonly inodesPerGroup: number
  readonly inodeBytes: number
  readonly inodes: number
  readonly journalInode: number
  readonly usesExtents: boolean
  readonly hasJournal: boolean
  readonly label: string | null
  /** an inode counts clusters of blocks, not blocks */
  readonly countsClusters: boolean
  readonly groups: readonly Group[]
}

export interface Group {
  readonly blockBitmap: number
  readonly inodeTable: number
  readonly isBitmapUnused: boolean
}

/** Reads a superblock, the primary or a backup; null where it is invalid. Offset in bytes of the volume. */
export function readSuper(reader: Reader, at: number): Geometry | null {
  const u32 = (offset: number) => reader.u32le(at + offset)
  if (!reader.has(at, 1024) || reader.u16le(at + SUPER.magic) !== SUPER.magicValue) return null
  const shift = u32(SUPER.blockShift)
  const inodesPerGroup = u32(SUPER.inodesPerGroup)
  const blocksPerGroup = u32(SUPER.blocksPerGroup)
  if (shift > 6 || inodesPerGroup === 0 || blocksPerGroup === 0) return null
  const blockBytes = 1024 << shift
  const incompatible = u32(SUPER.incompatible)
  // A bitmap is one block, which limits the size of a group.
  const mostPerGroup = blockBytes * 8
  if (blocksPerGroup > mostPerGroup || blocksPerGroup < 64 || inodesPerGroup > mostPerGroup) return null
  const isWide = (incompatible & FEATURE.wide) !== 0
  const inodeBytes = u32(SUPER.revision) === 0 ? 128 : reader.u16le(at + SUPER.inodeBytes)
  if (inodeBytes < 128 || inodeBytes > blockBytes || (inodeBytes & (inodeBytes - 1)) !== 0) return null
  const told = u32(SUPER.blocks) + (isWide ? u32(SUPER.blocksHigh) * 2 ** 32 : 0)
  const blocks = Math.min(told, Math.ceil(reader.size / blockBytes))
  const firstDataBlock = u32(SUPER.firstDataBlock)
  const label = reader.text(at + SUPER.label, 16).split('\0')[0]!
  const descriptorBytes = isWide ? Math.max(32, reader.u16le(at + SUPER.descriptorBytes)) : 32
  if (descriptorBytes > 1024) return null
  const groupCount = Math.ceil((blocks - firstDataBlock) / blocksPerGroup)
  if (firstDataBlock > 1 || groupCount * inodesPerGroup * inodeBytes > reader.size) return null
  const group = reader.u16le(at + SUPER.ownGroup)
  return {
    bytes: told * blockBytes,
    before: group === 0 ? SUPER.at : (firstDataBlock + group * blocksPerGroup) * blockBytes,
    blockBytes,
    blocks,
    firstDataBlock,
    blocksPerGroup,
    inodesPerGroup,
    inodeBytes,
    inodes: Math.min(u32(SUPER.inodes), groupCount * inodesPerGroup),
    journalInode: u32(SUPER.journalInode),
    usesExtents: (incompatible & FEATURE.extents) !== 0,
    hasJournal: (u32(SUPER.compatible) & 4) !== 0,
    label: label === '' ? null : label,
    countsClusters: (u32(SUPER.readOnlyCompatible) & FEATURE.clusters) !== 0,
    groups: readGroups(reader, {
      blocks,
      blockBytes,
      firstDataBlock,
      blocksPerGroup,
      descriptorBytes,
      groupCount,
      firstMetaGroup: incompatible & FEATURE.metaGroups ? u32(SUPER.firstMetaGroup) : Infinity,
    }),
  }
}

interface GroupLayout {
  readonly blocks: number
  readonly blockBytes: number
  readonly firstDataBlock: number
  readonly blocksPerGroup: number
  readonly descriptorBytes: number
  readonly groupCount: number
  readonly firstMetaGroup: number
}

/** Reads the group descriptors; where one of the primary set is damaged, its backup beside a backup superblock. */
function readGroups(reader: Reader, layout: GroupLayout): Group[] {
  const { blockBytes, firstDataBlock, blocksPerGroup, descriptorBytes } = layout
  const perBlock = Math.floor(blockBytes / descriptorBytes)
  const copies = Array.from({ length: layout.groupCount }, (_, group) => group).filter(
    (group) => group > 0 && hasSuper(group),
  )
  const groups: Group[] = []
  for (let group = 0; group < layout.groupCount; group++) {
    const meta = Math.floor(group / perBlock)
    const within = (group % perBlock) * descriptorBytes
    // With meta block groups, their descriptors are in their own first group.
    const block =
      meta < layout.firstMetaGroup
        ? firstDataBlock + 1 + meta
        : firstDataBlock +
          meta * perBlock * blocksPerGroup +
          (meta === 0 ? 1 : 0) +
          (hasSuper(meta * perBlock) && meta > 0 ? 1 : 0)
    const at = block * blockBytes + within
    if (!reader.has(at, descriptorBytes)) break
    let own = groupAt(reader, at, descriptorBytes)
    for (const copy of meta < layout.firstMetaGroup && !isSound(own, layout) ? copies : []) {
      const other = groupAt(reader, (block + copy * blocksPerGroup) * blockBytes + within, descriptorBytes)
      if (isSound(other, layout)) own = other
      if (isSound(own, layout)) break
    }
    groups.push(isSound(own, layout) ? own : NO_GROUP)
  }
  return groups
}

/** A group with unknown contents: its inode table is placed beyond the end. */
const NO_GROUP: Group = { blockBitmap: 2 ** 40, inodeTable: 2 ** 40, isBitmapUnused: false }

/** Bitmaps and inode tables are behind the first group's descriptors and inside the volume. */
function isSound({ blockBitmap, inodeTable }: Group, { firstDataBlock, blocks }: GroupLayout): boolean {
  return [blockBitmap, inodeTable].every((block) => block > firstDataBlock + 1 && block < blocks)
}

function groupAt(reader: Reader, at: number, descriptorBytes: number): Group {
  const high = (offset: number) => (descriptorBytes >= 64 ? reader.u32le(at + offset) * 2 ** 32 : 0)
  return {
    blockBitmap: reader.u32le(at + GROUP.blockBitmap) + high(GROUP.blockBitmapHigh),
    inodeTable: reader.u32le(at + GROUP.inodeTable) + high(GROUP.inodeTableHigh),
    isBitmapUnused: (reader.u16le(at + GROUP.flags) & BLOCKS_UNUSED) !== 0,
  }
}

/** With sparse superblocks, backups are in groups whose numbers are powers of three, five and seven. */
function hasSuper(group: number): boolean {
  if (group <= 1) return true
  return [3, 5, 7].some((base) => {
    let power = base
    while (power < group) power *= base
    return power === group
  })
}

/** The primary superblock of a volume, or its first undamaged backup. */
export function findSuper(reader: Reader): { geometry: Geometry; isBackup: boolean } | null {
  const first = readSuper(reader, SUPER.at)
  if (first) return { geometry: first, isBackup: false }
  for (const at of [8193 * 1024, 16_384 * 2048, 32_768 * 4096]) {
    const backup = readSuper(reader, at)
    if (backup) return { geometry: backup, isBackup: true }
  }
  return null
}
