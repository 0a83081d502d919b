import QuickLRU from 'quick-lru'
import type { ByteSource } from './source'

const BLOCK_BYTES = 256 * 1024

/**
 * Wraps a source that is read in the same places again and again: what was read last is kept, up to `maxBytes`. Its buffers
 * must not be changed.
 */
export function keptSource(source: ByteSource, maxBytes: number): ByteSource {
  const blocks = new QuickLRU<number, Uint8Array>({ maxSize: Math.max(1, Math.floor(maxBytes / BLOCK_BYTES / 2)) })
  const block = (at: number): Uint8Array => {
    const kept = blocks.get(at)
    if (kept) return kept
    const bytes = source.read(at * BLOCK_BYTES, BLOCK_BYTES)
    blocks.set(at, bytes)
    return bytes
  }
  return {
    size: source.size,
    read: (offset, length) => {
      const end = Math.min(source.size, offset + length)
      if (end <= offset) return new Uint8Array(0)
      const [first, last] = [Math.floor(offset / BLOCK_BYTES), Math.floor((end - 1) / BLOCK_BYTES)]
      const from = offset - first * BLOCK_BYTES
      if (first === last) return block(first).subarray(from, from + end - offset)
      const bytes = new Uint8Array(end - offset)
      for (let at = first; at <= last; at++) {
        const begin = Math.max(offset, at * BLOCK_BYTES)
        const part = block(at).subarray(begin - at * BLOCK_BYTES, Math.min(end - at * BLOCK_BYTES, BLOCK_BYTES))
        bytes.set(part, begin - offset)
      }
      return bytes
    },
  }
}
