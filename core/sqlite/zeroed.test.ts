import type Sqlite from 'better-sqlite3'
import { describe, expect, it } from 'vitest'
import { goneRows, madeDatabase, readRows, type DatabaseFiles } from '../testing/databases'
import { bytesSource } from '../sources/source'
import { rowsOf } from './rows'

const SECTOR = 512
type Row = readonly [id: number, name: string | null, at: number, level: number | null, note: string | null]
const rowAt = (id: number): Row => [
  id,
  `Reading ${id}`,
  1_790_000_000 + id * 61,
  id % 4 === 0 ? null : id / 7 + 0.25,
  id % 3 === 0 ? null : `by hand, at gate ${id % 9}`,
]
const SCHEMA = 'create table readings(id integer primary key, name text, at integer, level real, note text)'

function fill(database: Sqlite.Database, count: number) {
  database.exec(SCHEMA)
  const insert = database.prepare('insert into readings values (?, ?, ?, ?, ?)')
  database.transaction(() => {
    for (let id = 1; id <= count; id++) insert.run(...rowAt(id))
  })()
}

/** Databases with rows that are gone in every way, and every row that ever stood in them. */
const made: readonly (readonly [what: string, files: DatabaseFiles, ever: readonly Row[]])[] = [
  [
    'deleted in place',
    madeDatabase((database) => {
      fill(database, 260)
      database.exec('delete from readings where id % 5 = 2')
    }),
    Array.from({ length: 260 }, (_, at) => rowAt(at + 1)),
  ],
  [
    'nearly all deleted, with free pages',
    madeDatabase((database) => {
      fill(database, 400)
      database.exec('delete from readings where id > 30')
    }),
    Array.from({ length: 400 }, (_, at) => rowAt(at + 1)),
  ],
  [
    'with older copies in the log',
    madeDatabase(
      (database) => {
        fill(database, 120)
        for (let round = 1; round <= 4; round++)
          database.exec(`update readings set at = at + 1 where id % 10 = ${round}`)
        database.exec('delete from readings where id % 10 = 7')
      },
      ['journal_mode = WAL', 'wal_autocheckpoint = 0'],
    ),
    Array.from({ length: 120 }, (_, at) => rowAt(at + 1)).flatMap((row): Row[] => [
      row,
      [row[0], row[1], row[2] + 1, row[3], row[4]],
    ]),
  ],
]

describe('where a sector is nothing but zeros', () => {
  for (const [what, files, ever] of made)
    it(`no row is invented: ${what}`, () => {
      const whole = new Set(ever.map((row) => JSON.stringify(row)))
      const byName = new Map<string, Row[]>()
      for (const row of ever) byName.set(row[1]!, [...(byName.get(row[1]!) ?? []), row])
      const before = goneRows(readRows(files), 'readings').length
      expect(before).toBeGreaterThan(10)
      const parts = { bytes: files.bytes, ...(files.wal ? { wal: files.wal } : {}) }
      let looked = 0
      for (const [part, original] of Object.entries(parts))
        for (let at = SECTOR; at + SECTOR <= original.length; at += SECTOR) {
          if (original.subarray(at, at + SECTOR).every((byte) => byte === 0)) continue
          const damaged = original.slice()
          damaged.fill(0, at, at + SECTOR)
          const now = { ...files, [part]: damaged }
          const report = rowsOf(bytesSource(now.bytes), { wal: now.wal ?? null })
          if ('fault' in report) continue
          for (const row of report.tables.find(({ name }) => name === 'readings')?.rows ?? []) {
            looked++
            const [id, name, ...rest] = row.values
            if (row.complete) {
              // What has lost its row id may still have all else.
              const isKnown = whole.has(JSON.stringify(row.values))
              expect(isKnown, `${part} zeroed at ${at}: ${row.state} ${row.source} ${JSON.stringify(row.values)}`).toBe(
                true,
              )
            } else if (row.state !== 'live') {
              const same = (byName.get(name as string) ?? []).some(
                (one) =>
                  (id === null || id === one[0]) &&
                  rest.every((value, column) => value === null || value === one[column + 2]),
              )
              expect(same, `${part} zeroed at ${at}: ${row.state} ${row.source} ${JSON.stringify(row.values)}`).toBe(
                true,
              )
            }
          }
        }
      expect(looked).toBeGreaterThan(1000)
    })
})
