import fc from 'fast-check'
import sharp from 'sharp'
import { deflate } from 'pako'
import { describe, expect, it } from 'vitest'
import { sampleBytes } from '../../testing/format-samples'
import { Effort } from '../../scanning/effort'
import { joinPieces } from '../../scanning/join'
import { Reader } from '../../sources/reader'
import { bytesSource, piecesSource, type ByteSource, type Extent } from '../../sources/source'
import { boxLength } from './box-tree'
import { formatOfName } from './registry'

const UNIT = 512
const latin1 = (text: string) => Uint8Array.from(text, (letter) => letter.charCodeAt(0))
function joined(...parts: Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const part of parts) {
    all.set(part, at)
    at += part.length
  }
  return all
}
const walked = (name: string, bytes: Uint8Array) => formatOfName(name)!.walk(new Reader(bytesSource(bytes), UNIT))

/** A fragmented file on a medium: a first part of so many units, foreign units, then the rest and zeros. */
function inTwo(bytes: Uint8Array, cut: number, gap: number): Uint8Array {
  const other = Uint8Array.from({ length: gap * UNIT }, (_, at) => 97 + ((Math.imul(at + gap, 2654435761) >>> 20) % 25))
  const rest = new Uint8Array(Math.ceil(bytes.length / UNIT) * UNIT - bytes.length + 2 * UNIT)
  return joined(bytes.subarray(0, cut * UNIT), other, bytes.subarray(cut * UNIT), rest)
}

function inOne(image: ByteSource, name: string, claimed: readonly Extent[] = []) {
  const effort = new Effort(1 << 30)
  effort.begin(1)
  const told = joinPieces({ image, free: [[0, image.size]], unitBytes: UNIT, claimed }, 0, formatOfName(name)!, effort)
  return told === 'spent' ? null : told
}

function putTogether(name: string, medium: Uint8Array) {
  const source = bytesSource(medium)
  const told = inOne(source, name)
  return told && { whole: told.walk.whole, bytes: piecesSource(source, told.extents).read(0, told.walk.bytes) }
}

/** The index of a film put before its samples: every place in it is so much later then. */
function indexFirst(film: Uint8Array): Uint8Array {
  const reader = new Reader(bytesSource(film))
  const boxes = new Map<string, Uint8Array>()
  for (let at = 0; at + 8 <= film.length; at += boxLength(reader, at).length)
    boxes.set(reader.text(at + 4, 4), film.slice(at, at + boxLength(reader, at).length))
  const index = boxes.get('moov')!
  const view = new DataView(index.buffer)
  for (let at = 0; at + 16 < index.length; at++)
    if (String.fromCharCode(...index.subarray(at, at + 4)) === 'stco')
      for (let entry = 0; entry < view.getUint32(at + 8); entry++)
        view.setUint32(at + 12 + entry * 4, view.getUint32(at + 12 + entry * 4) + index.length)
  const others = [...boxes].filter(([type]) => type !== 'moov' && type !== 'ftyp').map(([, bytes]) => bytes)
  return joined(boxes.get('ftyp')!, index, ...others)
}

const film = sampleBytes('barge.mp4')
const FILMS = [
  ['a film with its index behind', 'barge.mp4', film],
  ['a film with its index first', 'first.mp4', indexFirst(film)],
  ['an older kind of film', 'barge.mov', sampleBytes('barge.mov')],
  ['a film of a small phone', 'phone.3gp', sampleBytes('phone.3gp')],
] as const

describe.each(FILMS)('%s', (_, name, bytes) => {
  it('is what it was before', () => {
    expect(walked(name, bytes)).toMatchObject({ whole: 'unverified', bytes: bytes.length })
  })

  it('is put together around what was no part of it, and called no more than fitting', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 8, max: Math.floor(bytes.length / UNIT) - 8 }),
        fc.integer({ min: 1, max: 30 }),
        (cut, gap) => {
          const told = putTogether(name, inTwo(bytes, cut, gap))
          expect(told?.whole, `cut ${cut}, gap ${gap}`).toBe('unverified')
          expect(Buffer.compare(told!.bytes, bytes), `cut ${cut}, gap ${gap}`).toBe(0)
        },
      ),
      { numRuns: 12, seed: 5 },
    )
  })

  it('is broken where samples are not in their place, though its boxes fit', () => {
    const changed = bytes.slice()
    changed.fill(0x61, Math.floor(bytes.length / 3), Math.floor((bytes.length * 2) / 3))
    expect(walked(name, changed)).toMatchObject({ whole: 'partial' })
  })
})

async function picture(size: number, isProgressive: boolean): Promise<Uint8Array> {
  const raw = Uint8Array.from(
    { length: size * size * 3 },
    (_, at) => (Math.imul(at + 1, 2654435761) >>> 25) + Math.floor(at / 3 / size) / 2,
  )
  const made = sharp(raw, { raw: { width: size, height: size, channels: 3 } })
  return new Uint8Array(await made.jpeg({ quality: 70, progressive: isProgressive }).toBuffer())
}

