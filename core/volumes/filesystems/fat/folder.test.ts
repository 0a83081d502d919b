import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readEntries } from './folder'
import { ATTRIBUTE, DELETED, ENTRY, LONG_NAME } from './layout'

interface Facts {
  readonly attributes?: number
  readonly cluster?: number
  readonly size?: number
  readonly date?: number
  readonly time?: number
  readonly letterCase?: number
}

/** An entry under its short name: eight characters and three. */
function short(name: string, { attributes = 0x20, cluster = 5, size = 100, ...more }: Facts = {}): Uint8Array {
  const bytes = new Uint8Array(ENTRY.bytes)
  const view = new DataView(bytes.buffer)
  for (let at = 0; at < 11; at++) bytes[at] = name.charCodeAt(at)
  bytes[ENTRY.attributes] = attributes
  bytes[ENTRY.letterCase] = more.letterCase ?? 0
  view.setUint16(ENTRY.cluster, cluster & 0xffff, true)
  view.setUint16(ENTRY.clusterHigh, Math.floor(cluster / 65_536), true)
  view.setUint32(ENTRY.size, size, true)
  view.setUint16(ENTRY.modifiedDate, more.date ?? 0x5d7a, true)
  view.setUint16(ENTRY.modifiedTime, more.time ?? 0x6000, true)
  return bytes
}

function checksum(name: string): number {
  let sum = 0
  for (let at = 0; at < 11; at++) sum = (((sum & 1) << 7) + (sum >> 1) + name.charCodeAt(at)) & 0xff
  return sum
}

/** The long-name entries that precede the short entry, last part first. */
function long(name: string, shortName: string): Uint8Array[] {
  const parts = Math.ceil((name.length + 1) / 13)
  return Array.from({ length: parts }, (_, index) => {
    const part = parts - index
    const bytes = new Uint8Array(ENTRY.bytes)
    const view = new DataView(bytes.buffer)
    bytes[0] = part | (index === 0 ? 0x40 : 0)
    bytes[ENTRY.attributes] = ATTRIBUTE.longName
    bytes[LONG_NAME.checksum] = checksum(shortName)
    for (const [at, offset] of LONG_NAME.characters.entries()) {
      const place = (part - 1) * 13 + at
      view.setUint16(offset, place < name.length ? name.charCodeAt(place) : place === name.length ? 0 : 0xffff, true)
    }
    return bytes
  })
}
const deleted = (entries: readonly Uint8Array[]) =>
  entries.map((entry) => Uint8Array.from([DELETED, ...entry.subarray(1)]))
const read = (...entries: readonly Uint8Array[]) => [...readEntries(new Uint8Array(Buffer.concat(entries)))]

describe('the entries of a folder', () => {
  it('have a long name where one belongs to them, whatever its length, deleted or not', () => {
    const letters = fc.constantFrom(...'abcXYZ0189 -_äßЖ水'.split(''))
    fc.assert(
      fc.property(fc.array(letters, { minLength: 1, maxLength: 60 }), fc.boolean(), (name, isDeleted) => {
        const whole = `${name.join('')}.jpg`
        const entries = [...long(whole, 'WEIR~1  JPG'), short('WEIR~1  JPG')]
        expect(read(...(isDeleted ? deleted(entries) : entries))).toMatchObject([{ name: whole, isDeleted }])
      }),
    )
  })

  it('keep their short name where the long one before them is another’s', () => {
    const [entry] = read(...long('a long way down.jpg', 'OTHER~1 JPG'), short('WEIR~1  JPG'))
    expect(entry!.name).toBe('WEIR~1.JPG')
  })

  it('keep their case; the first letter of a deleted one is unknown', () => {
    expect(read(short('GATE    PNG', { letterCase: 0x18 }))[0]!.name).toBe('gate.png')
    expect(read(short('GATE    PNG', { letterCase: 0x10 }))[0]!.name).toBe('GATE.png')
    expect(read(...deleted([short('GATE       ')]))[0]).toMatchObject({ name: '_ATE', isDeleted: true })
  })

  it('give first cluster, length and local time', () => {
    const date = ((2026 - 1980) << 9) | (11 << 5) | 26
    const time = (16 << 11) | (41 << 5) | 7
    expect(read(short('WEIR    JPG', { cluster: 70_000, size: 3_000_000_000, date, time }))).toMatchObject([
      { cluster: 70_000, size: 3_000_000_000, modified: '2026-11-26T16:41:14.000Z', isFolder: false },
    ])
    for (const bad of [0, (46 << 9) | (13 << 5) | 1, (46 << 9) | (2 << 5) | 30])
      expect(read(short('WEIR    JPG', { date: bad }))[0]!.modified).toBeNull()
  })

  it('are no labels, no marks for the folder itself, and nothing behind the end', () => {
    const all = read(
      short('SURVEY     ', { attributes: ATTRIBUTE.label }),
      short('.          ', { attributes: ATTRIBUTE.folder }),
      short('..         ', { attributes: ATTRIBUTE.folder }),
      short('DCIM       ', { attributes: ATTRIBUTE.folder }),
      new Uint8Array(ENTRY.bytes),
      short('WEIR    JPG'),
    )
    expect(all.map(({ name, isFolder }) => [name, isFolder])).toEqual([['DCIM', true]])
  })

  it('do no harm whatever they hold', () => {
    let read = 0
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(127), fc.nat(255)), { maxLength: 20 }), fc.uint8Array(), (changes, more) => {
        const bytes = new Uint8Array(
          Buffer.concat([...long('gate of the lock', 'GATEOF~1PNG'), short('GATEOF~1PNG'), more]),
        )
        for (const [at, byte] of changes) if (at < bytes.length) bytes[at] = byte
        for (const { name, size } of readEntries(bytes)) {
          read++
          expect(name.length > 0 && size >= 0).toBe(true)
        }
      }),
    )
    expect(read).toBeGreaterThan(20)
  })
})
