import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, utimesSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { madeOf } from '../../core/scanning/made-of'
import { contentOf } from '../../core/scanning/scan'
import { bytesSource } from '../../core/sources/source'
import { imageBytes, scanned } from '../../core/testing/media-images'
import { openMedium } from './open-medium'

const folder = mkdtempSync(join(tmpdir(), 'lantern-unpack-'))
afterAll(() => rmSync(folder, { recursive: true }))
const from = resolve('stand-ins/media/images/camera-card.img.gz')

function opened(name: string, days: number): Uint8Array {
  const medium = openMedium({ path: join(folder, name), packed: { from, days }, faults: null, opened: [] })
  medium.close()
  return new Uint8Array(readFileSync(join(folder, name)))
}
const datesIn = async (bytes: Uint8Array) =>
  Promise.all(
    scanned(bytes, { pass: 'quick' }).items.map(
      async (item) => [item.key, await madeOf(contentOf(bytesSource(bytes), item), item.mime), item.modified] as const,
    ),
  )
const later = (iso: string | null, days: number) =>
  iso === null ? null : new Date(Date.parse(iso) + days * 86_400_000).toISOString()

describe('a stand-in medium', () => {
  it('is unpacked once, as it was packed, and takes little room', () => {
    const bytes = opened('as-it-is.img', 0)
    expect(Buffer.compare(bytes, imageBytes('camera-card'))).toBe(0)
    const path = join(folder, 'as-it-is.img')
    expect(statSync(path).blocks * 512).toBeLessThan(bytes.length / 4)
    utimesSync(path, 1, 1)
    opened('as-it-is.img', 0)
    expect(statSync(path).mtimeMs).toBe(1000)
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([])
  })

  it('has its pictures, clips and folders moved by whole days, and nothing else', async () => {
    const [before, after] = [imageBytes('camera-card'), opened('later.img', 40)]
    const dates = await datesIn(before)
    expect(await datesIn(after)).toEqual(
      dates.map(([key, made, modified]) => [key, later(made, 40), later(modified, 40)]),
    )
    expect(dates.filter(([, made]) => made !== null).length).toBeGreaterThan(20)
    const told = ({ items }: ReturnType<typeof scanned>) =>
      items.map(({ key, content, bytes }) => [key, content, bytes])
    expect(told(scanned(after))).toEqual(told(scanned(before)))
  })
})
