/** Bytes that are read and never written: a file, a disk, an image, an upload. */
export interface ByteSource {
  /** number of bytes */
  readonly size: number
  /** the bytes from `offset` on; fewer than asked where the source ends */
  read(offset: number, length: number): Uint8Array
}

/** A source over bytes that are in memory already. */
export function bytesSource(bytes: Uint8Array): ByteSource {
  return { size: bytes.length, read: (offset, length) => bytes.subarray(offset, offset + length) }
}
