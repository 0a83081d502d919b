import { describe, expect, it } from 'vitest'
import { goneRows, madeDatabase, readRows, tableOf } from '../testing/databases'

const ROWS = 500

/** Tables without row ids (WITHOUT ROWID): their columns and rows. */
const KEYED = [
  ['word text primary key, means text, n integer', (at: number) => [`word ${at}`, 'm'.repeat(at % 90), at + 1]],
  ['id integer primary key, name text, phone text', (at: number) => [at, `Person ${at}`, `0163 ${1000 + at * 7}`]],
  [
    'chat text, number integer, body text, primary key (chat, number)',
    (at: number) => [`chat${at % 20}`, at, `This is message number ${at} of many`],
  ],
  ['setting text primary key, value text', (at: number) => [`setting.${at}`, `Value of ${at}: ${'x'.repeat(at % 40)}`]],
] as const

describe('rows of tables without row ids', () => {
  for (const [columns, rowAt] of KEYED)
    it(`that were deleted are found, and none is invented: ${columns}`, () => {
      const all = Array.from({ length: ROWS }, (_, at) => rowAt(at))
      const isGone = (at: number) => at % 13 === 5
      const files = madeDatabase((database) => {
        database.exec(`create table t(${columns}) without rowid`)
        const insert = database.prepare(`insert into t values (${all[0]!.map(() => '?').join()})`)
        database.transaction(() => all.forEach((row) => insert.run(...row)))()
        const key = columns.includes('primary key (') ? 2 : 1
        const names = columns
          .split(', ')
          .slice(0, key)
          .map((one) => one.split(' ')[0])
        const remove = database.prepare(`delete from t where ${names.map((name) => `${name} = ?`).join(' and ')}`)
        for (const [at, row] of all.entries()) if (isGone(at)) remove.run(...row.slice(0, key))
      })
      const report = readRows(files)
      const said = (values: readonly unknown[]) => JSON.stringify(values)
      const live = tableOf(report, 't').rows.filter(({ state }) => state === 'live')
      expect(live.map(({ values }) => said(values)).sort()).toEqual(
        all
          .filter((_, at) => !isGone(at))
          .map(said)
          .sort(),
      )
      const truth = new Set(all.filter((_, at) => isGone(at)).map(said))
      const found = goneRows(report, 't')
      for (const { values } of found) expect(truth).toContain(said(values))
      expect(found.length).toBeGreaterThanOrEqual(truth.size - 2)
      expect(found.every(({ state, rowid }) => state === 'deleted' && rowid === null)).toBe(true)
    })

  it('that live on under the same key are earlier versions', () => {
    const files = madeDatabase(
      (database) => {
        database.exec(`create table t(k text primary key, v text) without rowid; insert into t values ('lock', 'open')`)
        database.pragma('wal_checkpoint(TRUNCATE)')
        database.exec(`update t set v = 'shut' where k = 'lock'`)
      },
      ['journal_mode = WAL', 'wal_autocheckpoint = 0'],
    )
    expect(tableOf(readRows(files), 't').rows.map(({ state, values }) => [state, values])).toEqual([
      ['live', ['lock', 'shut']],
      ['earlier', ['lock', 'open']],
    ])
  })

  it('are not read from entries of ordinary indexes', () => {
    const files = madeDatabase((database) => {
      database.exec(`create table pairs(a text primary key, b text) without rowid;
        create table people(id integer primary key, name text); create index by_name on people(name, id)`)
      const insert = database.prepare('insert into people(name) values (?)')
      for (let at = 0; at < 300; at++) insert.run(`Person ${at}`)
      database.exec('delete from people where id % 4 = 0')
    })
    expect(tableOf(readRows(files), 'pairs').rows).toEqual([])
  })
})

describe('rows of tables of more than 120 columns', () => {
  it.each([130, 250])('that were deleted are found, of %i columns', (count) => {
    const names = Array.from({ length: count - 2 }, (_, at) => `c${at}`)
    const rowOf = (at: number) => [
      `reading ${at}`,
      ...names.map((_, column) => (column % 3 === 0 ? at * column : null)),
    ]
    const files = madeDatabase((database) => {
      const columns = names.map((name) => `${name} integer`).join()
      database.exec(`create table wide(id integer primary key, label text, ${columns})`)
      const insert = database.prepare(
        `insert into wide(label, ${names.join()}) values (${names.map(() => '?').join()}, ?)`,
      )
      for (let at = 1; at <= 60; at++) insert.run(...rowOf(at))
      database.exec('delete from wide where id % 6 = 2')
    })
    const report = readRows(files)
    expect(tableOf(report, 'wide').rows.filter(({ state }) => state === 'live')).toHaveLength(50)
    const found = goneRows(report, 'wide')
    const truth = new Map([2, 8, 14, 20, 26, 32, 38, 44, 50, 56].map((at) => [`reading ${at}`, rowOf(at)]))
    for (const { values } of found) expect(values.slice(1)).toEqual(truth.get(values[1] as string))
    expect(found.length).toBeGreaterThanOrEqual(9)
  })
})
