import type { ReportedRow, RowsReport } from '../sqlite/rows-report'
import { momentFrom } from './moments'
import { AppRecord, type RecordKind } from './record'

type Table = RowsReport['tables'][number]
type Cell = ReportedRow['values'][number]

/** A record with the row that it was made from. */
export interface AdaptedRow {
  readonly record: AppRecord
  readonly row: ReportedRow
  readonly table: string
}

/** What apps call the columns of each kind of record; the first that is there is taken. */
const WORDS = {
  name: ['name', 'displayname', 'fullname', 'contactname', 'label'],
  given: ['givenname', 'firstname', 'first', 'forename'],
  family: ['familyname', 'lastname', 'last', 'surname'],
  organisation: ['organisation', 'organization', 'company', 'employer', 'org'],
  phone: ['phone', 'phonenumber', 'tel', 'telephone', 'mobile', 'number', 'phone1', 'phone2', 'phone3', 'landline'],
  mail: ['mail', 'email', 'emailaddress', 'mail1', 'mail2', 'email1', 'email2'],
  with: [
    'thread',
    'chat',
    'conversation',
    'address',
    'number',
    'sender',
    'recipient',
    'handle',
    'peer',
    'phone',
    'withwhom',
  ],
  text: ['body', 'text', 'content', 'message', 'snippet'],
  noteText: ['body', 'text', 'content', 'note', 'notes', 'memo'],
  mine: ['ismine', 'isfromme', 'fromme', 'outgoing', 'sent', 'mine'],
  direction: ['direction', 'type', 'calltype', 'kind', 'box'],
  when: [
    'at',
    'date',
    'time',
    'timestamp',
    'sentat',
    'receivedat',
    'datetime',
    'datesent',
    'created',
    'when',
    'started',
  ],
  attachments: ['attachments', 'attachment', 'media', 'file', 'filename'],
  seconds: ['duration', 'seconds', 'durationseconds', 'length'],
  title: ['title', 'subject', 'summary', 'heading', 'name'],
  url: ['url', 'uri', 'href', 'link', 'webaddress'],
  folder: ['folder', 'path', 'parent', 'collection', 'category'],
  added: ['added', 'dateadded', 'created', 'createdat', 'at', 'date'],
  changed: [
    'changed',
    'modified',
    'updated',
    'datemodified',
    'lastmodified',
    'edited',
    'created',
    'at',
    'date',
    'modifiedat',
  ],
  starts: ['starts', 'start', 'dtstart', 'begins', 'begin', 'startdate', 'starttime', 'startsat'],
  ends: ['ends', 'end', 'dtend', 'enddate', 'endtime', 'endsat', 'finish'],
  place: ['place', 'location', 'where', 'venue', 'eventlocation'],
  allDay: ['allday', 'isallday', 'wholeday'],
  remark: ['note', 'notes', 'remark', 'remarks', 'description', 'comment'],
} as const
type Word = keyof typeof WORDS

const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '')

/** The columns of one table by what they mean. */
class Columns {
  private readonly names: string[]
  constructor(readonly table: Table) {
    this.names = table.columns.map(plain)
  }
  has(...words: Word[]) {
    return words.every((word) => this.all(word).length > 0)
  }
  all(word: Word): number[] {
    return WORDS[word].flatMap((name) => {
      const at = this.names.indexOf(name)
      return at < 0 ? [] : [at]
    })
  }
}

const isNamed = (table: Table, pattern: RegExp) => pattern.test(plain(table.name ?? ''))

/** Which kind of record a table holds, by the names of its columns and its own; null where it is none of these. */
export function kindOfTable(table: Table): Exclude<RecordKind, 'row'> | null {
  const columns = new Columns(table)
  if (columns.has('url') && (columns.has('title') || isNamed(table, /bookmark|favou?rite/))) return 'bookmark'
  if (columns.has('starts') && columns.has('title') && !columns.has('seconds')) return 'event'
  if (columns.has('starts', 'ends') || (columns.has('starts') && isNamed(table, /event|calendar|appointment/)))
    return 'event'
  if (columns.has('seconds') && (columns.has('phone') || columns.has('with')) && !columns.has('text')) return 'call'
  if (isNamed(table, /note|memo/) && columns.has('noteText')) return 'note'
  if (columns.has('text', 'with')) return 'message'
  if (columns.has('text', 'title') && columns.has('changed')) return 'note'
  if (
    (columns.has('name') || columns.has('given') || columns.has('family')) &&
    (columns.has('phone') || columns.has('mail'))
  )
    return 'contact'
  return null
}

/**
 * Records out of the rows of a database: contacts, messages, calls, notes, bookmarks and entries of the
 * calendar where a table's columns say that it holds them, plain rows else. Tables that only list or
 * connect others come as plain rows too.
 */
