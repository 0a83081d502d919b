/** The master boot record and the extended boot records that follow its form: one sector, four entries. */
export const MBR = {
  entries: 446,
  entryBytes: 16,
  entryCount: 4,
  signature: 510,
  signatureValue: 0xaa55,
} as const

/** One entry of the table, offsets within it. */
export const MBR_ENTRY = { status: 0, type: 4, firstSector: 8, sectors: 12 } as const

/** Types that hold further tables. */
export const EXTENDED_TYPES: ReadonlySet<number> = new Set([0x05, 0x0f, 0x85])
/** The type that says that a GUID partition table follows (UEFI 2.10, 5.2.3). */
export const PROTECTIVE_TYPE = 0xee
