import { describe, expect, it } from 'vitest'
import { IMAGES, imageBytes, scanned, sha256 } from '../testing/media-images'
import { describeContent, KeptContent, openContent } from './kept-content'
import { contentOf } from '../scanning/scan'
import { bytesSource } from '../sources/source'

describe('content that is described', () => {
  it.each(IMAGES)('is read again from %s as it was found, also packed or kept in a record', (name) => {
    const bytes = imageBytes(name)
    const ways = new Set<string>()
    for (const item of scanned(bytes, { pass: 'quick' }).items) {
      if (item.content === 'overwritten') continue
      const kept = KeptContent.parse(JSON.parse(JSON.stringify(describeContent(item.source))))
      ways.add(kept.as)
      const [found, again] = [contentOf(bytesSource(bytes), item), openContent(bytesSource(bytes), item.extents, kept)]
      expect(again.size).toBe(found.size)
      expect(sha256(again.read(0, again.size))).toBe(sha256(found.read(0, found.size)))
    }
    if (name === 'odd-ntfs') expect([...ways].sort()).toEqual(['bytes', 'packed', 'pieces'])
  })

  it('is not described where it is neither small nor known how to read again', () => {
    expect(describeContent(bytesSource(new Uint8Array(70_000)))).toBe(null)
  })
})