export function recordsOf(report: RowsReport): AdaptedRow[] {
  return report.tables.flatMap((table) => {
    const kind = kindOfTable(table)
    const columns = new Columns(table)
    return table.rows.map((row) => {
      const made = kind ? AppRecord.safeParse(MAKERS[kind](reader(columns, row.values))) : null
      const record = made?.success && !isEmpty(made.data) ? made.data : plainRow(table, row)
      return { record, row, table: table.name ?? '' }
    })
  })
}

function plainRow(table: Table, row: ReportedRow): AppRecord {
  return {
    kind: 'row',
    table: (table.name ?? '').slice(0, 200),
    columns: table.columns.slice(0, 2000).map((name) => name.slice(0, 200)),
    values: row.values.slice(0, 2000).map(shown),
  }
}

function shown(cell: Cell): null | number | string {
  if (cell === null || typeof cell === 'number') return cell
  if (typeof cell === 'string') return cell.slice(0, 20_000)
  return 'int' in cell ? cell.int : `${cell.blob.length / 2} bytes`
}

interface RowReader {
  text(word: Word): string
  texts(word: Word): string[]
  number(word: Word): number | null
  when(word: Word): string | null
  raw(word: Word): Cell
}

function reader(columns: Columns, values: readonly Cell[]): RowReader {
  const raw = (word: Word): Cell =>
    columns
      .all(word)
      .map((at) => values[at] ?? null)
      .find((cell) => cell !== null) ?? null
  const asText = (cell: Cell) => (typeof cell === 'string' ? cell.trim() : typeof cell === 'number' ? String(cell) : '')
  return {
    raw,
    text: (word) => asText(raw(word)),
    texts: (word) => [
      ...new Set(
        columns
          .all(word)
          .map((at) => asText(values[at] ?? null))
          .filter((one) => one !== ''),
      ),
    ],
    number: (word) => {
      const cell = raw(word)
      return typeof cell === 'number' ? cell : null
    },
    when: (word) => {
      const cell = raw(word)
      return momentFrom(typeof cell === 'object' && cell !== null && 'int' in cell ? Number(cell.int) : cell)
    },
  }
}

const MAKERS: Record<Exclude<RecordKind, 'row'>, (row: RowReader) => object> = {
  contact: (row) => ({
    kind: 'contact',
    name: row.text('name') || [row.text('given'), row.text('family')].filter((part) => part !== '').join(' '),
    phones: row.texts('phone'),
    mails: row.texts('mail'),
    organisation: row.text('organisation'),
    note: row.text('remark'),
  }),
  message: (row) => ({
    kind: 'message',
    thread: row.text('with'),
    isMine: truth(row.raw('mine')) ?? mineByDirection(row.raw('direction')),
    text: row.text('text'),
    at: row.when('when'),
    attachments:
      row.text('attachments') === ''
        ? []
        : row
            .text('attachments')
            .split(/[;\n|]/)
            .slice(0, 100),
  }),
  call: (row) => ({
    kind: 'call',
    number: row.text('phone') || row.text('with'),
    name: row.text('name'),
    at: row.when('when') ?? row.when('starts'),
    seconds: row.number('seconds'),
    direction: directionOf(row.raw('direction')),
  }),
  note: (row) => ({ kind: 'note', title: row.text('title'), text: row.text('noteText'), changed: row.when('changed') }),
  bookmark: (row) => ({
    kind: 'bookmark',
    title: row.text('title'),
    url: row.text('url'),
    folder: row
      .text('folder')
      .split('/')
      .filter((part) => part !== '')
      .slice(0, 40),
    added: row.when('added'),
  }),
  event: (row) => ({
    kind: 'event',
    title: row.text('title'),
    starts: row.when('starts'),
    ends: row.when('ends'),
    place: row.text('place'),
    note: row.text('remark'),
    isAllDay: truth(row.raw('allDay')) ?? false,
  }),
}

function truth(cell: Cell): boolean | null {
  if (cell === 1 || cell === 'true' || cell === 'yes') return true
  return cell === 0 || cell === 'false' || cell === 'no' ? false : null
}

/** Words are read; numbers mean a different thing in every app, so they say nothing here. */
function directionOf(cell: Cell): 'in' | 'out' | 'missed' | null {
  if (typeof cell !== 'string') return null
  if (/miss/i.test(cell)) return 'missed'
  if (/^(in|inc|rec)/i.test(cell)) return 'in'
  return /^(out|sent|dial)/i.test(cell) ? 'out' : null
}

function mineByDirection(cell: Cell): boolean | null {
  const direction = directionOf(cell)
  return direction === null ? null : direction === 'out'
}

/** A row whose telling columns are all lost is better shown as what it is. */
function isEmpty(record: AppRecord): boolean {
  if (record.kind === 'contact') return record.name === '' && record.phones.length === 0 && record.mails.length === 0
  if (record.kind === 'message') return record.text === '' && record.attachments.length === 0
  if (record.kind === 'call') return record.number === '' && record.name === ''
  if (record.kind === 'note') return record.text === '' && record.title === ''
  if (record.kind === 'bookmark') return record.url === ''
  return record.kind === 'event' && record.title === '' && record.starts === null
}
