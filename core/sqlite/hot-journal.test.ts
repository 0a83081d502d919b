import { describe, expect, it } from 'vitest'
import { goneRows, madeDatabase, readByLibrary, readRows, tableOf } from '../testing/databases'

/** A database in the middle of a transaction that has spilled to its file already, as a crash leaves it. */
const crashed = (change: string) =>
  madeDatabase(
    (database) => {
      database.exec('create table notes(id integer primary key, body text)')
      const insert = database.prepare('insert into notes(body) values (?)')
      database.transaction(() => {
        for (let at = 1; at <= 400; at++) insert.run(`A note about sluice ${at}, ${'written by hand '.repeat(at % 5)}`)
      })()
      database.pragma('cache_size = 2')
      database.exec(`begin; ${change}`)
    },
    ['journal_mode = DELETE', 'cache_spill = 2'],
  )

describe('a journal of a transaction that never ended', () => {
  it.each([
    ["update notes set body = 'changed ' || id where id % 3 = 0", 'earlier'],
    ['delete from notes where id > 100', 'live'],
    [
      "insert into notes(body) with recursive n(i) as (select 1 union all select i + 1 from n where i < 300) select 'never committed ' || i from n",
      'deleted',
    ],
  ])('is played back as the library would: %s', (change, state) => {
    const files = crashed(change)
    expect(files.journal!.length).toBeGreaterThan(512)
    const report = readRows(files)
    const live = tableOf(report, 'notes').rows.filter((row) => row.state === 'live')
    expect(live.map(({ values }) => values)).toEqual(readByLibrary(files, 'select id, body from notes order by id'))
    expect(live).toHaveLength(400)
    expect(report.warnings).toEqual([expect.stringContaining('unfinished')])
    const written = goneRows(report, 'notes')
    if (state === 'earlier') expect(written.some(({ values }) => /^changed \d+$/.test(values[1] as string))).toBe(true)
    if (state === 'deleted') {
      const fresh = written.filter(({ values }) => /^never committed \d+$/.test(values[1] as string))
      expect(fresh.length).toBeGreaterThan(50)
      expect(fresh.every((row) => row.state === 'deleted')).toBe(true)
    }
  })

  it('is left alone where its header was cleared, or belongs to pages of another size', () => {
    const files = crashed('delete from notes where id > 100')
    const cleared = files.journal!.slice()
    cleared.fill(0, 0, 28)
    expect(readRows({ ...files, journal: cleared }).warnings).toEqual([])
    const other = files.journal!.slice()
    new DataView(other.buffer).setUint32(24, 1024)
    expect(readRows({ ...files, journal: other }).warnings).toEqual([])
  })

  it('is believed as far as its checksums agree', () => {
    const files = crashed("update notes set body = 'changed ' || id where id % 3 = 0")
    const [sector, recordBytes] = [512, 4096 + 8]
    const counts = Array.from({ length: Math.floor((files.journal!.length - sector) / recordBytes) }, (_, record) => {
      const journal = files.journal!.slice()
      journal[sector + (record + 1) * recordBytes - 1]! ^= 0xff
      const live = tableOf(readRows({ ...files, journal }), 'notes').rows.filter((row) => row.state === 'live')
      return live.filter(({ values }) => /^changed/.test(values[1] as string)).length
    })
    // The earlier the record that is damaged, the fewer pages are given back.
    expect(counts.length).toBeGreaterThan(3)
    expect(counts).toEqual([...counts].sort((a, b) => b - a))
    expect(counts[0]).toBeGreaterThan(counts.at(-1)!)
  })
})
