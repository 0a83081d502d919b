import type { Case } from '../cases/shape/case'
import type { SheetDocument } from '../handover/document'

/** The number of an attachment here by its number in a bundle. */
export type Renumbering = ReadonlyMap<number, number>

/** A case whose signatures and papers are named by their numbers here; one that did not come along is named by nothing. */
export function renumberedCase(ofCase: Case, by: Renumbering): Case {
  const here = (id: number | null) => (id === null ? null : (by.get(id) ?? null))
  return {
    ...ofCase,
    agreements: ofCase.agreements.map((one) => ({ ...one, signature: here(one.signature) })),
    things: ofCase.things.map((one) => ({
      ...one,
      steps: one.steps.map((step) => ({ ...step, signature: here(step.signature) })),
    })),
    freezes: ofCase.freezes.map((one) => ({ ...one, paper: here(one.paper) })),
  }
}

/** The same for a sheet. */
export const renumberedSheet = (sheet: SheetDocument, by: Renumbering): SheetDocument => ({
  ...sheet,
  blocks: sheet.blocks.map((block) =>
    block.kind === 'sign'
      ? { ...block, signature: block.signature === null ? null : (by.get(block.signature) ?? null) }
      : block,
  ),
})
