import type { ReportedRow, RowsReport } from '../sqlite/rows-report'
import { momentFrom } from './moments'

export type Table = RowsReport['tables'][number]
export type Cell = ReportedRow['values'][number]

/** What apps call one meaning of a column; the first that a table has is taken. */
export type ColumnNames = readonly string[]

// Names that several kinds of record share. What only one kind uses is declared with that kind.
export const NAME: ColumnNames = ['name', 'displayname', 'fullname', 'contactname', 'label']
export const PHONE: ColumnNames = [
  'phone',
  'phonenumber',
  'tel',
  'telephone',
  'mobile',
  'number',
  'phone1',
  'phone2',
  'phone3',
  'landline',
]
export const WITH: ColumnNames = [
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
]
export const TEXT: ColumnNames = ['body', 'text', 'content', 'message', 'snippet']
export const DIRECTION: ColumnNames = ['direction', 'type', 'calltype', 'kind', 'box']
export const WHEN: ColumnNames = [
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
]
export const SECONDS: ColumnNames = ['duration', 'seconds', 'durationseconds', 'length']
export const TITLE: ColumnNames = ['title', 'subject', 'summary', 'heading', 'name']
export const STARTS: ColumnNames = [
  'starts',
  'start',
  'dtstart',
  'begins',
  'begin',
  'startdate',
  'starttime',
  'startsat',
]
export const REMARK: ColumnNames = ['note', 'notes', 'remark', 'remarks', 'description', 'comment']

const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '')

/** The columns of one table by what they mean. */
export class Columns {
  private readonly names: string[]
  private readonly tableName: string

  constructor(table: Pick<Table, 'name' | 'columns'>) {
    this.names = table.columns.map(plain)
    this.tableName = plain(table.name ?? '')
  }

  /** whether the table has a column of each of these meanings */
  has(...meanings: ColumnNames[]): boolean {
    return meanings.every((names) => this.all(names).length > 0)
  }

  /** the places of all columns of a meaning, likeliest first */
  all(names: ColumnNames): number[] {
    return names.flatMap((name) => {
      const at = this.names.indexOf(name)
      return at < 0 ? [] : [at]
    })
  }

  /** whether the table's own name fits a pattern; the name in lower case, letters and digits only */
  isNamed(pattern: RegExp): boolean {
    return pattern.test(this.tableName)
  }
}

const asText = (cell: Cell) => (typeof cell === 'string' ? cell.trim() : typeof cell === 'number' ? String(cell) : '')

/** One row of a table, read by what its columns mean. */
export class RowReader {
  constructor(
    private readonly columns: Columns,
    private readonly values: readonly Cell[],
  ) {}

  /** the first cell of a meaning that holds something; null where none does */
  raw(names: ColumnNames): Cell {
    for (const at of this.columns.all(names)) {
      const cell = this.values[at] ?? null
      if (cell !== null) return cell
    }
    return null
  }

  text(names: ColumnNames): string {
    return asText(this.raw(names))
  }

  /** all different texts of a meaning */
  texts(names: ColumnNames): string[] {
    const found = this.columns.all(names).map((at) => asText(this.values[at] ?? null))
    return [...new Set(found.filter((one) => one !== ''))]
  }

  /** the parts of a text between separators, empty ones left out */
  parts(names: ColumnNames, separator: RegExp, max: number): string[] {
    return this.text(names)
      .split(separator)
      .filter((part) => part !== '')
      .slice(0, max)
  }

  number(names: ColumnNames): number | null {
    const cell = this.raw(names)
    return typeof cell === 'number' ? cell : null
  }

  when(names: ColumnNames): string | null {
    const cell = this.raw(names)
    return momentFrom(typeof cell === 'object' && cell !== null && 'int' in cell ? Number(cell.int) : cell)
  }

  /** yes or no; null where the cell says neither */
  truth(names: ColumnNames): boolean | null {
    const cell = this.raw(names)
    if (cell === 1 || cell === 'true' || cell === 'yes') return true
    return cell === 0 || cell === 'false' || cell === 'no' ? false : null
  }

  /** Which way a message or call went. Words are read; numbers mean a different thing in every app, so they say nothing. */
  direction(): 'in' | 'out' | 'missed' | null {
    const cell = this.raw(DIRECTION)
    if (typeof cell !== 'string') return null
    if (/miss/i.test(cell)) return 'missed'
    if (/^(in|inc|rec)/i.test(cell)) return 'in'
    return /^(out|sent|dial)/i.test(cell) ? 'out' : null
  }
}
