import { z } from 'zod'
import type { Value } from './record'

export const ROWS_FORMAT = 'russet-lantern/rows'

/** A value in JSON: one that JSON cannot express is an object of its own. */
const RowValue = z.union([
  z.null(),
  z.number(),
  z.string(),
  z.strictObject({ blob: z.string().regex(/^([0-9a-f]{2})*$/) }),
  z.strictObject({ int: z.string().regex(/^-?\d+$/) }),
])
export type RowValue = z.infer<typeof RowValue>

const Row = z.strictObject({
  state: z.enum(['live', 'deleted', 'earlier']),
  rowid: z.union([z.int(), z.strictObject({ int: z.string() }), z.null()]),
  values: z.array(RowValue),
  source: z.enum(['btree', 'freelist', 'freeblock', 'unallocated', 'wal', 'journal']),
  complete: z.boolean(),
})
export type ReportedRow = z.infer<typeof Row>

/** Live and deleted rows of a database, table by table. */
export const RowsReport = z.strictObject({
  format: z.literal(ROWS_FORMAT),
  version: z.literal(1),
  /** faults of the database, in words */
  warnings: z.array(z.string()).default([]),
  tables: z.array(z.strictObject({ name: z.string().nullable(), columns: z.array(z.string()), rows: z.array(Row) })),
})
export type RowsReport = z.infer<typeof RowsReport>

/** The report's format as JSON Schema, draft 2020-12. */
export function rowsReportJsonSchema(): object {
  return z.toJSONSchema(RowsReport, { target: 'draft-2020-12' })
}

/** Converts a value of a record for the report. */
export function rowValue(value: Value): RowValue {
  if (typeof value === 'bigint') return { int: String(value) }
  if (value instanceof Uint8Array)
    return { blob: [...value].map((byte) => byte.toString(16).padStart(2, '0')).join('') }
  // JSON has no infinite numbers and no zero with a sign.
  return typeof value === 'number' && !Number.isFinite(value) ? null : value
}
