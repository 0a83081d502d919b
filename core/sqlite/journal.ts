import type { KeptPage } from './wal'

const MAGIC = [0xd9, 0xd5, 0x05, 0xf9, 0x20, 0xa1, 0x63, 0xd7]
/** The default sector size, at whose multiples headers are. */
const SECTOR_BYTES = 512

/**
 * The pages in a rollback journal, as they were before the last transaction (SQLite file format, section 3). A journal
 * whose header was cleared after the commit still has them.
 */
export function readJournal(bytes: Uint8Array, pageBytes: number): KeptPage[] {
  const pages: KeptPage[] = []
  if (bytes.length < SECTOR_BYTES) return pages
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const hasHeader = isHeader(bytes, 0)
  const told = hasHeader ? view.getUint32(20) : 0
  const sector = told >= 32 && told <= 65_536 && (told & (told - 1)) === 0 ? told : SECTOR_BYTES
  for (let at = sector; at + 8 + pageBytes <= bytes.length;) {
    if (at % sector === 0 && isHeader(bytes, at)) {
      at += sector
      continue
    }
    const page = view.getUint32(at)
    if (page > 0 && page < 2 ** 31) pages.push({ page, bytes: bytes.subarray(at + 4, at + 4 + pageBytes) })
    at += 8 + pageBytes
  }
  return pages
}

/** What rolling back an unfinished transaction restores: the earlier pages, and the earlier page count. */
export interface HotJournal {
  readonly before: ReadonlyMap<number, Uint8Array>
  readonly pages: number
}

/**
 * The journal of an unfinished transaction, as the library would play it back (SQLite file format, section 3): of each
 * segment as many records as its header counts, as long as their checksums agree. Null where the header was cleared,
 * since the transaction was committed, or counts nothing yet.
 */
export function hotJournal(bytes: Uint8Array, pageBytes: number): HotJournal | null {
  const before = new Map<number, Uint8Array>()
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < SECTOR_BYTES || !isHeader(bytes, 0)) return null
  const pages = view.getUint32(HEADER.pages)
  const sector = view.getUint32(HEADER.sectorBytes)
  if (sector < 32 || sector > 65_536 || view.getUint32(HEADER.pageBytes) !== pageBytes || pages === 0) return null
  const recordBytes = pageBytes + 8
  for (let at = 0; at + sector <= bytes.length && isHeader(bytes, at);) {
    const nonce = view.getUint32(at + HEADER.nonce)
    const told = view.getUint32(at + HEADER.records)
    const room = Math.floor((bytes.length - at - sector) / recordBytes)
    const count = told === 0xffffffff ? room : Math.min(told, room)
    at += sector
    for (let record = 0; record < count; record++, at += recordBytes) {
      const page = view.getUint32(at)
      const content = bytes.subarray(at + 4, at + 4 + pageBytes)
      if (page === 0 || recordSum(content, nonce) !== view.getUint32(at + 4 + pageBytes)) return { before, pages }
      // The first copy of a page is the one from before the transaction.
      if (page <= pages && !before.has(page)) before.set(page, content)
    }
    at = Math.ceil(at / sector) * sector
  }
  return before.size > 0 ? { before, pages } : null
}

/** The header of a journal segment: offsets in bytes. */
const HEADER = { records: 8, nonce: 12, pages: 16, sectorBytes: 20, pageBytes: 24 } as const
const SUMMED_EVERY = 200

/** The checksum of a record: the segment's nonce and every 200th byte of its page, counted from the end. */
function recordSum(content: Uint8Array, nonce: number): number {
  let sum = nonce
  for (let at = content.length - SUMMED_EVERY; at > 0; at -= SUMMED_EVERY) sum = (sum + content[at]!) >>> 0
  return sum
}

const isHeader = (bytes: Uint8Array, at: number) => MAGIC.every((byte, index) => bytes[at + index] === byte)
