import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleBytes, samples, withoutSample } from '../../testing/format-samples'
import { Reader } from '../../sources/reader'
import { bytesSource, piecesSource } from '../../sources/source'
import type { Walk } from './format'
import { FORMATS, formatOfName } from './registry'
import { kindOfName } from '../kinds'
import { jpeg } from './jpeg/jpeg'
import { pdf } from './pdf'

/** Formats without an end marker: text that follows cannot be distinguished from them. */
const ENDLESS = new Set(['diary.txt', 'tolls.eml'])
const files = samples

const walk = (format: (typeof FORMATS)[number], bytes: Uint8Array): Walk | null =>
  format.walk(new Reader(bytesSource(bytes)))

/** Bytes as they follow a file on a medium: the rest of its cluster empty, then something else. */
function withRest(bytes: Uint8Array, rest: Uint8Array): Uint8Array {
  const all = new Uint8Array(Math.ceil(bytes.length / 4096) * 4096 + rest.length)
  all.set(bytes)
  all.set(rest, all.length - rest.length)
  return all
}
const UNKNOWN = 'application/octet-stream'
const NOISE = Uint8Array.from({ length: 30_000 }, (_, at) => (Math.imul(at + 7, 2654435761) >>> 13) & 255)

describe.each(files)('$name', ({ name, whole, bytes, format }) => {
  it('ends where it ends, whatever follows', () => {
    for (const rest of [NOISE, new Uint8Array(9000), files[0]!.bytes]) {
      const told = walk(format, withRest(bytes, rest))
      expect(told, name).toMatchObject({ bytes: bytes.length })
      expect(told!.whole).toBe(whole)
    }
    expect(formatOfName(`x.${walk(format, bytes)!.extension}`)?.id).toBe(format.id)
  })

  it('is not whole where it is cut off', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: bytes.length - 1 }), (length) => {
        const told = walk(format, bytes.slice(0, length))
        expect(told?.whole === 'intact').toBe(false)
        if (told?.whole === 'unverified' && !ENDLESS.has(name)) expect(told.bytes).toBeGreaterThan(length - 16)
      }),
      { numRuns: 25 },
    )
  })

  it('is not called intact where a stretch of it is another’s', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: bytes.length - 1 }), fc.nat(files.length - 1), (at, which) => {
        const other = files[which]!
        // Picture data has no checksum: that of another picture comes out at just as many blocks or pixels now and then.
        if ((format.id === 'jpeg' || format.id === 'gif') && other.format === format) return
        const changed = bytes.slice()
        const from = Math.floor(at / 512) * 512
        const stretch = other.bytes.subarray(512, 1024 + (at % 3) * 512)
        changed.set(stretch.subarray(0, Math.min(stretch.length, changed.length - from)), from)
        if (Buffer.compare(changed, bytes) === 0) return
        const told = walk(format, changed)
        expect(told?.whole === 'intact' && told.bytes === bytes.length, `${name} at ${from} with ${other.name}`).toBe(
          false,
        )
      }),
      { numRuns: 60, seed: 1126 },
    )
  })

  it('is followed without harm however it is damaged', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(bytes.length - 1), fc.nat(255)), { minLength: 1, maxLength: 30 }),
        (changes) => {
          const changed = bytes.slice()
          for (const [at, value] of changes) changed[at] = value
          for (const one of [format, ...FORMATS.filter((other) => other.id.charCodeAt(0) % 5 === changes.length % 5)]) {
            const told = walk(one, changed)
            expect(told === null || (told.bytes >= 0 && told.bytes <= changed.length)).toBe(true)
          }
        },
      ),
      { numRuns: 150 },
    )
  })
})

