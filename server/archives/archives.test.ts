import {
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
  createWriteStream,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import fc from 'fast-check'
import { pack as tarPack } from 'tar-stream'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ZipFile } from 'yazl'
import { LinkFailure } from '../../core/bench/fault'
import { LinkItem } from '../../core/bench/item'
import { readWhole } from '../../core/bench/link'
import { openBackup } from './backup'
import { openContainer } from './open'
import { packBackup, writeZip, type BackupSource } from './write-backup'

let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'lantern-archives-'))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const bytesOf = (text: string) => new TextEncoder().encode(text)
const things = Array.from({ length: 12 }, (_, at) => ({
  name: `thing ${at}.txt`,
  bytes: bytesOf(`content ${at} `.repeat(400 + at)),
}))
const source: BackupSource = {
  device: { id: 'slate', title: 'Slate', platform: 'closed-phone' },
  account: null,
  taken: '2026-11-05T02:30:00Z',
  keepsBins: false,
  keeps: [{ id: 'files', kind: 'files', title: 'Files', types: ['documents'], periodDays: null, isOn: true }],
  items: things.map(({ name, bytes }, at) => ({
    keep: 'files',
    item: LinkItem.parse({ id: `i${at}`, name, type: 'documents', bytes: bytes.length }),
    bytes: async () => bytes,
  })),
}
const text = async (parts: AsyncIterable<Uint8Array>) => Buffer.from(await readWhole(parts, 1 << 20)).toString()

async function zip(name: string, password: string | null) {
  const path = join(folder, name)
  await writeZip(path, packBackup(source, password))
  return path
}
async function tar(name: string, extra: (pack: ReturnType<typeof tarPack>) => void = () => {}) {
  const path = join(folder, name)
  const pack = tarPack()
  const written = pipeline(pack, createWriteStream(path))
  for await (const file of packBackup(source, null)) pack.entry({ name: file.name }, Buffer.from(file.bytes))
  extra(pack)
  pack.finalize()
  await written
  return path
}
async function asFolder(name: string, password: string | null) {
  const path = join(folder, name)
  mkdirSync(join(path, 'items'), { recursive: true })
  for await (const file of packBackup(source, password)) writeFileSync(join(path, file.name), file.bytes)
  return path
}
const faultOf = async (work: Promise<unknown>) =>
  (
    (await work.then(
      () => null,
      (error) => error,
    )) as LinkFailure | null
  )?.fault

describe('a backup', () => {
  it('reads alike from a zip, a tar and a folder, plain or encrypted', async () => {
    const made: [string, string][] = [
      [await zip('plain.zip', null), ''],
      [await zip('sealed.zip', 'larkspur'), 'larkspur'],
      [await tar('plain.tar'), ''],
      [await asFolder('plain', null), ''],
      [await asFolder('sealed', 'larkspur'), 'larkspur'],
    ]
    for (const [path, password] of made) {
      const backup = await openBackup(path, password)
      expect(backup.manifest).toMatchObject({ device: { title: 'Slate' }, counts: { documents: 12 } })
      expect(backup.index.items.map((item) => item.name)).toEqual(things.map((thing) => thing.name))
      expect(await text(backup.read(backup.index.items[7]!))).toBe(Buffer.from(things[7]!.bytes).toString())
      await backup.close()
    }
  })

  it('reports a wrong password at once, and no items without the right one', async () => {
    const path = await zip('locked.zip', 'larkspur')
    expect(await faultOf(openBackup(path, 'lark'))).toMatchObject({ fault: 'wrong-password' })
    expect(await faultOf(openBackup(path, ''))).toMatchObject({ fault: 'not-ready' })
    const raw = readFileSync(path).toString('latin1')
    expect(raw).not.toContain('thing 3')
    expect(raw).toContain('age-encryption.org/v1')
  })

  it('that lost its end gives what is whole', async () => {
    for (const path of [await zip('cut.zip', null), await tar('cut.tar')]) {
      const size = readFileSync(path).length
      truncateSync(path, Math.floor(size * 0.6))
      const backup = await openBackup(path, '')
      const whole = backup.index.items.filter((item) => item.whole !== 'overwritten')
      expect(whole.length).toBeGreaterThan(3)
      expect(whole.length).toBeLessThan(12)
      for (const item of whole) {
        const at = Number(item.id.slice(1))
        expect(await text(backup.read(item))).toBe(Buffer.from(things[at]!.bytes).toString())
      }
      expect(backup.warnings.join()).toMatch(/salvaged|ends inside|damaged/)
      await backup.close()
    }
  })

  it('with a changed byte in it does not give that item as if it were whole', async () => {
    const path = await zip('bad-byte.zip', null)
    const bytes = readFileSync(path)
    const at = bytes.indexOf('items/000005.txt') + 40
    bytes[at] = bytes[at]! ^ 0xff
    writeFileSync(path, bytes)
    const backup = await openBackup(path, '')
    await expect(text(backup.read(backup.index.items[5]!))).rejects.toThrow()
    expect(await text(backup.read(backup.index.items[6]!))).toContain('content 6')
    await backup.close()
  })

  it('without a manifest is the files that it holds', async () => {
    const path = join(folder, 'any.zip')
    const any = new ZipFile()
    any.addBuffer(Buffer.from('a,b\n'), 'Sheets/tolls.csv')
    any.end()
    await pipeline(any.outputStream, createWriteStream(path))
    const backup = await openBackup(path, '')
    expect(backup.manifest).toBeNull()
    expect(backup.index.items).toMatchObject([{ name: 'tolls.csv', place: ['Sheets'], type: 'spreadsheets' }])
    await backup.close()
  })
})

