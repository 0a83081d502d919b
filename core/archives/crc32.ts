const TABLE = new Uint32Array(256)
for (let byte = 0; byte < 256; byte++) {
  let sum = byte
  for (let bit = 0; bit < 8; bit++) sum = sum & 1 ? 0xedb88320 ^ (sum >>> 1) : sum >>> 1
  TABLE[byte] = sum
}

/** The checksum of zip and PNG (ISO 3309), going on from an earlier part's sum. */
export function crc32(bytes: Uint8Array, before = 0): number {
  let sum = ~before
  for (let at = 0; at < bytes.length; at++) sum = TABLE[(sum ^ bytes[at]!) & 255]! ^ (sum >>> 8)
  return ~sum >>> 0
}
