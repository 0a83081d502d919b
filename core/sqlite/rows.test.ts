import type Sqlite from 'better-sqlite3'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bytesSource } from '../sources/source'
import { chanceFrom } from '../testing/chance-from'
import {
  goneRows as gone,
  madeDatabase as databaseFiles,
  readRows as read,
  tableOf as table,
} from '../testing/databases'
import type { Value } from './record'
import { treePage } from './page'
import { rowsOf } from './rows'
import { RowsReport, rowValue } from './rows-report'

const PEOPLE = ['Ida Farrow', 'Noor Halden', 'Pell Amory', 'Tove Brandt', 'Ansel Quick', 'Mira Strand']
const person = (index: number) => `${PEOPLE[index % PEOPLE.length]} ${index}`
const CONTACTS = 'create table contacts(id integer primary key, name text not null, phone text, starred integer)'

function contacts(database: Sqlite.Database, count: number) {
  database.exec(CONTACTS)
  const insert = database.prepare('insert into contacts values (?, ?, ?, ?)')
  database.transaction(() => {
    for (let index = 1; index <= count; index++) insert.run(index, person(index), `07700 900${100 + index}`, index % 7)
  })()
}

describe('live rows', () => {
  it('are those that the library reads, of every kind of value and table', () => {
    const blob = Buffer.from([0, 1, 254, 255])
    const files = databaseFiles((database) => {
      database.exec(`
        create table "odd ""name"" (x)"(a, [b c] integer, \`d\` real default 2.5, 'e' text collate nocase, f blob);
        create table keyed(word text primary key, means text, n integer, check (n > 0)) without rowid;
        create table grown(id integer primary key, first text); -- a comment, with commas
        create table made(a integer, twice integer generated always as (a * 2) virtual, kept integer as (a + 1) stored);
        create view seen as select * from grown; create index by_first on grown(first);
        insert into grown(first) values ('one'), ('two');
        alter table grown add column since integer default 7; alter table grown add column note text default 'none yet';
        insert into grown(first, since, note) values ('three', null, '');
        insert into made(a) values (3)`)
      const odd = database.prepare('insert into "odd ""name"" (x)" values (?, ?, ?, ?, ?)')
      odd.run(null, 1, 0.5, 'grün', blob)
      odd.run('x'.repeat(30_000), 9007199254740993n, 3, '', Buffer.alloc(0))
      odd.run(-128, -32_769, -1e300, 'a\nb', Buffer.alloc(5000, 7))
      const keyed = database.prepare('insert into keyed values (?, ?, ?)')
      for (let index = 0; index < 900; index++) keyed.run(`word ${index}`, 'm'.repeat(index % 90), index + 1)
    })
    const report = read(files)
    const odd = table(report, 'odd "name" (x)')
    expect(odd.columns).toEqual(['a', 'b c', 'd', 'e', 'f'])
    expect(odd.rows.map((row) => row.values)).toEqual([
      [null, 1, 0.5, 'grün', { blob: '0001feff' }],
      ['x'.repeat(30_000), { int: '9007199254740993' }, 3, '', { blob: '' }],
      [-128, -32_769, -1e300, 'a\nb', { blob: '07'.repeat(5000) }],
    ])
    expect(table(report, 'grown').rows.map((row) => row.values)).toEqual([
      [1, 'one', 7, 'none yet'],
      [2, 'two', 7, 'none yet'],
      [3, 'three', null, ''],
    ])
    expect(table(report, 'made')).toMatchObject({ columns: ['a', 'kept'], rows: [{ values: [3, 4] }] })
    const keyed = table(report, 'keyed')
    expect(keyed.columns).toEqual(['word', 'means', 'n'])
    expect(new Set(keyed.rows.map((row) => row.values[0])).size).toBe(900)
    expect(keyed.rows.every((row) => row.state === 'live' && row.complete)).toBe(true)
    expect(keyed.rows.find((row) => row.values[0] === 'word 89')!.values).toEqual(['word 89', 'm'.repeat(89), 90])
  })

  it.each(['UTF-16le', 'UTF-16be', 'UTF-8'])('are read in %s, with pages of any size', (encoding) => {
    for (const size of [512, 4096, 65_536]) {
      const files = databaseFiles(
        (database) => contacts(database, 300),
        [`encoding = '${encoding}'`, `page_size = ${size}`],
      )
      const rows = table(read(files), 'contacts').rows
      expect(rows).toHaveLength(300)
      expect(rows[41]).toEqual({
        state: 'live',
        rowid: 42,
        values: [42, person(42), '07700 900142', 0],
        source: 'btree',
        complete: true,
      })
    }
  })
})

