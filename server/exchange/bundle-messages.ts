import type { BundleAttachment, BundleEntry, BundleManifest, BundleSheet } from '../../core/exchange/bundle'
import type { Case } from '../../core/cases/shape/case'
import type { Fault } from '../../core/cases/shape/faults'

/** Read a bundle, or one attachment in it. */
export interface BundleOrder {
  readonly path: string
  readonly file: { readonly name: string; readonly sha256: string; readonly mime: string } | null
}

export type ReadBundle =
  | {
      readonly ok: true
      readonly manifest: BundleManifest
      readonly case: Case
      readonly history: readonly BundleEntry[]
      readonly sheets: readonly BundleSheet[]
      readonly attachments: readonly BundleAttachment[]
    }
  | { readonly ok: false; readonly faults: readonly Fault[] }
