import type { z } from 'zod'
import type { DataType } from '../cases/shape/data-types'
import type { Columns, RowReader } from './columns'

/** A line of a card, and how it is set: running text, figures, in the background, or long text that scrolls. */
export type CardLine =
  | { readonly as: 'text' | 'figure' | 'soft' | 'long'; readonly text: string }
  /** UTC; null where the record has no date */
  | { readonly as: 'moment'; readonly at: string | null }

/** The shape of a record: an object with a literal `kind`. */
export type RecordShape = z.ZodObject<{ kind: z.ZodLiteral<string> }>

/** One kind of record that apps keep as rows. Each is one file that exports one of these, and a line in the registry. */
export interface RecordKindMember<Shape extends RecordShape = RecordShape> {
  readonly shape: Shape
  readonly kind: z.infer<Shape>['kind']
  /** which data type such records are */
  readonly type: DataType
  /** id of the export format in which one record alone is stored on the shelf */
  readonly savedAs: string
  /** the title of a record in a list: a name, a first line */
  title(record: z.infer<Shape>): string
  /** the second line: with whom, which number, where it leads */
  subtitle(record: z.infer<Shape>): string
  /** when it was made, as far as it says so itself; UTC, null where it does not */
  made(record: z.infer<Shape>): string | null
  /** what a card shows under the title */
  lines(record: z.infer<Shape>): readonly CardLine[]
  /** how its rows are recognised and read; null for the kind of rows that are nothing else */
  readonly table: RecordTable | null
  /** one whole record, from which the tests of the family start */
  readonly sample: z.infer<Shape>
}

/** How a table of a database is recognised as one of a kind of records, and its rows are read. */
export interface RecordTable {
  /** whether the columns, or the name, say that the table holds such records */
  holds(columns: Columns): boolean
  /** tables of apps that it has to recognise: the name, then the columns */
  readonly examples: readonly (readonly string[])[]
  /** the fields of a record but for its kind, to be checked against the shape */
  read(row: RowReader): object
  /** whether a row lost everything that would make it such a record */
  isEmpty(record: never): boolean
}

/** Declares a kind of record; the types of its functions follow from its shape. */
export function recordKind<Shape extends RecordShape>(
  shape: Shape,
  member: Omit<RecordKindMember<Shape>, 'shape' | 'kind' | 'table'> & {
    readonly table: {
      holds(columns: Columns): boolean
      examples: RecordTable['examples']
      read(row: RowReader): Omit<z.input<Shape>, 'kind'>
      isEmpty(record: z.infer<Shape>): boolean
    } | null
  },
): RecordKindMember<Shape> {
  return { shape, kind: shape.shape.kind.value, ...member } as RecordKindMember<Shape>
}
