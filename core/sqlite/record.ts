import type { TextEncodingName } from './header'

/** A value as a record stores it: null, a number, a long integer, a text or a blob. */
export type Value = null | number | bigint | string | Uint8Array

export interface Varint {
  readonly value: number
  readonly bytes: number
}

/**
 * A varint (SQLite file format, section 1.6): up to nine bytes, most significant first. Null where it does not end
 * within the bytes. Values beyond 2^53 lose their last digits; where they matter, use `longVarint`.
 */
export function varint(bytes: Uint8Array, at: number, end = bytes.length): Varint | null {
  let value = 0
  for (let index = 0; index < 9; index++) {
    if (at + index >= end) return null
    const byte = bytes[at + index]!
    if (index === 8) return { value: value * 256 + byte, bytes: 9 }
    value = value * 128 + (byte & 0x7f)
    if (byte < 0x80) return { value, bytes: index + 1 }
  }
  return null
}

/** The same as a signed 64-bit integer, as row ids are. */
export function longVarint(bytes: Uint8Array, at: number, length: number): bigint {
  let value = 0n
  for (let index = 0; index < length; index++) {
    const byte = BigInt(bytes[at + index]!)
    value = index === 8 ? (value << 8n) | byte : (value << 7n) | (byte & 0x7fn)
  }
  return BigInt.asIntN(64, value)
}

/** The content length of a serial type in bytes; null for the two reserved ones (section 2.1). */
export function sizeOf(type: number): number | null {
  if (type >= 12) return Math.floor((type - 12) / 2)
  return [0, 1, 2, 3, 4, 6, 8, 8, 0, 0, null, null][type] ?? null
}

/** The serial types of a record's header and how long header and content are; null where they do not agree. */
export interface RecordShape {
  readonly types: readonly number[]
  readonly headerBytes: number
  readonly contentBytes: number
}

/** The most columns that a table can have. */
const MAX_COLUMNS = 2000

/** The shape of the record that begins at `at`; null where there is no valid header. */
export function recordShape(bytes: Uint8Array, at: number, end = bytes.length): RecordShape | null {
  const header = varint(bytes, at, end)
  if (!header || header.value < header.bytes + 1 || at + header.value > end) return null
  const types: number[] = []
  let contentBytes = 0
  let next = at + header.bytes
  while (next < at + header.value) {
    const type = varint(bytes, next, at + header.value)
    if (!type || types.length >= MAX_COLUMNS) return null
    const size = sizeOf(type.value)
    if (size === null) return null
    types.push(type.value)
    contentBytes += size
    next += type.bytes
  }
  return { types, headerBytes: header.value, contentBytes }
}

/** One value of a record; undefined where its bytes are missing or do not fit its type. */
export function valueAt(bytes: Uint8Array, at: number, type: number, encoding: TextEncodingName): Value | undefined {
  const size = sizeOf(type)
  if (size === null || at + size > bytes.length) return undefined
  if (type === 0) return null
  if (type === 8) return 0
  if (type === 9) return 1
  if (type === 7) return new DataView(bytes.buffer, bytes.byteOffset + at, 8).getFloat64(0)
  if (type < 7) return integerAt(bytes, at, size)
  const content = bytes.subarray(at, at + size)
  return type % 2 === 0 ? content.slice() : textOf(content, encoding)
}

function integerAt(bytes: Uint8Array, at: number, size: number): number | bigint {
  let value = 0n
  for (let index = 0; index < size; index++) value = (value << 8n) | BigInt(bytes[at + index]!)
  const signed = BigInt.asIntN(size * 8, value)
  const plain = Number(signed)
  return Number.isSafeInteger(plain) ? plain : signed
}

const decoder = (encoding: TextEncodingName) => new TextDecoder(encoding, { fatal: true, ignoreBOM: true })
const DECODERS: Readonly<Record<TextEncodingName, TextDecoder>> = {
  'utf-8': decoder('utf-8'),
  'utf-16le': decoder('utf-16le'),
  'utf-16be': decoder('utf-16be'),
}

/** A text in the database's encoding; undefined where the bytes are invalid. */
function textOf(bytes: Uint8Array, encoding: TextEncodingName): string | undefined {
  try {
    return DECODERS[encoding].decode(bytes)
  } catch {
    return undefined
  }
}
