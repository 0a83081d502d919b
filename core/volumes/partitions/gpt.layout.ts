/** The header of a GUID partition table (UEFI 2.10, 5.3.2): offset and width in bytes. */
export const GPT_HEADER = {
  signature: 'EFI PART',
  headerBytes: 12,
  headerChecksum: 16,
  ownSector: 24,
  otherSector: 32,
  entriesSector: 72,
  entryCount: 80,
  entryBytes: 84,
  entriesChecksum: 88,
} as const

/** One entry of the table (UEFI 2.10, 5.3.3). */
export const GPT_ENTRY = { type: 0, firstSector: 32, lastSector: 40, name: 56, nameBytes: 72, leastBytes: 128 } as const
