import { z } from 'zod'
import { instant } from '../cases/shape/moment'
import type { DataType } from '../cases/shape/data-types'

const line = z.string().max(2000)
const body = z.string().max(200_000)
const when = instant.nullable().default(null)

/** What an app keeps as a row rather than as a file: a contact, a message, a call, a note, a bookmark, an entry of the calendar. */
export const AppRecord = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('contact'),
    name: line,
    phones: z.array(line).max(50).default([]),
    mails: z.array(line).max(50).default([]),
    organisation: line.default(''),
    note: body.default(''),
  }),
  z.object({
    kind: z.literal('message'),
    /** with whom: a number, an address, a name of a group */
    thread: line,
    isMine: z.boolean().nullable().default(null),
    text: body,
    at: when,
    /** names of files that were sent with it */
    attachments: z.array(line).max(100).default([]),
  }),
  z.object({
    kind: z.literal('call'),
    number: line,
    name: line.default(''),
    at: when,
    seconds: z.number().min(0).max(1e9).nullable().default(null),
    direction: z.enum(['in', 'out', 'missed']).nullable().default(null),
  }),
  z.object({ kind: z.literal('note'), title: line, text: body, changed: when }),
  z.object({
    kind: z.literal('bookmark'),
    title: line,
    url: line,
    folder: z.array(line).max(40).default([]),
    added: when,
  }),
  z.object({
    kind: z.literal('event'),
    title: line,
    starts: when,
    ends: when,
    place: line.default(''),
    note: body.default(''),
    isAllDay: z.boolean().default(false),
  }),
  /** a row of a table that is none of these */
  z.object({
    kind: z.literal('row'),
    table: line,
    columns: z.array(line).max(2000),
    values: z.array(z.union([z.null(), z.number(), z.string()])).max(2000),
  }),
])
export type AppRecord = z.infer<typeof AppRecord>
export type RecordKind = AppRecord['kind']
export type RecordOf<Kind extends RecordKind> = Extract<AppRecord, { kind: Kind }>

/** Which data type a kind of record is. */
export const TYPE_OF_RECORD: Record<RecordKind, DataType> = {
  contact: 'contacts',
  message: 'messages',
  call: 'call-records',
  note: 'notes',
  bookmark: 'bookmarks',
  event: 'calendar',
  row: 'files',
}

/** What stands for a record in a list: a name, a first line. */
export function recordTitle(record: AppRecord): string {
  switch (record.kind) {
    case 'contact':
      return record.name || record.organisation || record.phones[0] || record.mails[0] || 'no name'
    case 'message':
      return firstLine(record.text) || record.attachments[0] || 'no text'
    case 'call':
      return record.name || record.number || 'no number'
    case 'note':
      return record.title || firstLine(record.text) || 'no text'
    case 'bookmark':
      return record.title || record.url
    case 'event':
      return record.title || 'no title'
    case 'row':
      return (
        record.values
          .find((value) => typeof value === 'string' && value !== '')
          ?.toString()
          .slice(0, 120) ?? record.table
      )
  }
}

/** When a record was made, as far as it says so itself. */
export function recordMade(record: AppRecord): string | null {
  switch (record.kind) {
    case 'message':
    case 'call':
      return record.at
    case 'note':
      return record.changed
    case 'bookmark':
      return record.added
    case 'event':
      return record.starts
    case 'contact':
    case 'row':
      return null
  }
}

const firstLine = (text: string) => (text.split('\n').find((one) => one.trim() !== '') ?? '').trim().slice(0, 120)
