import { crc32 } from '../../sources/checksums'
import { describe, expect, it } from 'vitest'
import { Reader } from '../../sources/reader'
import { bytesSource } from '../../sources/source'
import { sampleBytes } from '../../testing/format-samples'
import { formatOfName } from './registry'

/** A file is whole only with all of its parts, and no more than them. */
const ascii = (text: string) => Uint8Array.from(text, (letter) => letter.charCodeAt(0))
const joined = (...parts: readonly Uint8Array[]) => new Uint8Array(Buffer.concat(parts))
const u32 = (value: number) => {
  const bytes = new Uint8Array(4)
  new DataView(bytes.buffer).setUint32(0, value, true)
  return bytes
}
const u16 = (value: number) => Uint8Array.of(value & 255, value >> 8)
const walked = (name: string, bytes: Uint8Array) => formatOfName(name)!.walk(new Reader(bytesSource(bytes), 512))
const NOISE = Uint8Array.from({ length: 20_000 }, (_, at) => (Math.imul(at + 7, 2654435761) >>> 13) & 255)
const picture = sampleBytes('weir.jpg')
const film = sampleBytes('barge.mp4')

const segment = (mark: number, content: Uint8Array) =>
  joined(Uint8Array.of(0xff, mark, (content.length + 2) >> 8, (content.length + 2) & 255), content)
const withSegment = (own: Uint8Array) => joined(picture.subarray(0, 2), own, picture.subarray(2))

/** A picture with an index, and another picture behind it after some zeros. */
function withSecond(second: Uint8Array, gap = 300): Uint8Array {
  const index = (offset: number) =>
    joined(
      ascii('MPF\0'),
      ascii('II*\0'),
      u32(8),
      u16(1),
      joined(u16(0xb002), u16(7), u32(32), u32(26)),
      u32(0),
      joined(u32(0x030000), u32(picture.length), u32(0), u32(0)),
      joined(u32(0), u32(second.length), u32(offset), u32(0)),
    )
  const first = withSegment(segment(0xe2, index(0)))
  // Offsets count from the header of the index, ten bytes into the file.
  const own = withSegment(segment(0xe2, index(first.length + gap - 10)))
  return joined(own, new Uint8Array(gap), second)
}

/** A picture whose metadata list a film behind it. */
const withFilm = (bytes: number) =>
  withSegment(
    segment(
      0xe1,
      ascii(
        `http://ns.example/xap/1.0/\0<x:xmpmeta Camera:MotionPhoto="1"><Container:Directory><Container:Item Item:Mime="image/jpeg" Item:Padding="0"/><Container:Item Item:Mime="video/mp4" Item:Length="${bytes}"/></Container:Directory></x:xmpmeta>`,
      ),
    ),
  )

describe('a picture with other pictures behind it', () => {
  it('ends where the last of them ends, proved', () => {
    const all = withSecond(picture)
    expect(walked('x.jpg', joined(all, NOISE))).toMatchObject({ whole: 'intact', bytes: all.length })
  })

  it('is not whole where it was cut behind the first, or where the second is another’s', () => {
    const all = withSecond(picture)
    for (const bytes of [all.length - 1, all.length - picture.length, all.length - picture.length - 300])
      expect(walked('x.jpg', all.subarray(0, bytes))?.whole, `${bytes}`).toBe('partial')
    const changed = all.slice()
    changed.set(NOISE.subarray(0, 1024), all.length - 2048)
    expect(walked('x.jpg', changed)?.whole).toBe('partial')
  })

  it('is not proved where something lies between them', () => {
    const all = withSecond(picture, 2048)
    all.set(NOISE.subarray(0, 1500), all.length - picture.length - 1800)
    expect(walked('x.jpg', all)).toMatchObject({ whole: 'unverified', bytes: all.length })
  })
})

describe('a picture with its film', () => {
  it('ends with the film, which proves nothing', () => {
    const all = joined(withFilm(film.length), film)
    expect(walked('x.jpg', joined(all, NOISE))).toMatchObject({ whole: 'unverified', bytes: all.length })
  })

  it('is partial without it', () => {
    expect(walked('x.jpg', joined(withFilm(film.length), film.subarray(0, film.length / 2)))?.whole).toBe('partial')
    expect(walked('x.jpg', withFilm(film.length))?.whole).toBe('partial')
    expect(walked('x.jpg', joined(withFilm(film.length), NOISE))?.whole).toBe('partial')
  })
})

it('a film keeps the last boxes of its maker, and takes nothing of what follows', () => {
  const box = joined(Uint8Array.of(0, 0, 0, 40), ascii('lnse'), NOISE.subarray(0, 32))
  expect(walked('x.mp4', joined(film, box, NOISE))?.bytes).toBe(film.length + box.length)
  expect(walked('x.mp4', joined(film, ascii('notes of the lock keeper')))?.bytes).toBe(film.length)
  expect(walked('x.mp4', joined(film, film))?.bytes).toBe(film.length)
})

it('a page ends with its end tag, whatever text follows', () => {
  const page = ascii(`<!DOCTYPE html>\n<html><body>${'<p>The lock is closed.</p>\n'.repeat(90)}</body></html>\n`)
  const letter = ascii('Dear keeper, the water is high again. '.repeat(40))
  expect(walked('x.html', joined(page, letter))).toMatchObject({ mime: 'text/html', bytes: page.length })
})

describe('a stored entry whose length only its descriptor gives', () => {
  /** An archive of two stored entries with descriptors, the first of which contains an archive itself. */
  function archive(hasMark: boolean): Uint8Array {
    const contents = [joined(sampleBytes('letter.docx'), NOISE.subarray(0, 3000)), NOISE.subarray(0, 5000)]
    const parts: Uint8Array[] = []
    const listed: Uint8Array[] = []
    let at = 0
    for (const [index, content] of contents.entries()) {
      const name = ascii(`${index}.bin`)
      const sums = joined(u32(crc32(content)), u32(content.length), u32(content.length))
      const head = (own: Uint8Array) => joined(u16(8), u16(0), u32(0), own, u16(name.length), u16(0))
      const entry = joined(
        ascii('PK\x03\x04'),
        u16(20),
        head(new Uint8Array(12)),
        name,
        content,
        hasMark ? ascii('PK\x07\x08') : new Uint8Array(0),
        sums,
      )
      listed.push(joined(ascii('PK\x01\x02'), u16(20), u16(20), head(sums), new Uint8Array(10), u32(at), name))
      parts.push(entry)
      at += entry.length
    }
    const directory = joined(...listed)
    const end = joined(ascii('PK\x05\x06'), u32(0), u16(2), u16(2), u32(directory.length), u32(at), u16(0))
    return joined(...parts, directory, end)
  }

  it.each([true, false])('is measured by it, and proved (with its mark: %s)', (hasMark) => {
    const bytes = archive(hasMark)
    expect(walked('x.zip', joined(bytes, NOISE))).toMatchObject({ whole: 'intact', bytes: bytes.length })
    const changed = bytes.slice()
    changed[9000]! ^= 1
    expect(walked('x.zip', changed)?.whole).toBe('partial')
  })
})
