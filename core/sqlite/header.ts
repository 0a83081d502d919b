import type { ByteSource } from '../sources/source'

export type TextEncodingName = 'utf-8' | 'utf-16le' | 'utf-16be'

/** The header of a database, its first hundred bytes (SQLite file format, section 1.3). */
export interface DatabaseHeader {
  readonly pageBytes: number
  /** bytes of a page that may hold content; the rest is reserved */
  readonly usable: number
  readonly encoding: TextEncodingName
  readonly firstFreeTrunk: number
  /** since schema format 4, 0 and 1 take no room in a record */
  readonly schemaFormat: number
}

const MAGIC = 'SQLite format 3\0'
const ENCODINGS: Readonly<Record<number, TextEncodingName>> = { 0: 'utf-8', 1: 'utf-8', 2: 'utf-16le', 3: 'utf-16be' }

/** The header of a database, or a message that says what is wrong with it. */
export function readHeader(source: ByteSource): DatabaseHeader | { readonly fault: string } {
  const bytes = source.read(0, 100)
  if (bytes.length < 100) return { fault: 'is too short to be a database' }
  if (String.fromCharCode(...bytes.subarray(0, 16)) !== MAGIC) return { fault: 'is not an SQLite database' }
  const view = new DataView(bytes.buffer, bytes.byteOffset, 100)
  const told = view.getUint16(16)
  const pageBytes = told === 1 ? 65_536 : told
  const isPower = pageBytes >= 512 && (pageBytes & (pageBytes - 1)) === 0
  const usable = pageBytes - bytes[20]!
  const encoding = ENCODINGS[view.getUint32(56)]
  if (!isPower || usable < 480) return { fault: `has an invalid page size of ${told} bytes` }
  if (!encoding) return { fault: 'has an unknown text encoding' }
  return { pageBytes, usable, encoding, firstFreeTrunk: view.getUint32(32), schemaFormat: view.getUint32(44) }
}