/** A document of some packed streams and a picture, with its table of objects in text or itself packed. */
async function documentOf(isTablePacked: boolean): Promise<Uint8Array> {
  const drawn = await picture(96, false)
  const streams = [
    ...[1, 2, 3].map((seed) => ({
      words: '/Filter /FlateDecode',
      bytes: deflate(Uint8Array.from({ length: 3000 }, (_, at) => (Math.imul(at + seed, 2654435761) >>> 9) & 255)),
    })),
    { words: '/Subtype /Image /Filter /DCTDecode', bytes: drawn },
  ]
  const parts: Uint8Array[] = [latin1('%PDF-1.5\n')]
  const offsets: number[] = []
  const length = () => parts.reduce((sum, part) => sum + part.length, 0)
  const add = (dictionary: string, bytes: Uint8Array) => {
    offsets.push(length())
    parts.push(
      latin1(`${offsets.length} 0 obj\n<< /Length ${bytes.length} ${dictionary} >>\nstream\n`),
      bytes,
      latin1('\nendstream\nendobj\n'),
    )
  }
  for (const { words, bytes } of streams) add(words, bytes)
  const table = length()
  if (isTablePacked) {
    const rows = [...offsets, table].map((offset) => [1, offset >> 8, offset & 255, 0])
    // Each row as the difference to the one above it.
    const packed = rows.flatMap((row, at) => [
      2,
      ...row.map((value, column) => (value - (rows[at - 1]?.[column] ?? 0)) & 255),
    ])
    const own = offsets.length + 1
    add(
      `/Type /XRef /W [1 2 1] /Index [1 ${own}] /Size ${own + 1} /Filter /FlateDecode /DecodeParms << /Predictor 12 /Columns 4 >>`,
      deflate(Uint8Array.from(packed)),
    )
  } else {
    const lines = offsets.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('')
    parts.push(
      latin1(`xref\n0 ${offsets.length + 1}\n0000000000 65535 f \n${lines}trailer << /Size ${offsets.length + 1} >>\n`),
    )
  }
  parts.push(latin1(`startxref\n${table}\n%%EOF\n`))
  return joined(...parts)
}

describe.each([
  ['in text', false],
  ['packed', true],
])('a document with its table of objects %s', (_, isTablePacked) => {
  it('is proved by its streams, the picture too', async () => {
    const bytes = await documentOf(isTablePacked)
    expect(walked('x.pdf', bytes)).toMatchObject({ whole: 'intact', bytes: bytes.length })
    const changed = bytes.slice()
    changed.fill(7, 4096, 4096 + UNIT)
    expect(walked('x.pdf', changed)?.whole).not.toBe('intact')
  })

  it('is put together around what was no part of it, and proved', async () => {
    const bytes = await documentOf(isTablePacked)
    for (let cut = 1; cut < Math.floor(bytes.length / UNIT); cut += 3)
      for (const gap of [1, 9]) {
        const told = putTogether('x.pdf', inTwo(bytes, cut, gap))
        expect(told?.whole, `cut ${cut}, gap ${gap}`).toBe('intact')
        expect(Buffer.compare(told!.bytes, bytes), `cut ${cut}, gap ${gap}`).toBe(0)
      }
  })
})

describe('a picture that comes in several scans', () => {
  it('is followed through each of them, and proved', async () => {
    const bytes = await picture(160, true)
    // Several scans refine others here, or the test would show nothing.
    const scans = [...bytes.keys()].filter((at) => bytes[at] === 0xff && bytes[at + 1] === 0xda)
    expect(scans.length).toBeGreaterThan(5)
    expect(walked('x.jpg', joined(bytes, new Uint8Array(5000)))).toMatchObject({ whole: 'intact', bytes: bytes.length })
  })

  it('is not called intact where a stretch of it is another’s', async () => {
    const [bytes, other] = [await picture(160, true), await picture(200, true)]
    for (let at = UNIT * 2; at + UNIT < bytes.length; at += UNIT) {
      const changed = bytes.slice()
      changed.set(other.subarray(at, at + UNIT), at)
      expect(walked('x.jpg', changed)?.whole, `at ${at}`).not.toBe('intact')
    }
  })

  it('is put together out of two pieces, wherever it was cut', async () => {
    const bytes = await picture(160, true)
    for (const part of [0.2, 0.5, 0.8]) {
      const told = putTogether('x.jpg', inTwo(bytes, Math.floor((bytes.length / UNIT) * part), 5))
      expect(told?.whole, `${part}`).toBe('intact')
      expect(Buffer.compare(told!.bytes, bytes)).toBe(0)
    }
  })
})

describe('what other deleted files say was theirs', () => {
  it('is left out where the file then fits', () => {
    const noise = Uint8Array.from({ length: 7 * UNIT }, (_, at) => (Math.imul(at + 3, 2654435761) >>> 11) & 255)
    const medium = joined(film.subarray(0, 20 * UNIT), noise, film.subarray(20 * UNIT), new Uint8Array(4 * UNIT))
    const source = bytesSource(medium)
    const told = inOne(source, 'x.mp4', [[20 * UNIT, 7 * UNIT - 9]])
    expect(Buffer.compare(piecesSource(source, told!.extents).read(0, film.length + 9), film)).toBe(0)
  })
})
