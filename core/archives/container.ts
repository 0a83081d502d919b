/** One file in an archive or a folder. */
export interface Entry {
  /** as written in the archive, already checked to stay inside */
  readonly name: string
  readonly bytes: number
  /** ms since the epoch */
  readonly changed: number | null
}

/** Something that contains files: an archive or a folder. It is only read. */
export interface Container {
  readonly entries: readonly Entry[]
  /** entries that were left out, and faults that were found: one line each */
  readonly warnings: readonly string[]
  /** an entry's bytes as they arrive; throws where they are damaged or more than the entry states */
  read(name: string): AsyncIterable<Uint8Array>
  close(): Promise<void>
}

/** How many files an archive may name. */
export const MAX_ENTRIES = 500_000
