import type { BackupIndex, BackupManifest } from '../../core/archives/manifest'
import type { ItemPage } from '../../core/bench/item'

/** The orders for the reader of an archive. */
export type ArchiveOrder =
  | { readonly ask: 'describe'; readonly path: string }
  | { readonly ask: 'open'; readonly path: string; readonly password: string }
  | { readonly ask: 'page'; readonly keep: string; readonly after: number }
  | { readonly ask: 'read'; readonly keep: string; readonly item: string; readonly from: number }
  | { readonly ask: 'next' | 'leave'; readonly stream: number }
  | { readonly ask: 'verify'; readonly path: string; readonly items: number; readonly password: string }

export interface DescribedArchive {
  /** null where it has none and is read as the files in it */
  readonly manifest: BackupManifest | null
  readonly entries: number
  /** of all items together, unpacked */
  readonly bytes: number
}

export interface OpenedArchive {
  readonly keeps: readonly (BackupIndex['keeps'][number] & { readonly count: number; readonly bytes: number })[]
  readonly warnings: { readonly count: number; readonly first: string | null }
}

export type ArchiveTold =
  | DescribedArchive
  | OpenedArchive
  | ItemPage
  | { readonly stream: number }
  | { readonly part: Uint8Array | null }
  | null
