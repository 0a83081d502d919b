import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { ScanReport } from '../core/scanning/scan-report'
import { lockedImage, PASSPHRASE, PICTURE_SHA256 } from '../core/testing/locked-images'
import { lantern } from '../tests/support/captured'

const folder = mkdtempSync(join(tmpdir(), 'lantern-locked-'))
afterAll(() => rmSync(folder, { recursive: true }))
const place = (name: string, content: string | Uint8Array) => {
  writeFileSync(join(folder, name), content)
  return join(folder, name)
}
const image = place('vault.img', lockedImage('version-1'))
const report = join(folder, 'report.json')
const scan = (passphrase: string, file = image) => lantern('scan', file, '--report', report, '--passphrase', passphrase)

describe('scan --passphrase', () => {
  it.each([
    ['a line of text', `${PASSPHRASE}\n`],
    ['a line as other editors end it', `${PASSPHRASE}\r\n`],
    ['text without an end of line', PASSPHRASE],
  ])('opens the volume with %s', async (_, text) => {
    const { code, stderr } = await scan(place('passphrase', text))
    expect([code, stderr]).toEqual([
      0,
      expect.stringContaining('volume 0: Opened with its passphrase (LUKS 1), read only.'),
    ])
    const { items, volumes } = ScanReport.parse(JSON.parse(readFileSync(report, 'utf8')))
    expect(volumes).toMatchObject([{ fileSystem: 'FAT12', label: 'LOCKED', lock: 'opened' }])
    expect(items.filter(({ sha256 }) => sha256 === PICTURE_SHA256)).toHaveLength(2)
  })

  it.each([
    [
      'another passphrase',
      () => scan(place('other', 'lock keeper 8')),
      '--passphrase: volume 0: the passphrase opens none',
    ],
    ['nothing', () => scan(place('empty', '\n')), '--passphrase: is empty'],
    ['too much', () => scan(place('long', 'x'.repeat(70_000))), '--passphrase: is longer than 65536 bytes'],
    ['no such file', () => scan(join(folder, 'none')), '--passphrase: none cannot be read (ENOENT)'],
    [
      'an image without a lock',
      () => scan(place('p', 'x'), place('plain.img', new Uint8Array(9000))),
      'no volume that',
    ],
    ['no image', () => scan(place('p', 'x'), join(folder, 'no.img')), 'no.img: cannot be read (ENOENT)'],
  ])('refuses %s with one line', async (_, run, says) => {
    const { code, stderr } = await run()
    expect([code, stderr.trim().split('\n').length]).toEqual([2, 1])
    expect(stderr).toContain(says)
  })
})
