/** By the distance of a byte to the end of four (0 to 3), and its value: four bytes are taken at once. */
const TABLES = Array.from({ length: 4 }, () => new Uint32Array(256))
for (let byte = 0; byte < 256; byte++) {
  let value = byte
  for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >>> 1) ^ 0xedb88320 : value >>> 1
  TABLES[0]![byte] = value
}
for (let table = 1; table < 4; table++)
  for (let byte = 0; byte < 256; byte++) {
    const before = TABLES[table - 1]![byte]!
    TABLES[table]![byte] = (before >>> 8) ^ TABLES[0]![before & 0xff]!
  }

/**
 * CRC-32 of PNG, ZIP and GPT (ISO 3309; reflected, polynomial 04C11DB7); pass the sum of the part before to continue
 * it.
 */
export function crc32(bytes: Uint8Array, before = 0): number {
  const [one, two, three, four] = [TABLES[0]!, TABLES[1]!, TABLES[2]!, TABLES[3]!]
  let value = ~before
  let at = 0
  for (; at + 4 <= bytes.length; at += 4) {
    value ^= bytes[at]! | (bytes[at + 1]! << 8) | (bytes[at + 2]! << 16) | (bytes[at + 3]! << 24)
    value = four[value & 0xff]! ^ three[(value >>> 8) & 0xff]! ^ two[(value >>> 16) & 0xff]! ^ one[value >>> 24]!
  }
  for (; at < bytes.length; at++) value = (value >>> 8) ^ one[(value ^ bytes[at]!) & 0xff]!
  return ~value >>> 0
}

/** The CRC-32 of two stretches, one after the other, from the sum of each and the length of the second in bytes. */
export function crc32Of(first: number, second: number, secondBytes: number): number {
  let moved = first
  // Each byte behind it multiplies a sum by x to the 8th; the powers of two of that are squared on the way.
  for (let [left, power] = [secondBytes, 0x00800000]; left > 0; left = Math.floor(left / 2)) {
    if (left % 2 === 1) moved = product(moved, power)
    power = product(power, power)
  }
  return (moved ^ second) >>> 0
}

/** The product of two reflected polynomials, modulo that of the CRC. */
function product(one: number, other: number): number {
  let [sum, shifted] = [0, other]
  for (let bit = 0x80000000; bit !== 0; bit >>>= 1) {
    if ((one & bit) !== 0) sum ^= shifted
    shifted = shifted & 1 ? (shifted >>> 1) ^ 0xedb88320 : shifted >>> 1
  }
  return sum >>> 0
}

const FORWARD_32 = forwardTable(0x04c11db7, 32)
const FORWARD_16 = forwardTable(0x8005, 16)
const FORWARD_8 = forwardTable(0x07, 8)

/** The checksum of an Ogg page (RFC 3533, 6): polynomial 04C11DB7, not reflected, begun with 0. */
export function crc32Forward(bytes: Uint8Array, before = 0): number {
  let value = before
  for (let at = 0; at < bytes.length; at++) value = ((value << 8) ^ FORWARD_32[(value >>> 24) ^ bytes[at]!]!) >>> 0
  return value
}

/** The checksum of a FLAC frame (RFC 9639, 9.3): polynomial 8005, not reflected, begun with 0. */
export function crc16Forward(bytes: Uint8Array, before = 0): number {
  let value = before
  for (let at = 0; at < bytes.length; at++)
    value = ((value << 8) ^ FORWARD_16[((value >>> 8) ^ bytes[at]!) & 0xff]!) & 0xffff
  return value
}

/** The checksum of the head of a FLAC frame (RFC 9639, 9.1.8): polynomial 07, not reflected, begun with 0. */
export function crc8Forward(bytes: Uint8Array): number {
  let value = 0
  for (let at = 0; at < bytes.length; at++) value = FORWARD_8[value ^ bytes[at]!]!
  return value
}

function forwardTable(polynomial: number, bits: number): Uint32Array {
  const table = new Uint32Array(256)
  const top = 2 ** (bits - 1)
  const all = 2 ** bits - 1
  for (let byte = 0; byte < 256; byte++) {
    let value = byte * 2 ** (bits - 8)
    for (let bit = 0; bit < 8; bit++) {
      const carries = value >= top
      value = ((value << 1) & all) >>> 0
      if (carries) value = (value ^ polynomial) >>> 0
    }
    table[byte] = value >>> 0
  }
  return table
}

/** Adler-32 (RFC 1950, section 8.2); pass the sum of the part before to continue it. */
export function adler32(bytes: Uint8Array, before = 1): number {
  let [a, b] = [before & 0xffff, before >>> 16]
  for (let at = 0; at < bytes.length;) {
    // The most bytes that can be summed before the sums must be reduced.
    const end = Math.min(bytes.length, at + 3800)
    for (; at < end; at++) {
      a += bytes[at]!
      b += a
    }
    a %= 65_521
    b %= 65_521
  }
  return ((b << 16) | a) >>> 0
}
