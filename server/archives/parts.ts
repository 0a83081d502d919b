import type { FileHandle } from 'node:fs/promises'

const PART_BYTES = 65_536

/** A range of an open file, part by part; the file stays open, and no listener stays on it. */
export async function* partsOf(file: FileHandle, from: number, length: number): AsyncIterable<Uint8Array> {
  for (let at = 0; at < length;) {
    const want = Math.min(PART_BYTES, length - at)
    const { buffer, bytesRead } = await file.read(Buffer.alloc(want), 0, want, from + at)
    if (bytesRead === 0) throw new Error('the file is truncated')
    at += bytesRead
    yield buffer.subarray(0, bytesRead)
  }
}