describe('deleted rows', () => {
  it('are found in free blocks and free space, none twice, and none that never was', () => {
    const files = databaseFiles((database) => {
      contacts(database, 400)
      database.exec('delete from contacts where id % 10 = 3')
    })
    const found = gone(read(files), 'contacts')
    const truth = new Map(Array.from({ length: 40 }, (_, index) => [person(index * 10 + 3), index * 10 + 3]))
    const names = found.map((row) => row.values[1] as string)
    expect(new Set(names).size).toBe(names.length)
    for (const row of found) {
      const id = truth.get(row.values[1] as string)
      expect(id).toBeDefined()
      expect(row.values.slice(2)).toEqual([`07700 900${100 + id!}`, id! % 7])
      // The row id went with the head of the cell: it is not known, and said not to be.
      expect(row.rowid === id || (row.rowid === null && row.values[0] === null && !row.complete)).toBe(true)
    }
    expect(names.length).toBeGreaterThanOrEqual(38)
  })

  it('that were adjacent are separated', () => {
    const files = databaseFiles((database) => {
      contacts(database, 60)
      database.exec('delete from contacts where id between 20 and 29')
    })
    const names = gone(read(files), 'contacts').map((row) => row.values[1])
    expect(names.sort()).toEqual(Array.from({ length: 10 }, (_, index) => person(20 + index)).sort())
  })

  it('of a narrow table that were adjacent and deleted one after the other are separated', () => {
    for (const order of ['asc', 'desc']) {
      const files = databaseFiles((database) => {
        database.exec('create table notes(id integer primary key, body text)')
        const insert = database.prepare('insert into notes(body) values (?)')
        for (let index = 1; index <= 40; index++)
          insert.run(`Note ${index}: ${'grease the sluice '.repeat(1 + (index % 3))}`)
        const ids = Array.from({ length: 9 }, (_, index) => (order === 'asc' ? 12 + index : 20 - index))
        for (const id of ids) database.prepare('delete from notes where id = ?').run(id)
      })
      const bodies = gone(read(files), 'notes').map((row) => row.values[1])
      expect(bodies.sort()).toEqual(
        Array.from({ length: 9 }, (_, index) => 12 + index)
          .map((id) => `Note ${id}: ${'grease the sluice '.repeat(1 + (id % 3))}`)
          .sort(),
      )
    }
  })

  it('of a table without its own number have their first column rebuilt from the room it took', () => {
    const files = databaseFiles((database) => {
      database.exec('create table calls(number text, begun integer, seconds integer)')
      const insert = database.prepare('insert into calls values (?, ?, ?)')
      for (let index = 0; index < 50; index++) insert.run(`0163296${1000 + index}`, 1_790_000_000 + index, 100 + index)
      database.exec('delete from calls where rowid in (10, 20, 30)')
    })
    const found = gone(read(files), 'calls')
    expect(found.map((row) => row.values).sort()).toEqual([
      ['01632961009', 1_790_000_009, 109],
      ['01632961019', 1_790_000_019, 119],
      ['01632961029', 1_790_000_029, 129],
    ])
    expect(found.every((row) => row.state === 'deleted' && row.source === 'freeblock' && !row.complete)).toBe(true)
  })

  it('of whole pages come from the free list, the dropped table with its name', () => {
    const files = databaseFiles((database) => {
      contacts(database, 500)
      database.exec('create table notes(id integer primary key, body text)')
      const insert = database.prepare('insert into notes(body) values (?)')
      for (let index = 0; index < 200; index++) insert.run(`A note about the weir, number ${index}`)
      database.exec('drop table notes; delete from contacts')
    })
    const report = read(files)
    const kept = gone(report, 'contacts')
    expect(table(report, 'contacts').rows.every((row) => row.state === 'deleted')).toBe(true)
    for (const row of kept) expect(row.values[1]).toBe(person(row.rowid as number))
    // What is still there was counted by searching the bytes.
    const text = new TextDecoder('latin1').decode(files.bytes)
    const there = Array.from({ length: 500 }, (_, index) => index + 1).filter((id) =>
      text.includes(`${person(id)}07700 900${100 + id}`),
    )
    expect(there.length).toBeGreaterThan(250)
    expect(kept.length).toBeGreaterThanOrEqual(there.length - 3)
    expect(kept.some((row) => row.source === 'freelist')).toBe(true)
    const notes = gone(report, 'notes').filter((row) =>
      /^A note about the weir, number \d+$/.test(row.values[1] as string),
    )
    const written = Array.from({ length: 200 }, (_, index) => `A note about the weir, number ${index}`)
    const left = written.filter((body) => new RegExp(`${body}(?!\\d)`).test(text))
    expect(left.length).toBeGreaterThan(100)
    expect(notes.length).toBeGreaterThanOrEqual(left.length - 3)
  })

  it('of one that lives on are earlier versions of it', () => {
    const files = databaseFiles((database) => {
      contacts(database, 40)
      database.exec(`update contacts set name = 'A much longer name than before, so that it moves' where id = 20`)
    })
    const before = gone(read(files), 'contacts')
    expect(before).toMatchObject([{ state: 'earlier', source: 'freeblock' }])
    expect(before[0]!.values.slice(1)).toEqual([person(20), '07700 900120', 6])
  })
})

