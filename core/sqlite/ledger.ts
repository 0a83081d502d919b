import type { ReportedRow } from './rows-report'
import type { TableSchema } from './schema'

/** The known rows of each table, indexed by content with and without row id, and by row id. */
export class Ledger {
  readonly rows = new Map<TableSchema | null, ReportedRow[]>()
  private readonly contents = new Set<string>()
  private readonly rests = new Set<string>()
  private readonly ids = new Map<string, ReportedRow>()
  /**
   * for WITHOUT ROWID tables: content with the first two stored values as one text, since a damaged row has lost the
   * boundary
   */
  private readonly run = new Set<string>()
  /** by column and value, the row that has it; null where several have */
  private readonly holders = new Map<string, ReportedRow | null>()

  /** Adds a row, known from then on. */
  add(table: TableSchema | null, row: ReportedRow) {
    const list = this.rows.get(table)
    if (list) list.push(row)
    else this.rows.set(table, [row])
    this.contents.add(keyOf(table, row.values))
    this.rests.add(keyOf(table, restOf(table, row.values)))
    const id = idIn(table, row)
    if (id !== null) this.ids.set(id, row)
    if (table?.storedOrder) this.run.add(keyOf(table, runOf(table, row.values)))
    for (const [column, value] of row.values.entries()) {
      if (!isTelling(value)) continue
      const key = keyOf(table, [column, value])
      this.holders.set(key, this.holders.has(key) ? null : row)
    }
  }

  /** Whether a row with these values is known. */
  has(table: TableSchema | null, values: ReportedRow['values']) {
    return this.contents.has(keyOf(table, values))
  }

  /** Whether one is known that has these values, whatever its row id. */
  hasBut(table: TableSchema | null, values: ReportedRow['values']) {
    return this.rests.has(keyOf(table, restOf(table, values)))
  }

  /** The known row with the same row id, or the same primary key. */
  sameId(table: TableSchema | null, row: Pick<ReportedRow, 'rowid' | 'values'>): ReportedRow | null {
    const id = idIn(table, row)
    return id === null ? null : (this.ids.get(id) ?? null)
  }

  /** Whether one is known that reads the same where the boundary of its first two stored values is lost. */
  hasRun(table: TableSchema | null, values: ReportedRow['values']): boolean {
    return table?.storedOrder ? this.run.has(keyOf(table, runOf(table, values))) : false
  }

  /** Whether this is the same row at another time: it alone shares one value, and most of the others are equal. */
  hasVersionOf(table: TableSchema | null, values: ReportedRow['values']): boolean {
    return values.some((value, column) => {
      const holder = isTelling(value) ? this.holders.get(keyOf(table, [column, value])) : null
      if (!holder) return false
      const own = values.flatMap((one, at) => (one === null || at === table?.rowidColumn ? [] : [at]))
      const equal = own.filter((at) => JSON.stringify(values[at]) === JSON.stringify(holder.values[at]))
      return equal.length * 2 >= own.length
    })
  }
}

/** A value that two rows hardly share by chance. */
const isTelling = (value: ReportedRow['values'][number]) =>
  typeof value === 'string'
    ? value.length >= 4
    : typeof value === 'number'
      ? Math.abs(value) >= 100_000
      : value !== null

/** A row's values without the column that aliases its row id. */
const restOf = (table: TableSchema | null, values: ReportedRow['values']) =>
  values.filter((_, at) => at !== table?.rowidColumn)

const keyOf = (table: TableSchema | null, what: unknown) => `${table?.name ?? ''} ${JSON.stringify(what)}`

/** What identifies a row in its table: its row id, or its primary key; null where that is lost. */
function idIn(table: TableSchema | null, { rowid, values }: Pick<ReportedRow, 'rowid' | 'values'>): string | null {
  if (table?.storedOrder)
    return keyOf(
      table,
      table.storedOrder.slice(0, table.keyColumns).map((at) => values[at]),
    )
  return rowid === null ? null : keyOf(table, rowid)
}

function runOf(table: TableSchema, values: ReportedRow['values']): unknown[] {
  const [first, second, ...rest] = table.storedOrder!.map((at) => values[at]!)
  return [`${JSON.stringify(first)}${JSON.stringify(second ?? '')}`.replaceAll('"', ''), ...rest]
}