describe('every format', () => {
  it('has a sample, and a kind of file for each of its extensions', () => {
    expect(withoutSample()).toEqual([])
    for (const { id, extensions } of FORMATS)
      for (const extension of extensions)
        expect(kindOfName(`x.${extension}`).mime, `${id} ${extension}`).not.toBe(UNKNOWN)
  })

  it('takes neither nothing nor noise for a file', () => {
    for (const format of FORMATS) {
      expect(walk(format, new Uint8Array(0)), format.id).toBeNull()
      expect(walk(format, NOISE), format.id).toBeNull()
      expect(walk(format, new Uint8Array(9000)), format.id).toBeNull()
    }
  })

  it('knows no file of another', () => {
    for (const { name, bytes, format } of files)
      for (const other of FORMATS)
        if (other !== format && other.signatures.length > 0)
          expect(walk(other, bytes)?.whole ?? 'none', `${name} as ${other.id}`).toMatch(/none|partial/)
  })
})

describe('a walk that is resumed', () => {
  it.each(['weir.jpg', 'plan.png', 'bell.flac', 'bell.ogg', 'letter.docx'])('comes to the same end: %s', (name) => {
    const { bytes, format } = files.find((file) => file.name === name)!
    const cut = Math.floor(bytes.length / 2 / 512) * 512
    const torn = new Uint8Array(bytes.length + 20_480)
    torn.set(bytes.subarray(0, cut))
    torn.set(NOISE.subarray(0, 20_480), cut)
    torn.set(bytes.subarray(cut), cut + 20_480)
    const broken = walk(format, torn)!
    expect(broken.whole).toBe('partial')
    expect(broken.breaksAt).toBeGreaterThanOrEqual(cut)
    const from = broken.resume.findLast(({ at }) => at <= cut)
    const pieces = piecesSource(bytesSource(torn), [
      [0, cut],
      [cut + 20_480, bytes.length - cut],
    ])
    expect(format.walk(new Reader(pieces), from)).toMatchObject({ whole: 'intact', bytes: bytes.length })
  })
})

describe('a film in chunks', () => {
  const { bytes, format } = files.find(({ name }) => name === 'winch.avi')!

  it('is broken where what should be a chunk inside of another is none', () => {
    const changed = bytes.slice()
    changed.fill(3, 40_000, 60_000)
    expect(walk(format, changed)).toMatchObject({ whole: 'partial' })
  })

  it('continues through further parts of the same kind, to the end of the last', () => {
    const more = new Uint8Array(12 + 8 + 100)
    more.set(Buffer.from('RIFF'), 0)
    new DataView(more.buffer).setUint32(4, more.length - 8, true)
    more.set(Buffer.from('AVIXJUNK'), 8)
    new DataView(more.buffer).setUint32(16, 100, true)
    const all = Buffer.concat([bytes, more, more])
    expect(walk(format, withRest(new Uint8Array(all), NOISE))).toMatchObject({ whole: 'unverified', bytes: all.length })
    expect(walk(format, new Uint8Array(all.subarray(0, all.length - 1)))).toMatchObject({ whole: 'partial' })
  })
})

describe('a database that is cut off inside of its first page', () => {
  it('is reported no longer than it is, whatever page count its header gives', () => {
    const { bytes, format } = files.find(({ name }) => name === 'store.sqlite')!
    const cut = bytes.slice(0, 494)
    cut[95]! ^= 1
    expect(walk(format, cut)).toMatchObject({ whole: 'partial', bytes: 494 })
  })
})

/** A compound file of four sectors: its table of sectors, its list of streams, two of content. */
function compound(stream: string): Uint8Array {
  const bytes = new Uint8Array(512 * 5)
  const view = new DataView(bytes.buffer)
  bytes.set([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1])
  view.setUint16(28, 0xfffe, true)
  view.setUint16(30, 9, true)
  view.setUint32(44, 1, true)
  view.setUint32(48, 1, true)
  view.setUint32(68, 0xfffffffe, true)
  for (let at = 0; at < 128; at++)
    view.setUint32(512 + at * 4, [0xfffffffd, 0xfffffffe, 3, 0xfffffffe][at] ?? 0xffffffff, true)
  for (const [index, name] of ['Root Entry', stream].entries()) {
    for (const [at, letter] of [...name].entries())
      view.setUint16(1024 + index * 128 + at * 2, letter.charCodeAt(0), true)
    view.setUint16(1024 + index * 128 + 64, (name.length + 1) * 2, true)
  }
  bytes.set(NOISE.subarray(0, 1024), 1536)
  return bytes
}