describe('any table, filled, changed and emptied at random', () => {
  const kinds = ['text', 'integer', 'real', 'blob', 'varchar(20)', 'datetime', 'text not null', 'integer not null']

  /** What one such table was, what it is, and what is read of it. */
  function tried(seed: number) {
    const random = chanceFrom(seed)
    const upTo = (most: number) => Math.floor(random() * most)
    const columns = Array.from({ length: 1 + upTo(7) }, () => kinds[upTo(kinds.length)]!)
    const hasId = random() < 0.5
    const names = columns.map((_, index) => `c${index}`).join()
    const valueFor = (kind: string): unknown => {
      if (!kind.includes('not null') && random() < 0.1) return null
      if (kind.startsWith('integer')) return [0, 1, upTo(100), upTo(60_000), -upTo(2 ** 31), upTo(2 ** 45)][upTo(6)]
      if (kind === 'real') return random() * 1000
      if (kind === 'blob') return Buffer.from(Array.from({ length: 1 + upTo(30) }, () => upTo(256)))
      return ['ok', 'Weir Lane', 'Ünderhill ', 'n'.repeat(upTo(120))][upTo(4)]! + upTo(1000)
    }
    const said = (values: readonly unknown[]) =>
      JSON.stringify(values.map((value) => rowValue((Buffer.isBuffer(value) ? new Uint8Array(value) : value) as Value)))
    const ever = new Set<string>()
    let live: string[] = []
    const files = databaseFiles(
      (database) => {
        const defined = columns.map((kind, index) => `c${index} ${kind}`)
        database.exec(`create table t(${[...(hasId ? ['id integer primary key'] : []), ...defined].join(', ')})`)
        const insert = database.prepare(`insert into t(${names}) values (${columns.map(() => '?').join()})`)
        const note = () => {
          live = (database.prepare(`select ${names} from t`).raw().all() as unknown[][]).map(said)
          for (const row of live) ever.add(row)
        }
        for (let round = 0; round < 4; round++) {
          database.transaction(() => {
            for (let index = upTo(40); index >= 0; index--) insert.run(...columns.map(valueFor))
          })()
          note()
          database.prepare('delete from t where rowid % ? = ?').run(2 + upTo(5), upTo(2))
          database.prepare('update t set c0 = ? where rowid % 9 = 4').run(valueFor(columns[0]!))
          note()
        }
      },
      [`page_size = ${[512, 1024, 4096][upTo(3)]}`],
    )
    const rows = table(read(files), 't').rows
    const own = (values: readonly unknown[]) => JSON.stringify(hasId ? values.slice(1) : values)
    return { rows, own, live, ever }
  }

  it('reports every live row once, and hardly a whole row that never stood there', () => {
    let whole = 0
    let invented = 0
    for (let seed = 1; seed <= 60; seed++) {
      const { rows, own, live, ever } = tried(seed)
      const lives = rows.filter((row) => row.state === 'live').map((row) => own(row.values))
      expect(lives.sort()).toEqual([...live].sort())
      for (const row of rows.filter((one) => one.state !== 'live' && one.complete)) {
        whole++
        if (!ever.has(own(row.values))) invented++
      }
    }
    expect(whole).toBeGreaterThan(250)
    expect(invented / whole).toBeLessThan(0.01)
  })
})

