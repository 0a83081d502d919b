import { spawnSync } from 'node:child_process'
import {
  chmodSync,
  cpSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import Sqlite from 'better-sqlite3'
import { afterAll, describe, expect, it } from 'vitest'
import { NO_MOUNT, remount, smallDisk } from '../../core/testing/small-disk'
import { DATABASE, DataFault, lockDataFolder } from './data-folder'
import { closeDatabase, openDatabase } from './open'

const folder = mkdtempSync(join(tmpdir(), 'lantern-data-'))
afterAll(() => rmSync(folder, { recursive: true }))
const migrations = resolve('server/db/migrations')
let made = 0
const fresh = () => join(folder, `shop-${++made}`)

function shop(): string {
  const path = fresh()
  closeDatabase(openDatabase(path, migrations))
  return path
}

/** Everything that a folder holds, byte by byte. */
const contents = (path: string) =>
  readdirSync(path)
    .sort()
    .map((name) => [name, statSync(join(path, name)).isFile() ? readFileSync(join(path, name)).toString('base64') : ''])

const faultOf = (path: string): string => {
  try {
    closeDatabase(openDatabase(path, migrations))
  } catch (error) {
    expect(error).toBeInstanceOf(DataFault)
    expect((error as Error).message).not.toContain('\n')
    return (error as Error).message
  }
  return ''
}

describe('a data folder', () => {
  it('that is missing or empty is a new shop, which only its own user can read', () => {
    const path = fresh()
    expect(faultOf(path)).toBe('')
    expect(statSync(path).mode & 0o777).toBe(0o700)
    expect(statSync(join(path, DATABASE)).mode & 0o777).toBe(0o600)
    // The log is folded in at a stop: what is copied away then is the whole shop.
    expect(readdirSync(path)).toEqual([DATABASE, 'shop.key'])
    expect(statSync(join(path, 'shop.key')).mode & 0o777).toBe(0o600)
  })

  it('that others could read is closed to them', () => {
    const path = shop()
    chmodSync(path, 0o755)
    chmodSync(join(path, DATABASE), 0o644)
    expect(faultOf(path)).toBe('')
    expect([path, join(path, DATABASE)].map((one) => statSync(one).mode & 0o777)).toEqual([0o700, 0o600])
  })

  const broken: readonly (readonly [what: string, says: RegExp, breaks: (path: string) => void])[] = [
    [
      'has lost its database',
      /missing from .* shelf is there/,
      (path) => {
        mkdirSync(join(path, 'shelf', 'SL-0001'), { recursive: true })
        rmSync(join(path, DATABASE))
      },
    ],
    ['has an empty database', /is empty: put it back/, (path) => writeFileSync(join(path, DATABASE), '')],
    [
      'has something else for a database',
      /is damaged: put it back/,
      (path) => writeFileSync(join(path, DATABASE), 'not a database '.repeat(100)),
    ],
    [
      'has a database with damaged pages',
      /is damaged \(.*: put it back/,
      (path) => {
        const bytes = readFileSync(join(path, DATABASE))
        bytes.fill(0x5a, 4096 * 3, 4096 * 6)
        writeFileSync(join(path, DATABASE), bytes)
      },
    ],
    [
      'has the database of another program',
      /not of this program/,
      (path) => {
        rmSync(join(path, DATABASE))
        const other = new Sqlite(join(path, DATABASE))
        other.exec('create table recipes(id integer primary key, name text)')
        other.close()
      },
    ],
    [
      'is of a newer version',
      /newer version/,
      (path) => {
        const later = new Sqlite(join(path, DATABASE))
        later.exec("insert into __drizzle_migrations(hash, created_at) values ('later', 9999999999999)")
        later.pragma('wal_checkpoint(TRUNCATE)')
        later.close()
      },
    ],
  ]
  it.each(broken)('that %s is reported in one line, and is left as it was', (_, says, breaks) => {
    const path = shop()
    breaks(path)
    const before = contents(path)
    expect(faultOf(path)).toMatch(says)
    expect(contents(path)).toEqual(before)
  })

  it('that is a file is reported', () => {
    const path = fresh()
    writeFileSync(path, '')
    expect(faultOf(path)).toContain('is not a folder')
  })

  const disk = smallDisk(4 << 20)
  afterAll(() => disk?.remove())
  it.skipIf(!disk)(`on a full disk, or one that is mounted read only, is reported (${NO_MOUNT})`, () => {
    expect(faultOf(join(disk!.folder, 'shop'))).toContain('is full. Make room')
    const large = smallDisk(64 << 20)!
    try {
      cpSync(shop(), join(large.folder, 'shop'), { recursive: true })
      expect(remount(large, 'ro')).toBe(true)
      expect(faultOf(join(large.folder, 'shop'))).toContain('mounted read only')
      expect(faultOf(join(large.folder, 'another'))).toContain('mounted read only')
    } finally {
      large.remove()
    }
  })

  it('is for one server at a time, and free again once that is gone, however it ended', () => {
    const path = shop()
    const held = lockDataFolder(path)
    expect(() => lockDataFolder(path)).toThrow(/Another server already uses/)
    held.release()
    const script = `
      const Sqlite = require('better-sqlite3')
      new Sqlite(${JSON.stringify(join(path, 'server.lock'))}).exec('begin exclusive')
      process.kill(process.pid, 'SIGKILL')`
    expect(spawnSync(process.execPath, ['-e', script]).signal).toBe('SIGKILL')
    lockDataFolder(path).release()
  })
})
