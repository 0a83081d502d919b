import { z } from 'zod'
import { instant } from '../cases/shape/moment'
import { PAPER_KINDS, SheetSize } from '../playbook/printing'
import { SheetDocument } from './document'

export { PAPER_KINDS, type PaperKind } from '../playbook/printing'

/** A sheet that was made for a client, in the list of a case. */
export const Paper = z.object({
  id: z.int(),
  kind: z.enum(PAPER_KINDS),
  number: z.string(),
  at: instant,
  by: z.string(),
})
export type Paper = z.infer<typeof Paper>

/** What somebody asks to be made; receipts come with what they are for. */
export const PaperAsk = z.object({ kind: z.enum(['options', 'report', 'annex']) })

/** The number by which a sheet that was made is read. */
export const PaperMade = z.object({ id: z.int() })

/** A sheet as it was made, and the size that the shop prints its kind in. */
export const PrintedSheet = z.object({ sheet: SheetDocument, size: SheetSize })
