import { describe, expect, it } from 'vitest'
import { contentBytes, imageBytes, scanned, sha256 } from '../testing/media-images'
import { sampleBytes } from '../testing/format-samples'

/** Checksums of everything that a scan finds, and its warnings. */
function foundIn(bytes: Uint8Array, pass: 'both' | 'deep'): { sums: Set<string>; warnings: string[] } {
  const { items, warnings } = scanned(bytes, { pass })
  return {
    sums: new Set(items.map((item) => sha256(contentBytes(bytes, item)))),
    warnings: warnings.map(({ where, what }) => `${where}: ${what}`),
  }
}

describe('clusters in use without a record', () => {
  it.each(['both', 'deep'] as const)('are looked at where records were lost (%s)', (pass) => {
    const bytes = imageBytes('laptop').slice()
    const { items } = scanned(bytes, { pass: 'quick' })
    const ballast = items.filter(({ record, extents }) => record === 'present' && (extents[0]?.[1] ?? 0) > 39_000)
    const samples = ['weir.jpg', 'flag.gif', 'bell.ogg', 'tolls.xlsx', 'letter.docx'] as const
    expect(ballast.length).toBeGreaterThanOrEqual(samples.length)
    const written = samples.map((sample, index) => {
      const { path, extents } = ballast[index]!
      bytes.set(sampleBytes(sample), extents[0]![0])
      // Its record, which bears its name, is zeroed.
      const name = Buffer.from(path!.slice(path!.lastIndexOf('/') + 1), 'utf16le')
      for (let at = 0; at + 1024 <= bytes.length; at += 1024)
        if (bytes[at] === 0x46 && bytes[at + 1] === 0x49 && Buffer.from(bytes.buffer, at, 1024).includes(name))
          bytes.fill(0, at, at + 1024)
      return sha256(sampleBytes(sample))
    })
    const { sums, warnings } = foundIn(bytes, pass)
    expect(written.filter((sum) => !sums.has(sum))).toEqual([])
    expect(new Set(warnings).size).toBe(warnings.length)
  })
})
