import Sqlite from 'better-sqlite3'
import type { AppRecord, RecordKind, RecordOf } from '../../core/records/record'

type Cell = string | number | null

interface Shape {
  /** the name under which a stand-in shows the app */
  readonly app: string
  readonly create: string
  readonly insert: string
  readonly values: (record: never) => Cell[]
}

const seconds = (iso: string | null) => (iso === null ? null : Math.floor(Date.parse(iso) / 1000))
const ms = (iso: string | null) => (iso === null ? null : Date.parse(iso))

/** The table in which each app of the stand-ins keeps its rows; times in seconds or milliseconds, as apps differ. */
const SHAPES = {
  contact: {
    app: 'Contacts',
    create:
      'create table contacts(id integer primary key, name text, phone text, mobile text, mail text, company text, note text)',
    insert: 'insert into contacts(name, phone, mobile, mail, company, note) values(?, ?, ?, ?, ?, ?)',
    values: (one: RecordOf<'contact'>) => [
      one.name,
      one.phones[0] ?? null,
      one.phones[1] ?? null,
      one.mails[0] ?? null,
      one.organisation || null,
      one.note || null,
    ],
  },
  message: {
    app: 'Messages',
    create:
      'create table messages(id integer primary key, thread text, outgoing integer, body text, sent_at integer, attachments text)',
    insert: 'insert into messages(thread, outgoing, body, sent_at, attachments) values(?, ?, ?, ?, ?)',
    values: (one: RecordOf<'message'>) => [
      one.thread,
      one.isMine ? 1 : 0,
      one.text,
      ms(one.at),
      one.attachments.length > 0 ? one.attachments.join(';') : null,
    ],
  },
  call: {
    app: 'Calls',
    create:
      'create table calls(id integer primary key, number text, name text, date integer, duration integer, direction text)',
    insert: 'insert into calls(number, name, date, duration, direction) values(?, ?, ?, ?, ?)',
    values: (one: RecordOf<'call'>) => [one.number, one.name || null, seconds(one.at), one.seconds, one.direction],
  },
  note: {
    app: 'Notes',
    create: 'create table notes(id integer primary key, title text, body text, modified integer)',
    insert: 'insert into notes(title, body, modified) values(?, ?, ?)',
    values: (one: RecordOf<'note'>) => [one.title, one.text, seconds(one.changed)],
  },
  bookmark: {
    app: 'Browser',
    create: 'create table bookmarks(id integer primary key, title text, url text, folder text, date_added integer)',
    insert: 'insert into bookmarks(title, url, folder, date_added) values(?, ?, ?, ?)',
    values: (one: RecordOf<'bookmark'>) => [one.title, one.url, one.folder.join('/'), ms(one.added)],
  },
  event: {
    app: 'Calendar',
    create:
      'create table events(id integer primary key, title text, start integer, "end" integer, location text, note text, all_day integer)',
    insert: 'insert into events(title, start, "end", location, note, all_day) values(?, ?, ?, ?, ?, ?)',
    values: (one: RecordOf<'event'>) => [
      one.title,
      seconds(one.starts),
      seconds(one.ends),
      one.place || null,
      one.note || null,
      one.isAllDay ? 1 : 0,
    ],
  },
} satisfies Partial<Record<RecordKind, Shape>>

/** The kinds of record that the apps of stand-ins keep. */
export type AppKind = keyof typeof SHAPES

export const appName = (kind: AppKind) => SHAPES[kind].app

const shapeOf = (kind: AppKind): Shape => SHAPES[kind]
const valuesOf = (record: AppRecord) => (shapeOf(record.kind as AppKind).values as (one: AppRecord) => Cell[])(record)

/** An app's database as a real SQLite file: all the records written, then the deleted ones deleted, as an app would. */
export function databaseOf(kind: AppKind, live: readonly AppRecord[], deleted: readonly AppRecord[] = []): Uint8Array {
  const database = new Sqlite(':memory:')
  try {
    database.pragma('page_size = 4096')
    database.pragma('secure_delete = OFF')
    database.exec(shapeOf(kind).create)
    const insert = database.prepare(shapeOf(kind).insert)
    // Deleted ones stood among the others, not behind them.
    const all = [...live, ...deleted].sort((one, other) => JSON.stringify(one).localeCompare(JSON.stringify(other)))
    const gone = new Set<AppRecord>(deleted)
    const ids: (number | bigint)[] = []
    database.transaction(() => {
      for (const record of all) {
        const { lastInsertRowid } = insert.run(...valuesOf(record))
        if (gone.has(record)) ids.push(lastInsertRowid)
      }
    })()
    const remove = database.prepare(`delete from ${kind}s where id = ?`)
    for (const id of ids) remove.run(id)
    return new Uint8Array(database.serialize())
  } finally {
    database.close()
  }
}

/** The same database with more rows in it. */
export function withRows(bytes: Uint8Array, records: readonly AppRecord[]): Uint8Array {
  const database = new Sqlite(Buffer.from(bytes))
  try {
    for (const record of records) database.prepare(shapeOf(record.kind as AppKind).insert).run(...valuesOf(record))
    return new Uint8Array(database.serialize())
  } finally {
    database.close()
  }
}
