import type { Value } from './record'
import { sizeOf } from './record'
import { storedColumns, type Column, type TableSchema } from './schema'

/** A live record, with the row id in its column and the defaults of columns that an older record lacks. */
export function liveRow(table: TableSchema, stored: readonly Value[], rowid: Value): Value[] {
  return table.columns.map((column, index) => {
    const at = table.storedOrder ? table.storedOrder.indexOf(index) : index
    const value = at < stored.length ? stored[at]! : column.otherwise
    return index === table.rowidColumn && value === null ? rowid : value
  })
}

/**
 * How well a record found outside the live rows fits a table: one point for each value of the type that its column
 * stores, null where one of them cannot be a value of it.
 */
export function fitOf(table: TableSchema, values: readonly Value[]): number | null {
  if (values.length > table.columns.length || values.length === 0) return null
  const columns = storedColumns(table)
  let fit = values.length === columns.length ? 1 : 0
  for (const [index, value] of values.entries()) {
    const column = columns[index]!
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

/** A smaller real number is nobody's measurement, but the result of overwriting part of one with zeros. */
const TINIEST = 1e-290

/** A record as it was read. */
interface Stored {
  readonly types: readonly number[]
  readonly values: readonly Value[]
  readonly endsInZeros?: boolean
}

/** Reals without a fraction are stored as integers up to this, in columns with numeric affinity. */
const LARGEST_KEPT_AS_INTEGER = 2 ** 47

/**
 * Whether the values of a record are stored as the library stores them: an integer in as few bytes as it needs, no real
 * that would have been stored as an integer or null, no zeros in a text (SQLite file format, section 2.1). Bytes
 * overwritten with zeros are not. `table`: that of the record, where it is known.
 */
export function isAsStored(
  { types, values, endsInZeros = false }: Stored,
  schemaFormat: number,
  table: TableSchema | null = null,
): boolean {
  if (endsInZeros) return false
  const columns = table && storedColumns(table)
  return values.every((value, at) => {
    const type = types[at]!
    if (typeof value === 'string') return !value.includes('\0')
    if (value === null) return true
    if (type >= 1 && type <= 6) return sizeOf(type) === bytesFor(value as number | bigint, schemaFormat)
    if (type !== 7) return true
    const size = Math.abs(value as number)
    const keepsReals = (columns?.[at]?.affinity ?? 'blob') === 'blob'
    return size > TINIEST && (keepsReals || !Number.isInteger(value) || size >= LARGEST_KEPT_AS_INTEGER)
  })
}

/** The length of an integer in a record, in bytes; 0 where its serial type alone gives the value. */
function bytesFor(value: number | bigint, schemaFormat: number): number {
  if ((value === 0 || value === 1) && schemaFormat >= 4) return 0
  const magnitude = value < 0 ? -1n - BigInt(value) : BigInt(value)
  return [1, 2, 3, 4, 6].find((bytes) => magnitude < 1n << BigInt(bytes * 8 - 1)) ?? 8
}
