import { z } from 'zod'
import type { DataType } from '../cases/shape/data-types'
import { bookmark } from './kinds/bookmark'
import { call } from './kinds/call'
import { contact } from './kinds/contact'
import { event } from './kinds/event'
import { message } from './kinds/message'
import { note } from './kinds/note'
import { row } from './kinds/row'
import type { CardLine, RecordKindMember } from './record-kind'

/**
 * Every kind of record, in the order in which a table is asked whether it holds them. A new one is one file, a line here
 * and one in the shape below.
 */
export const RECORD_KINDS = [bookmark, event, call, note, message, contact, row] as const

/** What an app keeps as a row rather than as a file. */
export const AppRecord = z.discriminatedUnion('kind', [
  bookmark.shape,
  event.shape,
  call.shape,
  note.shape,
  message.shape,
  contact.shape,
  row.shape,
])
export type AppRecord = z.infer<typeof AppRecord>
export type RecordKind = AppRecord['kind']
export type RecordOf<Kind extends RecordKind> = Extract<AppRecord, { kind: Kind }>

const byKind = new Map(RECORD_KINDS.map((member) => [member.kind as string, member as unknown as RecordKindMember]))

/** What is declared of a kind of record. */
export const recordKindOf = (kind: RecordKind): RecordKindMember => byKind.get(kind)!

/** Which data type a kind of record is. */
export const typeOfRecord = (kind: RecordKind): DataType => recordKindOf(kind).type

/** The title of a record in a list: a name, a first line. */
export const recordTitle = (record: AppRecord): string => recordKindOf(record.kind).title(record)

/** The second line of a record: with whom, which number, where it leads. */
export const recordSubtitle = (record: AppRecord): string => recordKindOf(record.kind).subtitle(record)

/** What a card shows under the title; lines without text are left out. */
export const recordLines = (record: AppRecord): CardLine[] =>
  recordKindOf(record.kind)
    .lines(record)
    .filter((line) => line.as === 'moment' || line.text !== '')

/** When a record was made, as far as it says so itself; UTC, null where it does not. */
export const recordMade = (record: AppRecord): string | null => recordKindOf(record.kind).made(record)
