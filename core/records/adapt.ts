import type { ReportedRow, RowsReport } from '../sqlite/rows-report'
import { Columns, RowReader, type Cell, type Table } from './columns'
import { AppRecord, RECORD_KINDS, type RecordKind } from './record'

/** A record with the row that it was made from. */
export interface AdaptedRow {
  readonly record: AppRecord
  readonly row: ReportedRow
  readonly table: string
}

const memberOf = (columns: Columns) => RECORD_KINDS.find(({ table }) => table?.holds(columns)) ?? null

/** The kind of record in a table, by its name and the names of its columns; null where it is none of these. */
export const kindOfTable = (table: Pick<Table, 'name' | 'columns'>): RecordKind | null =>
  memberOf(new Columns(table))?.kind ?? null

/**
 * Records out of the rows of a database, of the kind that a table's columns say it holds. Rows that lost everything that
 * would make them such records, and those of other tables, come as plain rows.
 */
export function recordsOf(report: RowsReport): AdaptedRow[] {
  return report.tables.flatMap((table) => {
    const columns = new Columns(table)
    const member = memberOf(columns)
    return table.rows.map((row) => {
      const made =
        member && AppRecord.safeParse({ kind: member.kind, ...member.table!.read(new RowReader(columns, row.values)) })
      const record = made?.success && !member!.table!.isEmpty(made.data as never) ? made.data : plainRow(table, row)
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
