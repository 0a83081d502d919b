import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { defaultPlaybook } from '../../core/playbook/playbook'
import { adoptEarlierCases } from '../cases/adopt'
import { logCase } from '../cases/writing/log'
import { MISDATED } from './data-folder'
import { closeDatabase, openDatabase, type Database } from './open'

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

  const { entries } = JSON.parse(readFileSync(join(migrations, 'meta/_journal.json'), 'utf8')) as {
    entries: { when: number }[]
  }
  const tablesOf = (database: Database) =>
    database.$client.prepare('select type, name, sql from sqlite_master order by type, name').all()

  it.each(entries.map((_, at) => at + 1))('of %i migrations becomes what a new shop is', (count) => {
    const fresh = openDatabase(join(folder, `fresh-${count}`), migrations)
    const path = join(folder, `of-${count}`)
    const before = openDatabase(path, earlier(count))
    // As the migrations were recorded while one of them was dated wrongly.
    const wrong = before.$client.prepare('update __drizzle_migrations set created_at = ? where created_at = ?')
    wrong.run(MISDATED.wrong, MISDATED.right)
    before.$client.close()
    const after = openDatabase(path, migrations)
    expect(tablesOf(after)).toEqual(tablesOf(fresh))
    for (const { $client: client } of [fresh, after]) client.close()
    openDatabase(path, migrations).$client.close()
  })

  it('has its migrations dated in their order: one behind an earlier date would never be found', () => {
    const dates = entries.map(({ when }) => when)
    expect(dates).toEqual(dates.toSorted((one, other) => one - other))
    expect(new Set(dates).size).toBe(dates.length)
  })

  it('has cases that get the same identity each time it is put back, and another in another shop', () => {
    const backup = join(folder, 'backup')
    const shop = openDatabase(backup, migrations)
    const facts = [{ fact: 'client.name', is: 'Maud Oxley' }]
    for (const now of [0, 1]) logCase(shop, facts, defaultPlaybook(), { by: 'Jory', now })
    shop.$client.exec(
      "update cases set identity = null, ended_at = null, body = json_remove(body, '$.identity', '$.wiping')",
    )
    shop.$client.exec(
      "update cases set body = json_set(body, '$.state.name', 'closed', '$.state.since', '2026-11-01T00:00:00Z') where id = 1",
    )
    closeDatabase(shop)
    const identities = ['one', 'two'].map((name) => {
      cpSync(backup, join(folder, name), { recursive: true })
      const database = openDatabase(join(folder, name), migrations)
      adoptEarlierCases(database)
      const rows = database.$client.prepare('select identity, ended_at from cases order by id').all() as {
        identity: string
        ended_at: number | null
      }[]
      expect(rows.map((row) => row.ended_at)).toEqual([Date.UTC(2026, 10, 1), null])
      database.$client.close()
      return rows.map(({ identity }) => identity)
    })
    expect(identities[0]).toEqual(identities[1])
    expect(new Set(identities[0]).size).toBe(2)
    for (const identity of identities[0]!) expect(identity).toMatch(/^[0-9a-f-]{13}-8/)
  })
})
