/** The superblock, 1024 bytes into the volume: offsets in bytes (Linux kernel documentation, ext4 data structures, 3.1). */
export const SUPER = {
  at: 1024,
  inodes: 0,
  blocks: 4,
  firstDataBlock: 20,
  blockShift: 24,
  blocksPerGroup: 32,
  inodesPerGroup: 40,
  magic: 56,
  magicValue: 0xef53,
  revision: 76,
  inodeBytes: 88,
  ownGroup: 90,
  compatible: 92,
  incompatible: 96,
  readOnlyCompatible: 100,
  label: 120,
  journalInode: 224,
  descriptorBytes: 254,
  firstMetaGroup: 260,
  blocksHigh: 336,
} as const

export const FEATURE = {
  /** incompatible */
  extents: 0x40,
  wide: 0x80,
  metaGroups: 0x10,
  inlineData: 0x8000,
  encrypted: 0x10000,
  /** read-only compatible */
  clusters: 0x200,
} as const

/** A group descriptor (3.2). */
export const GROUP = { blockBitmap: 0, inodeTable: 8, flags: 18, blockBitmapHigh: 32, inodeTableHigh: 40 } as const
export const BLOCKS_UNUSED = 2

/** An inode (4.1). */
export const INODE = {
  mode: 0,
  size: 4,
  changed: 12,
  modified: 16,
  deleted: 20,
  links: 26,
  sectors: 28,
  flags: 32,
  block: 40,
  blockBytes: 60,
  attributes: 104,
  sizeHigh: 108,
  sectorsHigh: 116,
  extraBytes: 128,
  modifiedExtra: 136,
  created: 144,
  createdExtra: 148,
} as const

export const MODE = { mask: 0xf000, file: 0x8000, folder: 0x4000 } as const
export const INODE_FLAG = { extents: 0x80000, inline: 0x10000000, encrypted: 0x800, countsBlocks: 0x40000 } as const
export const ROOT_INODE = 2

/** Extended attributes in the inode, and the name of the one that continues inline content ("data" of the system). */
export const ATTRIBUTES = { magic: 0xea020000, system: 7, value: 2, valueBytes: 8, name: 16 } as const

/** A node of an extent tree: its header and entries are twelve bytes each (4.4). */
export const EXTENT = { magic: 0xf30a, entries: 2, most: 4, depth: 6, bytes: 12 } as const

/** An entry of a folder (4.3). */
export const ENTRY = {
  inode: 0,
  length: 4,
  nameLength: 6,
  type: 7,
  name: 8,
  least: 12,
  isFile: 1,
  isFolder: 2,
} as const

/** The journal (3.6): all numbers are big-endian. */
export const JOURNAL = {
  magic: 0xc03b3998,
  blockType: 4,
  sequence: 8,
  descriptor: 1,
  superV1: 3,
  superV2: 4,
  blockBytes: 12,
  blocks: 16,
  incompatible: 40,
  tags: 12,
  wide: 2,
  checksumV2: 8,
  checksumV3: 16,
  sameId: 2,
  last: 8,
  escaped: 1,
} as const
