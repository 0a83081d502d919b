/** What is printed for a client: receipts for what was handed in and given back, options, receipts for money, the report. */
export const PAPER_KINDS = ['received', 'returned', 'options', 'paid', 'report'] as const
export type PaperKind = (typeof PAPER_KINDS)[number]
