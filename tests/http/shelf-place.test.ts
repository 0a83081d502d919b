import {
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { ShelfPlace } from '../../core/bench/shelf-place'
import type { Health } from '../../core/safekeeping/backup'
import { unpackShop } from '../../disk/shop-backup/unpack'
import { openShop, type Technician } from '../support/carry'
import { Client } from '../support/client'
import { LOST_PHOTOS } from '../support/cases'

/** Shelves on a disk of their own, which somebody unplugs. */
const base = mkdtempSync(join(tmpdir(), 'lantern-shelf-place-'))
const disk = join(base, 'disk')
let tech: Technician
let owner: Client
beforeAll(async () => {
  mkdirSync(disk)
  tech = await openShop()
  owner = await new Client(tech.server.address).signIn('ottilie')
})
afterAll(async () => {
  await tech.server.remove()
  rmSync(base, { recursive: true })
})

const name = (folder: string | null, maxGigabytes: number | null = null) =>
  owner.put('/api/shelf-place', { data: { folder, maxGigabytes } })
const unplug = () => {
  renameSync(disk, join(base, 'away'))
  // The empty mount point of a disk that is not connected.
  mkdirSync(disk)
}
const plugIn = () => {
  rmSync(disk, { recursive: true })
  renameSync(join(base, 'away'), disk)
}
async function lost(): Promise<{ code: string; listing: number }> {
  const code = await tech.log({ ...LOST_PHOTOS, 'client.name': 'Edda Rook' })
  await tech.attach(code, 'd1', 'korvane-7')
  await tech.answer(code, 'korvane-7', 'passcode', '190677').catch(() => undefined)
  return { code, listing: await tech.list(code, 'korvane-7', 'library') }
}

test('shelves of new cases are where the owner names it, and nowhere that would lose or mix them', async () => {
  const refusedAs = async (folder: string) => (await name(folder)).text()
  expect(await refusedAs(tech.server.data)).toContain('own data')
  expect(await refusedAs(join(base, 'nowhere'))).toContain('not there')
  mkdirSync(join(base, 'other'))
  writeFileSync(join(base, 'other', 'russet-lantern-shelf.txt'), 'of-another-shop\n')
  expect(await refusedAs(join(base, 'other'))).toContain('another shop')
  expect((await tech.request.get('/api/shelf-place')).status).toBe(403)

  const before = await lost()
  const [first] = await tech.toShelf(before.code, before.listing, {})
  const place = (await (await name(disk)).json()) as ShelfPlace
  expect(place).toMatchObject({ folder: disk, maxGigabytes: null })
  expect(place.used).toBeGreaterThan(0)
  // Named again, also after another place, it is the same one.
  for (const folder of [disk, null, disk]) expect((await name(folder, 500)).status).toBe(200)

  const { code, listing } = await lost()
  // The folder of another shop with the same codes, restored from this one, is left alone.
  mkdirSync(join(disk, code))
  writeFileSync(join(disk, code, 'of another shop.txt'), 'stays')
  const files = await tech.toShelf(code, listing, {})
  expect(files.length).toBeGreaterThan(0)
  const shelf = realpathSync(join(tech.server.data, 'shelf', code))
  expect([dirname(shelf), shelf === join(disk, code)]).toEqual([disk, false])
  expect(readFileSync(join(shelf, files[0]!.path))).toEqual(files[0]!.bytes)
  expect(readdirSync(join(disk, code))).toEqual(['of another shop.txt'])
  expect((await tech.request.get(`/api/cases/${code}/bench/shelf/bag`)).status).toBe(200)
  expect(existsSync(join(disk, before.code))).toBe(false)
  expect(readFileSync(join(tech.server.data, 'shelf', before.code, first!.path))).toEqual(first!.bytes)
})

test('while its disk is not connected nothing is copied, nothing counts as wiped, and no backup leaves it out', async () => {
  const { code, listing } = await lost()
  await tech.toShelf(code, listing, {})
  const away = await lost()
  const backups = join(base, 'backups')
  mkdirSync(backups)
  const passphrase = 'a heron stands at the weir'
  await owner.put('/api/safekeeping', { data: { folder: backups, hasFiles: true, passphrase } })
  const { version } = await tech.ask<{ version: number }>('GET', `/api/cases/${code}`)
  await tech.ask('POST', `/api/cases/${code}/move`, { version, to: 'closed', reason: 'came to nothing' })
  const wipe = () =>
    owner.post(`/api/cases/${code}/afterwards`, {
      data: { do: 'wipe', part: 'data', code, reason: 'the client wishes it' },
    })
  const backUp = async () => (await (await owner.post('/api/safekeeping/backup', { data: {} })).json()) as Health

  unplug()
  const copy = `/api/cases/${away.code}/bench`
  await tech.ask('POST', `${copy}/listings/${away.listing}/select`, { filter: {}, isSelected: true })
  expect((await tech.refused('POST', `${copy}/shelf/copy`, { listing: away.listing })).message).toContain(
    'cannot be reached',
  )
  expect(existsSync(join(disk, away.code))).toBe(false)
  expect((await tech.refused('GET', `/api/cases/${code}/bench/shelf/bag`)).message).toContain('cannot be reached')
  expect(await (await wipe()).text()).toContain('cannot be reached')
  const failed = await backUp()
  expect(failed).toMatchObject({ isShelfAway: true, backup: { last: null } })
  expect(failed.backup.failed?.says).toContain('is not connected')

  plugIn()
  const made = await backUp()
  expect(made).toMatchObject({ isShelfAway: false, backup: { failed: null, kept: [{ hasFiles: true }] } })
  const restored = join(base, 'restored')
  await unpackShop(join(backups, made.backup.kept[0]!.name), restored, passphrase)
  expect(lstatSync(join(restored, 'shelf', code)).isDirectory()).toBe(true)
  expect(existsSync(join(restored, 'shelf', code, 'manifest.json'))).toBe(true)

  expect((await wipe()).status).toBe(200)
  expect([existsSync(join(disk, code)), existsSync(join(tech.server.data, 'shelf', code))]).toEqual([false, false])
  // The mark of the place stays, and the shelves of others.
  expect(existsSync(join(disk, 'russet-lantern-shelf.txt'))).toBe(true)
}, 60_000)