describe('the files beside a database', () => {
  it('the log: what is committed is live, what it replaced is earlier or deleted', () => {
    const files = databaseFiles(
      (database) => {
        contacts(database, 30)
        database.pragma('wal_checkpoint(TRUNCATE)')
        database.exec(`update contacts set phone = 'new' where id = 7; delete from contacts where id = 9`)
        database.exec(`insert into contacts values (31, 'Late Comer', null, 0)`)
      },
      ['journal_mode = WAL', 'wal_autocheckpoint = 0'],
    )
    expect(files.wal!.length).toBeGreaterThan(0)
    const rows = table(read(files), 'contacts').rows
    const of = (id: number) => rows.filter((row) => row.rowid === id)
    expect(of(7).map(({ state, values }) => [state, values[2]])).toEqual([
      ['live', 'new'],
      ['earlier', '07700 900107'],
    ])
    expect(of(9)).toMatchObject([{ state: 'deleted', values: [9, person(9), '07700 900109', 2] }])
    expect(of(31)).toMatchObject([{ state: 'live', values: [31, 'Late Comer', null, 0] }])
    // Without its log the database is what it was at the last checkpoint.
    expect(table(read({ bytes: files.bytes }), 'contacts').rows).toHaveLength(30)
  })

  it('the rollback journal keeps what the last change replaced, also once its head was cleared', () => {
    const files = databaseFiles(
      (database) => {
        contacts(database, 30)
        database.exec('delete from contacts where id > 5')
      },
      ['journal_mode = PERSIST'],
    )
    expect(files.journal!.length).toBeGreaterThan(0)
    const found = gone(read(files), 'contacts')
    expect(found.map((row) => row.values[1]).sort()).toEqual(
      Array.from({ length: 25 }, (_, index) => person(index + 6)).sort(),
    )
    expect(found.some((row) => row.source === 'journal' && row.rowid !== null)).toBe(true)
  })
})

describe('bytes of any kind', () => {
  const sound = databaseFiles(
    (database) => {
      contacts(database, 120)
      database.exec(
        `delete from contacts where id % 3 = 0; insert into contacts values (900, '${'long '.repeat(900)}', '', 0)`,
      )
    },
    ['page_size = 1024'],
  )

  it('never throw, never hang, and report in the documented shape', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(sound.bytes.length - 1), fc.nat(255)), { minLength: 1, maxLength: 60 }),
        fc.nat(sound.bytes.length),
        (changes, length) => {
          const bytes = sound.bytes.slice(0, Math.max(100, length))
          for (const [at, byte] of changes) if (at < bytes.length) bytes[at] = byte
          const report = rowsOf(bytesSource(bytes), { wal: bytes.subarray(0, 4000), journal: bytes.subarray(0, 9000) })
          expect('fault' in report || RowsReport.safeParse(report).success).toBe(true)
        },
      ),
      { numRuns: 150 },
    )
  })

  it('a page whose cell would reach beyond its end is not read as one', () => {
    const page = new Uint8Array(1024)
    const view = new DataView(page.buffer)
    const pageOf = (kind: number, cell: number) => {
      page[0] = kind
      view.setUint16(3, 1)
      view.setUint16(5, cell)
      view.setUint16(kind === 5 || kind === 2 ? 12 : 8, cell)
      return treePage(page, 1024, false)
    }
    for (const kind of [2, 5, 10, 13]) {
      expect(pageOf(kind, 1020)?.cells, `kind ${kind}`).toEqual([1020])
      for (const cell of [1021, 1023, 1024]) expect(pageOf(kind, cell), `kind ${kind} at ${cell}`).toBeNull()
    }
  })

  it('that are no database are said to be none', () => {
    expect(rowsOf(bytesSource(new Uint8Array(20)))).toEqual({ fault: 'is too short to be a database' })
    expect(rowsOf(bytesSource(new Uint8Array(4096)))).toEqual({ fault: 'is not an SQLite database' })
    const odd = sound.bytes.slice()
    odd[16] = 3
    expect(rowsOf(bytesSource(odd))).toHaveProperty('fault')
  })

  it('every value has its place in JSON', () => {
    expect([null, 5, 2n ** 60n, 'x', Uint8Array.of(255), Infinity].map(rowValue)).toEqual([
      null,
      5,
      { int: '1152921504606846976' },
      'x',
      { blob: 'ff' },
      null,
    ])
  })
})
