import type { ByteSource } from './source'

/** What one read gave. */
export interface Block {
  /** of its first byte, in bytes */
  readonly offset: number
  readonly bytes: Uint8Array
}

/** Wraps a source and reports how long each read took, in ms of a clock. */
export function timed(source: ByteSource, clock: () => number, tell: (ms: number) => void): ByteSource {
  const measured = <Result>(read: () => Result): Result => {
    const began = clock()
    const result = read()
    tell(clock() - began)
    return result
  }
  const { readInto } = source
  return {
    size: source.size,
    read: (offset, length) => measured(() => source.read(offset, length)),
    ...(readInto ? { readInto: (bytes, offset) => measured(() => readInto(bytes, offset)) } : {}),
  }
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
