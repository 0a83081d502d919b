import { stringify } from 'csv-stringify/sync'
import type { AppRecord } from '../record'
import { only, type RecordFormat } from './record-format'

/** CSV (RFC 4180), one line a record, the columns those of the first one's kind. */
export const csv: RecordFormat = {
  id: 'csv',
  title: 'CSV',
  extension: 'csv',
  mime: 'text/csv',
  kinds: null,
  write,
}

function write(records: readonly AppRecord[]): string {
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
