import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
} from 'node:fs'
import { spawnSync } from 'node:child_process'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { clearLeftCopies, packShop } from './pack'
import { newBackupKey, type BackupKey } from './seal'
import { addToLedger, readLedger } from '../wipe-ledger'
import { readBackup, unpackShop } from './unpack'

const PASSPHRASE = 'a heron stands at the weir'
const NOW = Date.UTC(2026, 10, 24, 10, 42)
const base = mkdtempSync(join(tmpdir(), 'lantern-backup-'))
const [shop, place] = [join(base, 'shop'), join(base, 'place')]
const wiped = (at: number) => ({
  identity: `7d1f0c1e-27ac-4c8f-9a62-0f0d9d3b9d1${at}`,
  code: `SL-000${at}`,
  part: 'data' as const,
  at: '2026-11-24T10:00:00Z',
})
let key: BackupKey
let database: Sqlite.Database

beforeAll(async () => {
  key = await newBackupKey(PASSPHRASE, 6)
  for (const folder of ['attachments/SL-0001', 'shelf/SL-0001', 'tls'])
    mkdirSync(join(shop, folder), { recursive: true })
  mkdirSync(place)
  database = new Sqlite(join(shop, 'lantern.sqlite'))
  database.pragma('journal_mode = wal')
  database.exec('create table lines (at integer primary key, said text)')
  writeFileSync(join(shop, 'shop.key'), 'f'.repeat(64))
  addToLedger(shop, wiped(1))
  writeFileSync(join(shop, 'attachments/SL-0001/1.png'), 'MarkOfAPicture')
  writeFileSync(join(shop, 'attachments/SL-0001/empty.png'), '')
  writeFileSync(join(shop, 'shelf/SL-0001/heron.jpg'), Buffer.alloc(300_000, 7))
  writeFileSync(join(base, 'outside'), 'MarkFromOutside')
  symlinkSync(join(base, 'outside'), join(shop, 'attachments/SL-0001/link.png'))
})
afterAll(() => {
  database.close()
  rmSync(base, { recursive: true })
})

const make = (hasFiles: boolean, now = NOW) =>
  packShop({ dataFolder: shop, place, key, shop: 'Sluice Lane', shopId: null, hasFiles, now })
const put = (name: string, target: string, passphrase = PASSPHRASE) =>
  unpackShop(join(place, name), join(base, target), passphrase)

describe('a backup of the shop', () => {
  it('holds everything that was acknowledged before it, while others go on writing', async () => {
    const insert = database.prepare('insert into lines (said) values (?)')
    for (let at = 0; at < 500; at++) insert.run(`before ${at}`)
    const made = make(true)
    const during = setInterval(() => insert.run('during'), 1)
    const { name, bytes } = await made
    clearInterval(during)
    expect(bytes).toBeGreaterThan(300_000)
    const raw = readFileSync(join(place, name, 'shop.tar.age'))
    expect(raw.includes('MarkOfAPicture') || raw.includes('before 1') || raw.includes('f'.repeat(64))).toBe(false)
    await put(name, 'restored')
    const restored = new Sqlite(join(base, 'restored/lantern.sqlite'), { readonly: true })
    const count = restored.prepare("select count(*) from lines where said like 'before%'").pluck().get()
    expect([count, restored.pragma('integrity_check', { simple: true })]).toEqual([500, 'ok'])
    restored.close()
    expect(readFileSync(join(base, 'restored/shelf/SL-0001/heron.jpg'))).toEqual(Buffer.alloc(300_000, 7))
    expect(readdirSync(join(base, 'restored/attachments/SL-0001')).sort()).toEqual(['1.png', 'empty.png'])
    expect(readFileSync(join(base, 'restored/shop.key'), 'utf8')).toBe('f'.repeat(64))
    expect(statSync(join(base, 'restored/shop.key')).mode & 0o077).toBe(0)
    // Nothing in clear is left beside the database.
    expect(readdirSync(shop).filter((file) => file.includes('backup'))).toEqual([])
  })

  it('leaves shelves out by choice, and knows the wipes that came after it', async () => {
    const { name } = await make(false, NOW + 1000)
    expect(await readBackup(join(place, name))).toMatchObject({ hasFiles: false, files: 4, shop: 'Sluice Lane' })
    for (const at of [1, 2]) addToLedger(place, wiped(at))
    await put(name, 'lean')
    expect(existsSync(join(base, 'lean/shelf'))).toBe(false)
    expect(readLedger(join(base, 'lean'))).toEqual([wiped(1), wiped(2)])
  })

  it('is put back nowhere but in an empty folder, and only by its passphrase', async () => {
    const { name } = await make(false, NOW + 2000)
    await expect(put(name, 'wrong', 'another passphrase')).rejects.toThrow('does not open this backup')
    await expect(put(name, 'shop')).rejects.toThrow('is not empty')
    await expect(unpackShop(place, join(base, 'wrong'), PASSPHRASE)).rejects.toThrow('holds no backup')
    expect(existsSync(join(base, 'wrong'))).toBe(false)
  })

  it('that was cut or changed restores nothing', async () => {
    for (const harm of ['cut', 'changed'] as const) {
      const { name } = await make(true, NOW + (harm === 'cut' ? 3000 : 4000))
      const content = join(place, name, 'shop.tar.age')
      if (harm === 'cut') truncateSync(content, statSync(content).size - 100_000)
      else {
        const bytes = readFileSync(content)
        bytes[200_000]! ^= 1
        writeFileSync(content, bytes)
      }
      await expect(put(name, harm)).rejects.toThrow('damaged or was cut')
      expect([existsSync(join(base, harm)), existsSync(join(base, `${harm}.unfinished`))]).toEqual([false, false])
    }
  })

  it('that was killed leaves no copy of the database in clear for long', async () => {
    const gone = spawnSync(process.execPath, ['-e', '']).pid
    const [left, own] = [
      join(shop, `lantern.sqlite.backup-${gone}`),
      join(shop, `lantern.sqlite.backup-${process.pid}`),
    ]
    for (const path of [left, own]) writeFileSync(path, 'in clear')
    await clearLeftCopies(shop)
    expect([existsSync(left), existsSync(own)]).toEqual([false, true])
    rmSync(own)
  })

  it('that fails leaves no half of one', async () => {
    const failing = packShop({
      dataFolder: join(base, 'nowhere'),
      place,
      key,
      shop: 'x',
      shopId: null,
      hasFiles: false,
      now: NOW + 5000,
    })
    await expect(failing).rejects.toThrow()
    expect(readdirSync(place).filter((name) => name.includes('unfinished'))).toEqual([])
  })
})
