import { z } from 'zod'
import { line } from '../fields'
import { recordKind } from '../record-kind'

const shape = z.object({
  kind: z.literal('row'),
  table: line,
  columns: z.array(line).max(2000),
  values: z.array(z.union([z.null(), z.number(), z.string()])).max(2000),
})

/** A row of a table that is of no other kind. */
export const row = recordKind(shape, {
  type: 'files',
  savedAs: 'json',
  title: ({ values, table }) =>
    values
      .find((value) => typeof value === 'string' && value !== '')
      ?.toString()
      .slice(0, 120) ?? table,
  subtitle: ({ table }) => table,
  made: () => null,
  lines: ({ columns, values }) => columns.map((column, at) => ({ as: 'text', text: `${column}: ${values[at] ?? ''}` })),
  table: null,
  sample: { kind: 'row', table: 'paddles', columns: ['side', 'turns'], values: ['left', 14] },
})
