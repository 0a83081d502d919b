import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { execFile } from 'node:child_process'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ScanReport } from '../core/scanning/scan-report'
import { imageBytes, sha256, truthOf } from '../core/testing/media-images'
import { ShelfManifest, type ShelfLine } from '../core/bench/scan-shelf'
import { scanCommand, type ScanWords } from './scan'

const folder = mkdtempSync(join(tmpdir(), 'lantern-cli-scan-'))
const image = join(folder, 'card.img')
const report = join(folder, 'report.json')
beforeAll(() => {
  writeFileSync(image, imageBytes('floppy'))
  chmodSync(image, 0o444)
})
afterAll(() => rmSync(folder, { recursive: true }))

const scan = (words: Partial<ScanWords> = {}, file = image) => scanCommand(file, { report, ...words }, () => {})
const reportOf = () => ScanReport.parse(JSON.parse(readFileSync(report, 'utf8')))

describe('lantern scan', () => {
  it('writes a report in the documented shape and what can be recovered, and leaves the image as it was', async () => {
    const { mtimeMs } = statSync(image)
    const shelf = join(folder, 'shelf')
    const { stdout, stderr } = await promisify(execFile)(join(import.meta.dirname, '../node_modules/.bin/tsx'), [
      join(import.meta.dirname, 'lantern.ts'),
      'scan',
      image,
      '--report',
      report,
      '--shelf',
      shelf,
    ])
    expect(stdout).toBe('')
    expect(stderr).toMatch(/5 items: 3 intact, 2 unverified, 0 partial, 0 overwritten; 0 warnings\n$/)
    const told = reportOf()
    expect(told).toMatchObject({
      image: { name: 'card.img', bytes: 1_474_560 },
      volumes: [{ index: 0, scheme: 'none', fileSystem: 'FAT12' }],
      stats: { unreadableBytes: 0 },
    })
    const { items } = JSON.parse(readFileSync(join(shelf, 'manifest.json'), 'utf8')) as {
      items: { item: string; path: string; sha256: string; isVerified: boolean }[]
    }
    const truth = truthOf('floppy')
    expect(items.map((item) => item.sha256).sort()).toEqual(truth.files.map((file) => file.sha256).sort())
    for (const item of items) {
      expect(item.isVerified).toBe(true)
      expect(sha256(readFileSync(join(shelf, item.path)))).toBe(item.sha256)
      expect(told.items.find(({ id }) => id === item.item)?.sha256).toBe(item.sha256)
    }
    expect(sha256(readFileSync(image))).toBe(sha256(imageBytes('floppy')))
    expect(statSync(image).mtimeMs).toBe(mtimeMs)
  })

  it('gives the bytes that its extents name', () => {
    scan({ pass: 'both' })
    const bytes = imageBytes('floppy')
    const { items } = reportOf()
    expect(items).toHaveLength(5)
    for (const { extents, sha256: told, bytes: size } of items) {
      const content = Buffer.concat(extents.map(([offset, length]) => bytes.subarray(offset, offset + length)))
      expect([content.length, sha256(content)]).toEqual([size, told])
    }
  })

  it('keeps to the pass, the formats and the state that were asked for', () => {
    const items = (words: Partial<ScanWords>) => {
      scan(words)
      return reportOf().items
    }
    expect(items({ only: 'deleted' }).map(({ record }) => record)).toEqual(['deleted', 'deleted', 'deleted'])
    expect(items({ pass: 'deep' }).every(({ record, path }) => record === 'none' && path === null)).toBe(true)
    expect(items({ types: 'jpg' }).map(({ mime }) => mime)).toEqual(['image/jpeg'])
    expect(items({ pass: 'deep', types: 'png' })).toEqual([])
    expect(items({ pass: 'deep', types: 'png', whole: true }).map(({ mime }) => mime)).toEqual(['image/png'])
  })

  it('overwrites nothing that is already on the shelf', () => {
    const shelf = join(folder, 'used')
    mkdirSync(shelf)
    writeFileSync(join(shelf, 'ledger.txt'), 'mine')
    scan({ shelf })
    expect(readFileSync(join(shelf, 'ledger.txt'), 'utf8')).toBe('mine')
    expect(existsSync(join(shelf, 'ledger (2).txt'))).toBe(true)
  })

  it('continues on a shelf: nothing twice, one manifest, and what was changed or lost meanwhile is copied again', () => {
    const shelf = join(folder, 'again')
    const manifest = () => ShelfManifest.parse(JSON.parse(readFileSync(join(shelf, 'manifest.json'), 'utf8')))
    const files = () => readdirSync(shelf, { recursive: true }).map(String).sort()
    scan({ shelf, only: 'deleted' })
    expect(manifest().items).toHaveLength(3)
    scan({ shelf })
    const [first, all] = [manifest(), files()]
    expect(first.items).toHaveLength(5)
    scan({ shelf })
    expect([manifest(), files()]).toEqual([first, all])
    for (const { path, modified, bytes, told, isVerified } of first.items) {
      expect({ told, isVerified }).toEqual({ told: bytes, isVerified: true })
      const facts = statSync(join(shelf, path))
      expect(facts.size).toBe(bytes)
      if (modified !== null) expect(facts.mtimeMs).toBe(Date.parse(modified))
    }
    expect(first.items.some(({ modified }) => modified !== null)).toBe(true)
    // One was changed by hand, one lost; the end of the manifest was cut off, as by a power cut.
    const [one, other] = first.items as [ShelfLine, ShelfLine]
    writeFileSync(join(shelf, one.path), 'x'.repeat(one.bytes))
    rmSync(join(shelf, other.path))
    const text = readFileSync(join(shelf, 'manifest.json'), 'utf8')
    writeFileSync(join(shelf, 'manifest.json'), text.slice(0, text.length - 40))
    writeFileSync(join(shelf, `${other.path}.part`), 'half')
    scan({ shelf })
    const again = manifest()
    expect(again.items.map(({ sha256: sum }) => sum).sort()).toEqual(first.items.map(({ sha256: sum }) => sum).sort())
    for (const { path, sha256: sum } of again.items) expect(sha256(readFileSync(join(shelf, path)))).toBe(sum)
    expect(readFileSync(join(shelf, one.path), 'utf8')).toMatch(/^x+$/)
    expect(files().filter((name) => name.endsWith('.part'))).toEqual([])
  })

  it('takes no shelf of another image, and follows no path or link that leads out of it', () => {
    const shelf = join(folder, 'other')
    const outside = join(folder, 'outside')
    scan({ shelf })
    const noise = join(folder, 'other.img')
    writeFileSync(noise, imageBytes('floppy'))
    expect(scan({ shelf }, noise)).toMatchObject({ faults: [expect.stringContaining('recovered from card.img')] })
    const path = join(shelf, 'manifest.json')
    const text = readFileSync(path, 'utf8')
    writeFileSync(path, text.replace(/"path":"[^"]+"/, '"path":"../outside/x"'))
    mkdirSync(outside)
    scan({ shelf })
    writeFileSync(path, '{"items":[]}')
    expect(scan({ shelf })).toMatchObject({ faults: [expect.stringContaining('none of ours')] })
    rmSync(path)
    rmSync(join(shelf, 'found'), { recursive: true, force: true })
    symlinkSync(outside, join(shelf, 'found'))
    expect(scan({ shelf, pass: 'deep', whole: true })).toMatchObject({
      faults: [expect.stringContaining('cannot be written')],
    })
    expect(readdirSync(outside)).toEqual([])
  })

  it('finds nothing in noise, and says so', () => {
    const noise = join(folder, 'noise.img')
    writeFileSync(
      noise,
      Uint8Array.from({ length: 300_000 }, (_, at) => (Math.imul(at + 3, 2654435761) >>> 11) & 255),
    )
    expect(scan({}, noise)).toMatchObject({ report: { volumes: [{ fileSystem: null }], items: [] } })
  })

  it.each([
    ['an image that is not there', () => scan({}, join(folder, 'none.img')), 'none.img: is not there'],
    ['a folder', () => scan({}, folder), 'is neither a disk image nor a block device'],
    ['an empty file', () => scan({}, empty()), 'empty.img: is empty'],
    ['a report over the image', () => scan({ report: image }), '--report: would overwrite the source'],
    ['a report in no folder', () => scan({ report: join(folder, 'no', 'r.json') }), 'cannot be written'],
    ['a pass that there is not', () => scan({ pass: 'slow' }), '--pass: slow is not one of quick, deep, both'],
    ['a state that there is not', () => scan({ only: 'lost' }), '--only: lost is not one of deleted, all'],
    ['a format that there is not', () => scan({ types: 'jpeg,poem' }), '--types: poem is not known'],
    ['a shelf inside of the source', () => scan({ shelf: join(image, 'shelf') }), '--shelf: is inside the source'],
    ['a shelf that is a file', () => scan({ shelf: empty() }), '--shelf: is not a folder'],
  ])('says of %s what is wrong, on one line', (_, outcome, words) => {
    const told = outcome()
    expect('faults' in told && told.faults).toEqual([expect.stringContaining(words)])
  })

  it('refuses a shelf without room before it writes a byte', () => {
    const told = scan({ shelf: join(folder, 'small'), pass: 'quick' }, tooLarge())
    expect('faults' in told && told.faults[0]).toMatch(/^--shelf: \d+ bytes are needed, \d+ are free$/)
    expect(existsSync(join(folder, 'small'))).toBe(false)
  })
})

function empty(): string {
  const path = join(folder, 'empty.img')
  writeFileSync(path, '')
  return path
}

/** ext4 with one file longer than any disk here, most of it a hole that was never written. */
function tooLarge(): string {
  const bytes = imageBytes('server').slice()
  const view = new DataView(bytes.buffer)
  for (let at = 0; at + 256 <= bytes.length; at += 256)
    if (
      (view.getUint16(at, true) & 0xf000) === 0x8000 &&
      view.getUint32(at + 4, true) === 20_000 &&
      view.getUint16(at + 26, true) === 1
    )
      view.setUint32(at + 108, 2 ** 18, true)
  const path = join(folder, 'large.img')
  writeFileSync(path, bytes)
  return path
}
