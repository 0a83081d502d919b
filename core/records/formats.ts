import type { RecordKind } from './record'

/** An open format in which records of some kinds are saved. */
export interface RecordFormat {
  readonly id: 'vcard' | 'icalendar' | 'html' | 'markdown' | 'text' | 'csv' | 'json'
  readonly title: string
  readonly extension: string
  readonly mime: string
  readonly kinds: readonly RecordKind[]
}

const ALL: readonly RecordKind[] = ['contact', 'message', 'call', 'note', 'bookmark', 'event', 'row']

/** The formats that contacts, bookmarks, notes, calendars, messages and calls are saved in. */
export const RECORD_FORMATS: readonly RecordFormat[] = [
  { id: 'vcard', title: 'vCard', extension: 'vcf', mime: 'text/vcard', kinds: ['contact'] },
  { id: 'icalendar', title: 'iCalendar', extension: 'ics', mime: 'text/calendar', kinds: ['event'] },
  { id: 'html', title: 'HTML', extension: 'html', mime: 'text/html', kinds: ['bookmark'] },
  { id: 'markdown', title: 'Markdown', extension: 'md', mime: 'text/markdown', kinds: ['note'] },
  { id: 'text', title: 'plain text', extension: 'txt', mime: 'text/plain', kinds: ['note', 'message'] },
  { id: 'csv', title: 'CSV', extension: 'csv', mime: 'text/csv', kinds: ALL },
  { id: 'json', title: 'JSON', extension: 'json', mime: 'application/json', kinds: ALL },
]

/** The format in which one record alone lies on the shelf. */
const OWN: Record<RecordKind, RecordFormat['id']> = {
  contact: 'vcard',
  event: 'icalendar',
  bookmark: 'html',
  note: 'markdown',
  message: 'json',
  call: 'json',
  row: 'json',
}

/** The format in which one record of this kind lies on the shelf. */
export const formatOf = (kind: RecordKind): RecordFormat => RECORD_FORMATS.find((one) => one.id === OWN[kind])!
