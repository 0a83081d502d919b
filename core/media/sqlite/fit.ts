import type { Value } from './record'
import type { Column, TableSchema } from './schema'

/** A live record, with the row id in its own column and what an older record leaves out filled in. */
export function liveRow(table: TableSchema, stored: readonly Value[], rowid: Value): Value[] {
  return table.columns.map((column, index) => {
    const at = table.storedOrder ? table.storedOrder.indexOf(index) : index
    const value = at < stored.length ? stored[at]! : column.otherwise
    return index === table.rowidColumn && value === null ? rowid : value
  })
}

/**
 * How well a record found outside of the live rows fits a table: one for each value that is of the kind its
 * column keeps, null where one of them can not be a value of it.
 */
export function fitOf(table: TableSchema, values: readonly Value[]): number | null {
  if (values.length > table.columns.length || values.length === 0) return null
  let fit = values.length === table.columns.length ? 1 : 0
  for (const [index, value] of values.entries()) {
    const column = table.columns[index]!
    if (index === table.rowidColumn) {
      if (value !== null) return null
      fit++
    } else if (value === null) {
      if (column.isNotNull) return null
    } else if (isOf(column, value)) fit++
    else return null
  }
  return fit
}

/** Whether a column of this affinity would have stored the value as it is. */
function isOf({ affinity }: Column, value: Exclude<Value, null>): boolean {
  const isNumber = typeof value === 'number' || typeof value === 'bigint'
  if (affinity === 'blob') return true
  if (affinity === 'text') return typeof value === 'string'
  if (affinity === 'integer') return isNumber && (typeof value === 'bigint' || Number.isSafeInteger(value))
  if (affinity === 'real') return isNumber
  return isNumber || typeof value === 'string'
}

/** A text that people or programs wrote: no stray control characters. */
export function isPlausible(values: readonly Value[]): boolean {
  // eslint-disable-next-line no-control-regex
  return values.every((value) => typeof value !== 'string' || !/[\u0000-\u0008\u000e-\u001f\u007f]/.test(value))
}
