import type { ByteSource } from './source'

/** What one read gave. */
export interface Block {
  /** of its first byte, in bytes */
  readonly offset: number
  readonly bytes: Uint8Array
}

/** Wraps a source and reports each read to `tell`; the bytes of a block are valid until the next read. */
export function watched(source: ByteSource, tell: (block: Block) => void): ByteSource {
  return {
    size: source.size,
    read: (offset, length) => {
      const bytes = source.read(offset, length)
      tell({ offset, bytes })
      return bytes
    },
    ...(source.readInto
      ? {
          readInto: (bytes: Uint8Array, offset: number) => {
            const have = source.readInto!(bytes, offset)
            tell({ offset, bytes: bytes.subarray(0, have) })
            return have
          },
        }
      : {}),
  }
}