describe('a compound file', () => {
  it.each([
    ['WordDocument', 'doc'],
    ['Workbook', 'xls'],
  ])('is recognised by its streams, and ends with the last sector in use: %s', (stream, extension) => {
    const bytes = compound(stream)
    expect(walk(formatOfName('x.doc')!, withRest(bytes, NOISE))).toMatchObject({
      whole: 'unverified',
      bytes: bytes.length,
      extension,
    })
    expect(walk(formatOfName('x.doc')!, bytes.slice(0, 2000))).toMatchObject({ whole: 'partial' })
  })
})

describe('a picture that says that more follows its first end mark', () => {
  const picture = sampleBytes('weir.jpg')
  const ascii = (text: string) => Uint8Array.from(text, (letter) => letter.charCodeAt(0))
  const joined = (...parts: Uint8Array[]) => Uint8Array.from(parts.flatMap((part) => [...part]))
  const withSegment = (mark: number, content: Uint8Array) => {
    const head = Uint8Array.of(0xff, mark, (content.length + 2) >> 8, (content.length + 2) & 255)
    return joined(picture.subarray(0, 2), head, content, picture.subarray(2))
  }
  const walked = (bytes: Uint8Array) => jpeg.walk(new Reader(bytesSource(bytes), 512))!
  const described = (words: string) => ascii(`http://ns.example/xap/1.0/\0<x:xmpmeta ${words}/>`)

  it('is intact where nothing announces more', () => {
    expect(walked(picture)).toMatchObject({ whole: 'intact', bytes: picture.length })
    expect(walked(withSegment(0xe1, described('dc:title="weir"'))).whole).toBe('intact')
    // What an older file left in the rest of the last sector is no announcement.
    const noise = Uint8Array.from({ length: 300 }, (_, at) => (at * 151 + 7) & 255)
    expect(walked(joined(picture, noise)).whole).toBe('intact')
  })

  it.each([
    ['an index of several pictures', withSegment(0xe2, ascii('MPF\0MM\0*'))],
    ['a map of brightness', withSegment(0xe2, ascii('urn:iso:std:iso:ts:21496:-1\0\0'))],
    ['a description of a map of brightness', withSegment(0xe1, described('hdrgm:Version="1.0"'))],
    ['a description of a film', withSegment(0xe1, described('Camera:MotionPhoto="1"'))],
    ['a second picture behind it', joined(picture, picture)],
    ['a film behind it', joined(picture, ascii('\0\0\0\x18ftypmp42\0\0\0\0mp42isom'))],
    ['named data behind it', joined(picture, ascii('\x01\x0a\x0e\0Film_Data_1 ...'))],
  ])('is unverified: %s', (_, bytes) => {
    expect(walked(bytes).whole).toBe('unverified')
  })
})

it('a document that says that it is longer than its last end mark is broken there', () => {
  const document = sampleBytes('tolls.pdf')
  const saying = (length: number) => {
    const text = new TextDecoder('latin1').decode(document)
    const line = /\([A-Z][a-z ]{40,}\)/.exec(text.slice(0, 1024))![0]
    const words = `(/Linearized 1 /L ${length} `.padEnd(line.length - 1) + ')'
    return Uint8Array.from(text.replace(line, words), (letter) => letter.charCodeAt(0))
  }
  const walked = (bytes: Uint8Array) => pdf.walk(new Reader(bytesSource(bytes), 512))!
  expect(walked(saying(document.length))).toMatchObject({ whole: walked(document).whole, bytes: document.length })
  expect(walked(saying(document.length + 4096))).toMatchObject({ whole: 'partial', bytes: document.length })
})
