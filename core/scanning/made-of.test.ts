import fc from 'fast-check'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { madeOf } from './made-of'
import { bytesSource } from '../sources/source'

const picture = (exif: Record<string, string>) =>
  sharp({ create: { width: 8, height: 8, channels: 3, background: 'red' } })
    .withExif({ IFD2: exif })
    .jpeg()
    .toBuffer()

function movie(seconds: number): Uint8Array {
  const bytes = Buffer.alloc(16 + 8 + 8 + 100)
  bytes.writeUInt32BE(16, 0)
  bytes.write('ftypmp42', 4, 'latin1')
  bytes.writeUInt32BE(116, 16)
  bytes.write('moov', 20, 'latin1')
  bytes.writeUInt32BE(108, 24)
  bytes.write('mvhd', 28, 'latin1')
  bytes.writeUInt32BE(seconds, 36)
  return bytes
}
const SINCE_1904 = Date.UTC(2026, 10, 8, 14, 30) / 1000 - Date.UTC(1904, 0, 1) / 1000

describe('when something was made, by its own data', () => {
  it('is what the camera wrote into a picture', async () => {
    const bytes = await picture({ DateTimeOriginal: '2026:11:08 14:30:05' })
    expect(await madeOf(bytesSource(bytes), 'image/jpeg')).toBe(new Date(2026, 10, 8, 14, 30, 5).toISOString())
  })

  it('is what the head of a movie says', async () => {
    expect(await madeOf(bytesSource(movie(SINCE_1904)), 'video/mp4')).toBe('2026-11-08T14:30:00.000Z')
  })

  it('is unknown where none is stored, where the clock was never set, and for other kinds', async () => {
    expect(await madeOf(bytesSource(await picture({})), 'image/jpeg')).toBe(null)
    expect(await madeOf(bytesSource(movie(0)), 'video/mp4')).toBe(null)
    expect(await madeOf(bytesSource(movie(60)), 'video/mp4')).toBe(null)
    expect(await madeOf(bytesSource(movie(SINCE_1904)), 'text/plain')).toBe(null)
    expect(await madeOf(bytesSource(movie(SINCE_1904)), null)).toBe(null)
  })

  it('does no harm where the bytes are damaged', async () => {
    const whole = [await picture({ DateTimeOriginal: '2026:11:08 14:30:05' }), movie(SINCE_1904)]
    await fc.assert(
      fc.asyncProperty(
        fc.nat(1),
        fc.array(fc.tuple(fc.nat(400), fc.nat(255)), { maxLength: 12 }),
        fc.nat(200),
        async (which, changes, cut) => {
          const bytes = new Uint8Array(whole[which]!).slice(0, whole[which]!.length - cut)
          for (const [at, value] of changes) bytes[at % bytes.length] = value
          const made = await madeOf(bytesSource(bytes), which === 0 ? 'image/jpeg' : 'video/mp4')
          expect(made === null || /^\d{4}-\d\d-\d\dT/.test(made)).toBe(true)
        },
      ),
      { numRuns: 150 },
    )
  })
})
