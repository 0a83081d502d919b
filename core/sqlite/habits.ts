import type { Value } from './record'
import type { TableSchema } from './schema'

/** More live rows than this teach nothing new about the values of a column. */
const MAX_ROWS = 2000
const MAX_LENGTH = 24

/** What the live values of one stored column look like. */
interface Habit {
  readonly forms: Set<string>
  least: number
  most: number
}

/**
 * What the live values of each stored column look like, to find the likely one among several readings of a damaged row.
 */
export class Habits {
  private readonly seen = new Map<TableSchema, { rows: number; columns: Habit[] }>()

  /** Notes the values of a live row, as its record keeps them. */
  note(table: TableSchema, stored: readonly Value[]): void {
    const known = this.seen.get(table) ?? { rows: 0, columns: [] }
    this.seen.set(table, known)
    if (known.rows++ >= MAX_ROWS) return
    for (const [at, value] of stored.entries()) {
      const habit = (known.columns[at] ??= { forms: new Set(), least: Infinity, most: -Infinity })
      habit.forms.add(formOf(value))
      if (!isNumber(value)) continue
      habit.least = Math.min(habit.least, Number(value))
      habit.most = Math.max(habit.most, Number(value))
    }
  }

  /** How many live rows of a table were noted. */
  rowsOf(table: TableSchema): number {
    return this.seen.get(table)?.rows ?? 0
  }

  /** Whether live rows have values of these forms, and numbers not far from these; true where there is no live row. */
  areUsual(table: TableSchema, stored: readonly Value[]): boolean {
    const columns = this.seen.get(table)?.columns
    return columns === undefined || stored.every((value, at) => isUsual(columns[at], value))
  }
}

function isUsual(habit: Habit | undefined, value: Value): boolean {
  if (!habit) return true
  if (!habit.forms.has(formOf(value))) return false
  const span = habit.most - habit.least
  return !isNumber(value) || (Number(value) >= habit.least - span && Number(value) <= habit.most + span)
}

const isNumber = (value: Value) => typeof value === 'number' || typeof value === 'bigint'

/** The form of a value: its type, and for a text its sequence of character classes. */
function formOf(value: Value): string {
  if (value === null) return 'null'
  if (value instanceof Uint8Array) return 'blob'
  if (typeof value !== 'string') return Number.isInteger(Number(value)) ? 'integer' : 'real'
  const kinds = value
    .replace(/\p{Lu}+/gu, 'A')
    .replace(/[\p{Ll}\p{Lo}]+/gu, 'a')
    .replace(/\d+/g, '0')
    .replace(/\s+/g, ' ')
  return `text ${kinds.slice(0, MAX_LENGTH)}`
}
