import { z } from 'zod'

/**
 * What is printed for a client: receipts for what was handed in, given back and paid, what can be tried, and the report, with
 * its annex or without.
 */
export const PAPER_KINDS = ['received', 'returned', 'options', 'paid', 'report', 'annex'] as const
export type PaperKind = (typeof PAPER_KINDS)[number]

/** Sizes of paper (ISO 216; ANSI A), in mm. */
export const SHEET_SIZES = { A4: [210, 297], A5: [148, 210], letter: [215.9, 279.4] } as const
export const SheetSize = z.enum(Object.keys(SHEET_SIZES) as [keyof typeof SHEET_SIZES, ...(keyof typeof SHEET_SIZES)[]])
export type SheetSize = z.infer<typeof SheetSize>

const millimetres = (least: number) =>
  z.number('is not a number').min(least, `is below ${least} mm`).max(210, 'is above 210 mm')

/** What the shop prints on: a size for each kind of sheet, A4 where none is named, and the labels of its label printer. */
export const Printing = z.object({
  sheets: z.partialRecord(z.enum(PAPER_KINDS), SheetSize).default({}),
  /** mm */
  labelWidth: millimetres(40).default(62),
  labelHeight: millimetres(20).default(29),
})
export type Printing = z.infer<typeof Printing>

/** The size that a kind of sheet is printed in. */
export const sizeOfSheet = ({ sheets }: Pick<Printing, 'sheets'>, kind: PaperKind): SheetSize => sheets[kind] ?? 'A4'
