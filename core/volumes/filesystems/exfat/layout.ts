/** The main boot sector of exFAT: offsets in bytes (exFAT file system specification, 3.1). */
export const BOOT = {
  name: 3,
  signature: 'EXFAT   ',
  volumeSectors: 72,
  tableSector: 80,
  tableSectors: 84,
  heapSector: 88,
  clusters: 92,
  rootCluster: 96,
  sectorShift: 108,
  clusterShift: 109,
  backupSector: 12,
} as const

/** The types of directory entries, without the in-use bit (6.2.1). */
export const ENTRY = { bytes: 32, bitmap: 0x01, label: 0x03, file: 0x05, stream: 0x40, name: 0x41 } as const
export const IN_USE = 0x80

/** The first entry of an entry set (7.4). */
export const FILE = {
  secondaries: 1,
  checksum: 2,
  attributes: 4,
  created: 8,
  modified: 12,
  createdTenths: 20,
  modifiedTenths: 21,
  createdZone: 22,
  modifiedZone: 23,
} as const
export const FOLDER = 0x10

/** The second entry of the set (7.6). */
export const STREAM = { flags: 1, nameLength: 3, validBytes: 8, cluster: 20, bytes: 24 } as const
export const IS_CONTIGUOUS = 0x02

/** The entries with the file name (7.7). */
export const NAME = { at: 2, characters: 15 } as const
