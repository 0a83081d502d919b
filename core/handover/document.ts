import { z } from 'zod'
import { instant } from '../cases/shape/moment'

/** A part of a printed sheet. Everything in it is plain text. */
export const SheetBlock = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('heading'), text: z.string() }),
  z.object({ kind: z.literal('text'), text: z.string(), isStrong: z.boolean().default(false) }),
  /** names and their values */
  z.object({ kind: z.literal('facts'), rows: z.array(z.tuple([z.string(), z.string()])) }),
  z.object({ kind: z.literal('list'), items: z.array(z.string()) }),
  /** the first column takes the room; those from `figuresFrom` on are figures, set to the right */
  z.object({
    kind: z.literal('table'),
    head: z.array(z.string()),
    rows: z.array(z.array(z.string())),
    figuresFrom: z.int().min(1),
  }),
  /** a code that is typed or scanned: its text as a QR code, and the words below it */
  z.object({ kind: z.literal('code'), text: z.string(), words: z.string() }),
  /** room to sign; `signature`: the attachment with what was drawn on the screen */
  z.object({ kind: z.literal('sign'), words: z.string(), name: z.string(), signature: z.int().nullable() }),
])
export type SheetBlock = z.infer<typeof SheetBlock>

/** A printed sheet: the same content is shown on the screen, printed, and made into a PDF. */
export const SheetDocument = z.object({
  title: z.string(),
  /** of the sheet, as the client can name it */
  number: z.string(),
  /** code of the case */
  code: z.string(),
  at: instant,
  /** the day and time in the shop's zone, in words */
  when: z.string(),
  shop: z.object({ name: z.string(), lines: z.array(z.string()) }),
  client: z.array(z.string()),
  blocks: z.array(SheetBlock),
  /** head of the shop's history when it was made, as printed */
  head: z.string(),
})
export type SheetDocument = z.infer<typeof SheetDocument>
