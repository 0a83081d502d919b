import type { AppRecord, RecordKind, RecordOf } from '../record'

/** An open format in which records are saved. Each is one file that exports one of these, and a line in the registry. */
export interface RecordFormat {
  readonly id: string
  readonly title: string
  readonly extension: string
  readonly mime: string
  /** the kinds that it can hold; null for every kind */
  readonly kinds: readonly RecordKind[] | null
  /** the whole file; records of other kinds are left out */
  write(records: readonly AppRecord[]): string
}

export const only = <Kind extends RecordKind>(records: readonly AppRecord[], kind: Kind) =>
  records.filter((one): one is RecordOf<Kind> => one.kind === kind)
