import { recordKindOf, type AppRecord, type RecordKind } from '../record'
import { csv } from './csv'
import { html } from './html'
import { icalendar } from './icalendar'
import { json } from './json'
import { markdown } from './markdown'
import type { RecordFormat } from './record-format'
import { text } from './text'
import { vcard } from './vcard'

/** Every open format in which records are saved. A new one is one file, its test, and a line here. */
export const RECORD_FORMATS: readonly RecordFormat[] = [vcard, icalendar, html, markdown, text, csv, json]

/** The formats that can hold a kind of record. */
export const formatsFor = (kind: RecordKind): RecordFormat[] =>
  RECORD_FORMATS.filter(({ kinds }) => kinds === null || kinds.includes(kind))

/** The format in which one record of this kind is stored on the shelf. */
export const formatOnShelf = (kind: RecordKind): RecordFormat =>
  RECORD_FORMATS.find(({ id }) => id === recordKindOf(kind).savedAs)!

/** One record as the file that is stored of it on the shelf. */
export const fileOfRecord = (record: AppRecord): string => formatOnShelf(record.kind).write([record])
