import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { imageBytes, scanned } from '../../../testing/media-images'
import { FILE_NAME, INDEX } from './layout'
import { oldEntries } from './old-entries'

const FOLDER = { number: 41, sequence: 3 }
const CREATED = 133_800_000_000_000_000n

/** An index entry as stored, with its header. */
function entry(name: string, more: Partial<{ folder: number; bytes: number; namespace: number }> = {}): Uint8Array {
  const nameBytes = FILE_NAME.name + name.length * 2
  const bytes = new Uint8Array(Math.ceil((INDEX.name + nameBytes) / 8) * 8)
  const view = new DataView(bytes.buffer)
  view.setUint32(0, 77, true)
  view.setUint16(6, 5, true)
  view.setUint16(INDEX.entryBytes, bytes.length, true)
  view.setUint16(INDEX.nameBytes, nameBytes, true)
  view.setUint32(INDEX.name, more.folder ?? FOLDER.number, true)
  view.setUint16(INDEX.name + 6, FOLDER.sequence, true)
  view.setBigUint64(INDEX.name + FILE_NAME.created, CREATED, true)
  view.setBigUint64(INDEX.name + FILE_NAME.modified, CREATED, true)
  view.setUint32(INDEX.name + FILE_NAME.bytes, more.bytes ?? 4321, true)
  bytes[INDEX.name + FILE_NAME.length] = name.length
  bytes[INDEX.name + FILE_NAME.namespace] = more.namespace ?? 1
  for (const [at, letter] of [...name].entries())
    view.setUint16(INDEX.name + FILE_NAME.name + at * 2, letter.charCodeAt(0), true)
  return bytes
}
const found = (bytes: Uint8Array, from = 0) => [...oldEntries(bytes, [from, bytes.length], FOLDER)]

describe('what is left in a folder', () => {
  it('gives name, length, times and record number', () => {
    const bytes = Buffer.concat([entry('weir at dusk.jpg'), entry('ledger.xlsx', { bytes: 9 })])
    expect(found(bytes)).toMatchObject([
      { name: 'weir at dusk.jpg', bytes: 4321, isFolder: false, record: { number: 77, sequence: 5 } },
      {
        name: 'ledger.xlsx',
        bytes: 9,
        created: new Date(Number(CREATED / 10_000n) - 11_644_473_600_000).toISOString(),
      },
    ])
  })

  it('is known without its head too, over which the mark of the end was written', () => {
    const bytes = entry('weir.jpg')
    bytes.fill(0, 0, INDEX.name)
    expect(found(bytes)).toMatchObject([{ name: 'weir.jpg', record: null }])
  })

  it.each([
    ['of another folder', entry('weir.jpg', { folder: 42 })],
    ['the second name of a file', entry('WEIR~1.JPG', { namespace: 2 })],
    ['cut off', entry('a name that goes on and on.jpg').subarray(0, 96)],
    ['with a sign that no name has', entry('weir\n.jpg')],
  ])('is none where it is %s', (_, bytes) => {
    expect(found(bytes)).toEqual([])
  })

  it('does no harm whatever it holds', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), fc.nat(400), (noise, at) => {
        const bytes = Buffer.concat([entry('weir.jpg'), noise, entry('gate.png')])
        for (let step = 0; step < 3; step++) bytes[(at + step * 61) % bytes.length]! ^= at & 255
        for (const { name } of found(bytes)) expect(name.length).toBeGreaterThan(0)
      }),
    )
  })

  it('is reported with its path where its record was reused by another file', () => {
    const { items } = scanned(imageBytes('odd-ntfs'), { pass: 'quick' })
    const left = items.filter(({ checks }) => checks.some((check) => check.includes('left in its directory')))
    expect(left.map(({ path, bytes, content }) => [path, bytes, content])).toEqual([
      ['small/2', 9000, 'overwritten'],
      ['small/4', 9000, 'overwritten'],
      ['small/6', 9000, 'overwritten'],
    ])
    // A file that has a record is not reported again.
    const paths = items.map(({ path }) => path)
    expect(new Set(paths).size).toBe(paths.length)
  })
})
