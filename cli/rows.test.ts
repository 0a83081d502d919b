import Sqlite from 'better-sqlite3'
import { chmodSync, mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { RowsReport } from '../core/sqlite/rows-report'
import { madeDatabase } from '../core/testing/databases'
import { lantern } from '../tests/support/captured'
import { rowsCommand } from './rows'

const folder = mkdtempSync(join(tmpdir(), 'lantern-cli-rows-'))
const file = join(folder, 'notes.sqlite')
const report = join(folder, 'report.json')
afterAll(() => rmSync(folder, { recursive: true }))

beforeAll(() => {
  const database = new Sqlite(file)
  database.pragma('secure_delete = 0')
  database.exec(`create table notes(id integer primary key, body text);
    insert into notes(body) values ('Grease the sluice'), ('Ring the mill'), ('Buy rope');
    delete from notes where id = 2`)
  database.close()
})

describe('lantern rows', () => {
  it('writes a report in the documented shape, and leaves the file as it was', async () => {
    const before = readFileSync(file)
    const { mtimeMs } = statSync(file)
    chmodSync(file, 0o444)
    const { stdout, stderr } = await lantern('rows', file, '--report', report)
    expect(stdout).toBe('')
    expect(stderr).toBe('1 table: 2 live rows, 1 deleted, 0 earlier versions\n')
    const { tables } = RowsReport.parse(JSON.parse(readFileSync(report, 'utf8')))
    expect(tables[0]).toMatchObject({ name: 'notes', columns: ['id', 'body'] })
    expect(tables[0]!.rows.map((row) => [row.state, row.values[1]])).toEqual([
      ['live', 'Grease the sluice'],
      ['live', 'Buy rope'],
      ['deleted', 'Ring the mill'],
    ])
    expect(readFileSync(file)).toEqual(before)
    expect(statSync(file).mtimeMs).toBe(mtimeMs)
  })

  it.each([
    ['a file that is not there', () => join(folder, 'none.sqlite'), () => report, 'none.sqlite: is not there'],
    ['a folder', () => folder, () => report, 'is not a file'],
    [
      'what is no database',
      () => text('poem.txt', 'x'.repeat(300)),
      () => report,
      'poem.txt: is not an SQLite database',
    ],
    ['an empty file', () => text('empty.sqlite', ''), () => report, 'empty.sqlite: is too short to be a database'],
    ['a report over the database', () => file, () => file, '--report: would overwrite the source'],
    ['a report in no folder', () => file, () => join(folder, 'no', 'r.json'), 'r.json: cannot be written (ENOENT)'],
  ])('says of %s what is wrong, on one line', (_, source, to, words) => {
    const outcome = rowsCommand(source(), { report: to() })
    expect('faults' in outcome && outcome.faults).toEqual([expect.stringContaining(words)])
  })
})

describe('a log beside the database', () => {
  it('of a transaction that never ended is played back, said, and left where it is', async () => {
    const { bytes, journal } = madeDatabase(
      (database) => {
        database.exec('create table notes(id integer primary key, body text)')
        const insert = database.prepare('insert into notes(body) values (?)')
        for (let at = 1; at <= 200; at++) insert.run(`Grease sluice ${at} before the frost`)
        database.pragma('cache_size = 2')
        database.exec('begin; delete from notes')
      },
      ['journal_mode = DELETE', 'cache_spill = 2'],
    )
    const other = join(folder, 'crashed.sqlite')
    writeFileSync(other, bytes)
    writeFileSync(`${other}-journal`, journal!)
    const { stderr } = await lantern('rows', other, '--report', report)
    const [warning, summary] = stderr.trimEnd().split('\n')
    expect(warning).toMatch(/unfinished/)
    expect(summary).toMatch(/^1 table: 200 live rows/)
    expect(RowsReport.parse(JSON.parse(readFileSync(report, 'utf8'))).warnings).toEqual([warning])
    expect([new Uint8Array(readFileSync(other)), new Uint8Array(readFileSync(`${other}-journal`))]).toEqual([
      bytes,
      journal,
    ])
  })

  it('that is too large to be read is refused, not left out', () => {
    const other = text('large.sqlite', readFileSync(file, 'latin1'))
    writeFileSync(`${other}-wal`, '')
    truncateSync(`${other}-wal`, 2 ** 30 + 1)
    const outcome = rowsCommand(other, { report })
    expect('faults' in outcome && outcome.faults).toEqual([
      expect.stringMatching(/^large\.sqlite-wal: is larger than /),
    ])
  })
})

function text(name: string, content: string) {
  writeFileSync(join(folder, name), content)
  return join(folder, name)
}