describe('what an archive must not do', () => {
  it('with a time that no calendar has gives its file without it', async () => {
    const path = join(folder, 'far.tar')
    const pack = tarPack()
    pack.entry({ name: 'far.txt' }, 'x')
    pack.finalize()
    const bytes = await readWhole(pack as unknown as AsyncIterable<Uint8Array>, 1 << 20)
    // A time as a number of 11 bytes (POSIX pax, base 256), and the sum of the header's bytes with spaces in its own place.
    bytes.set([0x80, 0, 0, 0, 0, 0, 0, 0xff, 0xff, 0xff, 0xff, 0xff], 136)
    bytes.fill(0x20, 148, 156)
    const sum = bytes.subarray(0, 512).reduce((all, byte) => all + byte, 0)
    bytes.set(bytesOf(`${sum.toString(8).padStart(6, '0')}\0 `), 148)
    writeFileSync(path, bytes)
    const backup = await openBackup(path, '')
    const changed = backup.index.items.map(({ keep: _, entry: __, ...item }) => LinkItem.parse(item).changed)
    expect(changed).toEqual([null])
    await backup.close()
  })

  it('names that lead out, links and absurd names do nothing', async () => {
    const path = await tar('slip.tar', (pack) => {
      pack.entry({ name: '../../out.txt' }, 'out')
      pack.entry({ name: '/etc/out.txt' }, 'out')
      pack.entry({ name: 'C:/out.txt' }, 'out')
      pack.entry({ name: 'link', type: 'symlink', linkname: '/etc/passwd' })
      pack.entry({ name: `${'deep/'.repeat(80)}x` }, 'x')
      pack.entry({ name: 'fine/inside.txt' }, 'inside')
    })
    const container = await openContainer(path)
    const names = container.entries.map((entry) => entry.name)
    expect(names).toContain('fine/inside.txt')
    expect(names.filter((name) => /out|link|deep/.test(name))).toEqual([])
    expect(container.warnings.length).toBeGreaterThanOrEqual(5)
    await container.close()

    const outside = join(folder, 'secret.txt')
    writeFileSync(outside, 'secret')
    const inside = await asFolder('linked', null)
    symlinkSync(outside, join(inside, 'items', 'way-out.txt'))
    const linked = await openContainer(inside)
    expect(linked.entries.some((entry) => entry.name.includes('way-out'))).toBe(false)
    await linked.close()
  })

  it('a bomb gives no more than it says', async () => {
    const path = join(folder, 'bomb.zip')
    const bomb = new ZipFile()
    bomb.addBuffer(Buffer.alloc(8 << 20), 'zeros.bin', { compress: true })
    bomb.end()
    await pipeline(bomb.outputStream, createWriteStream(path))
    const bytes = readFileSync(path)
    // Both headers say that it holds a hundred bytes.
    for (const [signature, offset] of [
      ['PK\u0001\u0002', 24],
      ['PK\u0003\u0004', 22],
    ] as const)
      bytes.writeUInt32LE(100, bytes.indexOf(Buffer.from(signature, 'latin1')) + offset)
    writeFileSync(path, bytes)
    const container = await openContainer(path)
    let size = 0
    await expect(
      (async () => {
        for await (const part of container.read('zeros.bin')) size += part.length
      })(),
    ).rejects.toThrow()
    expect(size).toBeLessThan(1 << 20)
    await container.close()
  })

  it('any bytes at all end in an archive or in a clear failure', async () => {
    const good = [readFileSync(await zip('fuzz.zip', null)), readFileSync(await tar('fuzz.tar'))]
    const path = join(folder, 'mutated')
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...good),
        fc.array(fc.tuple(fc.nat(), fc.nat(255)), { minLength: 1, maxLength: 20 }),
        fc.nat(),
        async (bytes, changes, cut) => {
          const mutated = Buffer.from(bytes.subarray(0, changes.length % 3 === 0 ? cut % bytes.length : bytes.length))
          for (const [at, value] of changes) if (mutated.length > 0) mutated[at % mutated.length] = value
          writeFileSync(path, mutated)
          const backup = await openBackup(path, '').catch((error: unknown) => {
            expect(error).toBeInstanceOf(LinkFailure)
            return null
          })
          if (!backup) return
          // Every entry ends or fails; none is endless.
          for (const item of backup.index.items.slice(0, 3)) await text(backup.read(item)).catch(() => '')
          await backup.close()
        },
      ),
      { numRuns: 250 },
    )
  }, 60_000)
})
