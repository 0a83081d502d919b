/** The header of an entry of a tar archive. */
export interface TarHeader {
  readonly name: string
  readonly bytes: number
  readonly changedSeconds: number
  /** the type flag: '0' a file, '5' a folder, 'x' extended attributes, 'L' a long name */
  readonly flag: string
}

const CHECKSUM_AT = 148

/**
 * Reads a header block of 512 bytes (POSIX.1-2017, pax, “ustar Interchange Format”); null where its
 * checksum does not agree, 'end' for a block of zeros.
 */
export function tarHeader(block: Uint8Array): TarHeader | 'end' | null {
  if (block.length < 512) return null
  if (block.every((byte) => byte === 0)) return 'end'
  const sum = block.reduce((all, byte, at) => all + (at >= CHECKSUM_AT && at < CHECKSUM_AT + 8 ? 32 : byte), 0)
  const bytes = numberAt(block, 124, 12)
  if (numberAt(block, CHECKSUM_AT, 8) !== sum || bytes === null) return null
  const isUstar = textAt(block, 257, 5) === 'ustar'
  const prefix = isUstar && block[263] !== 0x20 ? textAt(block, 345, 155) : ''
  const name = textAt(block, 0, 100)
  return {
    name: prefix === '' ? name : `${prefix}/${name}`,
    bytes,
    changedSeconds: numberAt(block, 136, 12) ?? 0,
    flag: block[156] === 0 ? '0' : String.fromCharCode(block[156]!),
  }
}

/** The records of an extended header (“pax Header Block”): length, key and value of each. */
export function paxRecords(bytes: Uint8Array): ReadonlyMap<string, string> {
  const records = new Map<string, string>()
  const text = new TextDecoder()
  let at = 0
  while (at < bytes.length) {
    const space = bytes.indexOf(0x20, at)
    const length = space < 0 ? NaN : Number(text.decode(bytes.subarray(at, space)))
    if (!Number.isInteger(length) || length <= space - at || at + length > bytes.length) break
    const record = text.decode(bytes.subarray(space + 1, at + length - 1))
    const equals = record.indexOf('=')
    if (equals > 0) records.set(record.slice(0, equals), record.slice(equals + 1))
    at += length
  }
  return records
}

/** Text up to the first zero byte. */
export function textAt(bytes: Uint8Array, at: number, length: number): string {
  const field = bytes.subarray(at, at + length)
  const end = field.indexOf(0)
  return new TextDecoder().decode(end < 0 ? field : field.subarray(0, end))
}

/** An octal number, or a binary one where the first bit says so. */
function numberAt(block: Uint8Array, at: number, length: number): number | null {
  if (block[at]! & 0x80) {
    const value = block.subarray(at + 1, at + length).reduce((all, byte) => all * 256 + byte, block[at]! & 0x7f)
    return Number.isSafeInteger(value) ? value : null
  }
  const digits = textAt(block, at, length).trim()
  return /^[0-7]*$/.test(digits) ? parseInt(digits || '0', 8) : null
}
