/** The boot sector of FAT12, FAT16 and FAT32: offsets in bytes (ECMA-107, 9; FAT32 extends it). */
export const BOOT = {
  bytesPerSector: 11,
  sectorsPerCluster: 13,
  reservedSectors: 14,
  tables: 16,
  rootEntries: 17,
  sectors16: 19,
  tableSectors16: 22,
  sectors32: 32,
  /** of FAT32: bit 7 means that only one table is kept current, the low four bits which */
  tableUse: 40,
  tableSectors32: 36,
  rootCluster: 44,
  backupSector: 50,
  label16: 43,
  label32: 71,
  signature: 510,
} as const

/** A directory entry: offsets in bytes (ECMA-107, 11). */
export const ENTRY = {
  bytes: 32,
  attributes: 11,
  letterCase: 12,
  createdTenths: 13,
  createdTime: 14,
  createdDate: 16,
  clusterHigh: 20,
  modifiedTime: 22,
  modifiedDate: 24,
  cluster: 26,
  size: 28,
} as const

export const ATTRIBUTE = { label: 0x08, folder: 0x10, longName: 0x0f } as const
export const DELETED = 0xe5

/** A long-name entry: the offsets of its thirteen characters. */
export const LONG_NAME = { checksum: 13, characters: [1, 3, 5, 7, 9, 14, 16, 18, 20, 22, 24, 28, 30] } as const
