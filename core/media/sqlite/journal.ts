import type { KeptPage } from './wal'

const MAGIC = [0xd9, 0xd5, 0x05, 0xf9, 0x20, 0xa1, 0x63, 0xd7]
/** Where nothing says otherwise, headers stand at sectors of this size. */
const SECTOR_BYTES = 512

/**
 * The pages that a rollback journal keeps as they were before the last change (SQLite file format, section 3).
 * A journal whose header was cleared when the change was through still holds them.
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

const isHeader = (bytes: Uint8Array, at: number) => MAGIC.every((byte, index) => bytes[at + index] === byte)
