import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { openDatabase } from './open'

const folder = mkdtempSync(join(tmpdir(), 'lantern-upgrade-'))
afterAll(() => rmSync(folder, { recursive: true }))
const migrations = resolve('server/db/migrations')

/** The migrations as they were while there were only so many. */
function earlier(count: number): string {
  const copy = join(folder, `first-${count}`)
  cpSync(migrations, copy, { recursive: true })
  const journal = join(copy, 'meta/_journal.json')
  const all = JSON.parse(readFileSync(journal, 'utf8')) as { entries: object[] }
  writeFileSync(journal, JSON.stringify({ ...all, entries: all.entries.slice(0, count) }))
  return copy
}

describe('a shop of before', () => {
  it('keeps finds and selections when its database is migrated', () => {
    const shop = join(folder, 'shop')
    const before = openDatabase(shop, earlier(3))
    before.$client.exec(`
      insert into cases (id, code, version, body, state, updated_at) values (1, 'SL-0001', 1, '{}', 'open', '');
      insert into looks (id, case_id, link, keep, title, at, by, state) values (7, 1, 'phone', 'bin', 'Bin', '', '', 'whole');
      insert into finds (id, look_id, item, name, extension, place, type, bytes, presence, whole, is_marked, body)
        values (5, 7, 'bin/1', 'a.jpg', 'jpg', 'Bin', 'photos', 3, 'deleted', 'intact', 1, '{"id":"1"}'),
               (6, 7, 'bin/2', 'b.jpg', 'jpg', 'Bin', 'photos', 4, 'deleted', 'intact', 0, '{"id":"2"}');`)
    before.$client.close()
    const after = openDatabase(shop, migrations)
    const read =
      'select f.id, name, is_selected, body from finds f join find_bodies b on b.find_id = f.id order by f.id'
    expect(after.$client.prepare(read).all()).toEqual([
      { id: 5, name: 'a.jpg', is_selected: 1, body: '{"id":"1"}' },
      { id: 6, name: 'b.jpg', is_selected: 0, body: '{"id":"2"}' },
    ])
    // With its listing, all of a find goes.
    after.$client.exec('delete from listings')
    expect(after.$client.prepare('select count(*) as left from find_bodies').get()).toEqual({ left: 0 })
    after.$client.close()
  })
})
