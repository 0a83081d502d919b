import ICAL from 'ical.js'
import { stringify } from 'csv-stringify/sync'
import type { RecordFormat } from './formats'
import { recordTitle, type AppRecord, type RecordKind, type RecordOf } from './record'

const only = <Kind extends RecordKind>(records: readonly AppRecord[], kind: Kind) =>
  records.filter((one): one is RecordOf<Kind> => one.kind === kind)

/** Writes records in an open format; those that the format does not take are left out. */
export function writeRecords(format: RecordFormat['id'], records: readonly AppRecord[]): string {
  switch (format) {
    case 'vcard':
      return only(records, 'contact').map(vcard).join('')
    case 'icalendar':
      return icalendar(only(records, 'event'))
    case 'html':
      return bookmarkPage(only(records, 'bookmark'))
    case 'markdown':
      return only(records, 'note').map(markdown).join('\n---\n\n')
    case 'text':
      return records.map(plainText).join('\n')
    case 'csv':
      return csv(records)
    case 'json':
      return `${JSON.stringify(records, null, 2)}\n`
  }
}

/** vCard 4.0 (RFC 6350). */
function vcard(contact: RecordOf<'contact'>): string {
  const card = new ICAL.Component(['vcard', [], []])
  card.addPropertyWithValue('version', '4.0')
  card.addPropertyWithValue('fn', recordTitle(contact))
  const [family = '', ...given] = contact.name.split(/\s+/).reverse()
  card.addProperty(new ICAL.Property(['n', {}, 'text', [family, given.reverse().join(' '), '', '', '']] as never))
  for (const phone of contact.phones) card.addPropertyWithValue('tel', phone)
  for (const mail of contact.mails) card.addPropertyWithValue('email', mail)
  if (contact.organisation !== '') card.addPropertyWithValue('org', contact.organisation)
  if (contact.note !== '') card.addPropertyWithValue('note', contact.note)
  return `${card.toString()}\r\n`
}

/** iCalendar (RFC 5545). */
function icalendar(events: readonly RecordOf<'event'>[]): string {
  const calendar = new ICAL.Component(['vcalendar', [], []])
  calendar.addPropertyWithValue('version', '2.0')
  calendar.addPropertyWithValue('prodid', '-//Russet Lantern//EN')
  for (const [at, event] of events.entries()) {
    const component = new ICAL.Component('vevent')
    component.addPropertyWithValue('uid', `${at}-${event.starts ?? 'undated'}@russet-lantern`)
    component.addPropertyWithValue('dtstamp', time(event.starts ?? '1970-01-01T00:00:00Z'))
    component.addPropertyWithValue('summary', event.title)
    if (event.starts) component.addPropertyWithValue('dtstart', time(event.starts, event.isAllDay))
    if (event.ends) component.addPropertyWithValue('dtend', time(event.ends, event.isAllDay))
    if (event.place !== '') component.addPropertyWithValue('location', event.place)
    if (event.note !== '') component.addPropertyWithValue('description', event.note)
    calendar.addSubcomponent(component)
  }
  return `${calendar.toString()}\r\n`
}

function time(iso: string, isDate = false): ICAL.Time {
  const at = ICAL.Time.fromJSDate(new Date(iso), true)
  if (isDate) at.isDate = true
  return at
}

const escaped = (text: string) => text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`)

/** The page of nested lists that browsers write and read as bookmarks. */
function bookmarkPage(bookmarks: readonly RecordOf<'bookmark'>[]): string {
  const folders = new Map<string, RecordOf<'bookmark'>[]>()
  for (const one of bookmarks) {
    const folder = one.folder.join(' / ')
    folders.set(folder, [...(folders.get(folder) ?? []), one])
  }
  const link = (one: RecordOf<'bookmark'>) => {
    const added = one.added ? ` ADD_DATE="${Math.floor(Date.parse(one.added) / 1000)}"` : ''
    return `<DT><A HREF="${escaped(one.url)}"${added}>${escaped(recordTitle(one))}</A>`
  }
  const lists = [...folders].map(([folder, own]) =>
    folder === ''
      ? own.map(link).join('\n')
      : `<DT><H3>${escaped(folder)}</H3>\n<DL><p>\n${own.map(link).join('\n')}\n</DL><p>`,
  )
  return `<!DOCTYPE html>\n<META HTTP-EQUIV="Content-Type" CONTENT="text/html; charset=UTF-8">\n<TITLE>Bookmarks</TITLE>\n<H1>Bookmarks</H1>\n<DL><p>\n${lists.join('\n')}\n</DL><p>\n`
}

function markdown(note: RecordOf<'note'>): string {
  const changed = note.changed ? `*${note.changed}*\n\n` : ''
  return `# ${note.title || recordTitle(note)}\n\n${changed}${note.text}\n`
}

function plainText(record: AppRecord): string {
  if (record.kind === 'note') return `${record.title}\n\n${record.text}\n`
  if (record.kind === 'message')
    return `${record.at ?? 'no date'}  ${record.isMine ? 'to' : 'from'} ${record.thread}: ${record.text}\n`
  return `${recordTitle(record)}\n`
}

/** RFC 4180, one line a record, the columns those of the first one's kind. */
function csv(records: readonly AppRecord[]): string {
  const kind = records[0]?.kind
  if (kind === undefined) return ''
  if (kind === 'row') {
    const rows = only(records, 'row')
    return stringify([rows[0]!.columns, ...rows.map((one) => one.values)].map(unformula))
  }
  const own = records.filter((one) => one.kind === kind)
  const columns = Object.keys(own[0]!).filter((name) => name !== 'kind')
  const lines = own.map((one) =>
    columns.map((name) => {
      const value = (one as unknown as Record<string, unknown>)[name]
      return Array.isArray(value) ? value.join('; ') : ((value ?? '') as string | number | boolean)
    }),
  )
  return stringify([columns, ...lines].map(unformula))
}

/** A sheet takes a cell that begins like this for a formula and would run it. */
const unformula = (cells: readonly unknown[]) =>
  cells.map((cell) =>
    typeof cell === 'string' && /^[=+\-@\t\r]/.test(cell) && !/^\+?[\d\s()-]+$/.test(cell) ? `'${cell}` : cell,
  )
