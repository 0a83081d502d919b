/** One file in an archive or a folder. */
export interface Entry {
  /** as it stands in the archive, already known to stay inside */
  readonly name: string
  readonly bytes: number
  /** ms since the epoch */
  readonly changed: number | null
}

/** Something that holds files: an archive or a folder. Only ever read. */
export interface Container {
  readonly entries: readonly Entry[]
  /** entries that were left out, and damage that was seen: one line each */
  readonly warnings: readonly string[]
  /** an entry's bytes as they come; throws where they are damaged or more than the entry says */
  read(name: string): AsyncIterable<Uint8Array>
  close(): Promise<void>
}

/** How many files an archive may name. */
export const MAX_ENTRIES = 500_000
