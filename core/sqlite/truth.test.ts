import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { bytesSource } from '../sources/source'
import { rowsOf } from './rows'

let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'lantern-truth-'))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

interface Written {
  readonly name: string
  readonly body: string
}

interface Setting {
  readonly words: string
  readonly secure?: boolean
  readonly vacuum?: boolean
  readonly wal?: boolean
  /** characters of each body */
  readonly long?: number
  /** which of the rows are deleted */
  readonly deletes: (at: number) => boolean
  /** what may be gone of the deleted ones whose bytes are all there: nothing, unless said */
  readonly expects: 'all that the bytes hold' | 'none'
}

const COUNT = 240
const settings: readonly Setting[] = [
  { words: 'every fifth row, no vacuum', deletes: (at) => at % 5 === 0, expects: 'all that the bytes hold' },
  { words: 'a stretch of rows, no vacuum', deletes: (at) => at >= 60 && at < 150, expects: 'all that the bytes hold' },
  { words: 'every row but a few, no vacuum', deletes: (at) => at % 40 !== 0, expects: 'all that the bytes hold' },
  { words: 'vacuumed afterwards', vacuum: true, deletes: (at) => at % 5 === 0, expects: 'none' },
  { words: 'secure delete on', secure: true, deletes: (at) => at % 5 === 0, expects: 'none' },
  {
    words: 'with a write-ahead log beside it',
    wal: true,
    deletes: (at) => at % 5 === 0,
    expects: 'all that the bytes hold',
  },
  { words: 'with overflow pages', long: 9000, deletes: (at) => at % 6 === 0, expects: 'all that the bytes hold' },
]

const varint = (value: number): number[] => (value < 128 ? [value] : [0x80 | (value >> 7), value & 0x7f])

/** The bytes of a row's record: its head and its two texts (file format, section 2.1). */
function recordBytes({ name, body }: Written): Buffer {
  const serials = [0, ...[name, body].map((text) => 13 + 2 * Buffer.byteLength(text))].flatMap((one, at) =>
    at === 0 ? [0] : varint(one),
  )
  return Buffer.concat([Buffer.from([serials.length + 1, ...serials]), Buffer.from(name + body)])
}

function make({ secure, vacuum, wal, long, deletes }: Setting, at: number) {
  const path = join(folder, `${at}.sqlite`)
  const database = new Sqlite(path)
  database.pragma(`secure_delete = ${secure ? 'ON' : 'OFF'}`)
  database.pragma(`journal_mode = ${wal ? 'WAL' : 'DELETE'}`)
  database.exec('create table notes(id integer primary key, name text, body text)')
  const rows = Array.from({ length: COUNT }, (_, row): Written => ({
    name: `note number ${row}`,
    body: `${row} ${'abcdefghij'.repeat(1200)}`.slice(0, long ?? 30 + (row % 50)) + `<${row}>`,
  }))
  const insert = database.prepare('insert into notes(name, body) values(?, ?)')
  database.transaction(() => rows.forEach((row) => insert.run(row.name, row.body)))()
  const gone = rows.filter((_, row) => deletes(row))
  const remove = database.prepare('delete from notes where name = ?')
  for (const row of gone) remove.run(row.name)
  if (vacuum) database.exec('vacuum')
  // Copied while it is open: closing would take the log in.
  const files = { main: readFileSync(path), wal: existsSync(`${path}-wal`) ? readFileSync(`${path}-wal`) : null }
  database.close()
  return { rows, gone, files }
}

describe('the truth about deleted rows', () => {
  for (const [at, setting] of settings.entries())
    it(`${setting.words}: found is ${setting.expects}, and nothing is invented`, () => {
      const { rows, gone, files } = make(setting, at)
      const report = rowsOf(bytesSource(files.main), { wal: files.wal })
      if ('fault' in report) throw new Error(report.fault)
      const found = report.tables.find((table) => table.name === 'notes')!.rows
      const textsOf = (values: readonly unknown[]) => `${String(values[1])}|${String(values[2])}`
      const live = found.filter((row) => row.state === 'live').map((row) => textsOf(row.values))
      expect(live.sort()).toEqual(
        rows
          .filter((row) => !gone.includes(row))
          .map((row) => `${row.name}|${row.body}`)
          .sort(),
      )

      const deleted = found.filter((row) => row.state !== 'live')
      const truth = new Set(gone.map((row) => `${row.name}|${row.body}`))
      // None is invented: whatever is called complete had stood there, word for word.
      for (const row of deleted.filter((one) => one.complete)) expect(truth).toContain(textsOf(row.values))

      const complete = new Set(deleted.filter((one) => one.complete).map((row) => textsOf(row.values)))
      const inBytes = (bytes: Buffer) => files.main.includes(bytes) || (files.wal?.includes(bytes) ?? false)
      const whole = setting.long ? [] : gone.filter((row) => inBytes(recordBytes(row)))
      for (const row of whole) expect(complete, row.name).toContain(`${row.name}|${row.body}`)

      // A free block writes over the head: rebuilt where the types leave one reading.
      const seen = new Set(deleted.map((row) => textsOf(row.values)))
      const headless = setting.long
        ? []
        : gone.filter((row) => !whole.includes(row) && inBytes(Buffer.from(row.name + row.body)))
      const rebuilt = headless.filter((row) => seen.has(`${row.name}|${row.body}`))
      if (setting.expects === 'none') expect(deleted).toEqual([])
      else if (!setting.long) {
        expect(whole.length + headless.length).toBeGreaterThan(0)
        expect(rebuilt.length).toBeGreaterThanOrEqual(Math.floor(headless.length * 0.9))
      } else expect([...truth].filter((row) => seen.has(row)).length).toBeGreaterThan(gone.length * 0.8)
      figures.push(
        `${setting.words}: ${gone.length} deleted, ${whole.length} whole in the bytes, ${headless.length} without head; ${complete.size} found whole, ${rebuilt.length} rebuilt`,
      )
    })
})

const figures: string[] = []
afterAll(() => {
  if (process.env.LANTERN_FIGURES) console.log(figures.join('\n'))
})
