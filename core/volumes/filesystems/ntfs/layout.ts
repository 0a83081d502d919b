/** The boot sector of an NTFS volume: offsets in bytes. */
export const BOOT = {
  name: 3,
  signature: 'NTFS    ',
  bytesPerSector: 11,
  sectorsPerCluster: 13,
  sectors: 40,
  mftCluster: 48,
  mirrorCluster: 56,
  recordSize: 64,
  folderBlockSize: 68,
} as const

/** A record of the master file table: offsets in bytes. */
export const RECORD = {
  signature: 'FILE',
  fixupAt: 4,
  fixupCount: 6,
  sequence: 16,
  firstAttribute: 20,
  flags: 22,
  usedBytes: 24,
  base: 32,
  number: 44,
  inUse: 1,
  folder: 2,
} as const

export const ATTRIBUTE = {
  type: 0,
  length: 4,
  isNonResident: 8,
  nameLength: 9,
  nameAt: 10,
  flags: 12,
  id: 14,
  // of a resident attribute
  contentBytes: 16,
  contentAt: 20,
  // of a non-resident attribute
  firstCluster: 16,
  runsAt: 32,
  compressionUnit: 34,
  allocatedBytes: 40,
  bytes: 48,
  validBytes: 56,
  compressed: 0x00ff,
  encrypted: 0x4000,
} as const

export const TYPE = {
  standard: 0x10,
  list: 0x20,
  fileName: 0x30,
  volumeName: 0x60,
  data: 0x80,
  folderBlocks: 0xa0,
  bitmap: 0xb0,
  end: 0xffffffff,
} as const

/** The times of a file, in hundreds of nanoseconds since 1601. */
export const STANDARD = { created: 0, modified: 8 } as const
export const FILE_NAME = {
  parent: 0,
  created: 8,
  modified: 16,
  bytes: 48,
  flags: 56,
  length: 64,
  namespace: 65,
  name: 66,
  folder: 0x1000_0000,
} as const
/** An index block, and the header of an entry in it: offsets in bytes. */
export const INDEX = {
  signature: 0x494e4458,
  /** where its entries begin and how long they are, relative to this */
  head: 24,
  usedBytes: 28,
  entryBytes: 8,
  nameBytes: 10,
  name: 16,
} as const
export const LIST_ENTRY = { type: 0, length: 4, firstCluster: 8, record: 16, id: 24, least: 26 } as const

/** Records whose numbers have a meaning. */
export const MFT_RECORD = { mft: 0, volume: 3, root: 5, bitmap: 6, firstOfFiles: 24 } as const
