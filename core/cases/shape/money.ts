import { z } from 'zod'
import { name, partId, text } from './fact'
import { instant } from './moment'

const amount = z
  .number()
  .min(0, 'is below zero')
  .max(10_000_000)
  .refine((sum) => Math.abs(sum * 100 - Math.round(sum * 100)) < 1e-6, 'has more than two decimals')
const written = { at: instant, by: name(80) }

/** What the client was told that it will cost: a range, and what is due when nothing comes back. */
export const Quote = z
  .object({ low: amount, high: amount, nothingBack: amount, note: text(400).default(''), ...written })
  .refine(({ low, high }) => low <= high, { message: 'is below the lower figure', path: ['high'] })
export type Quote = z.infer<typeof Quote>

/** One price that is due, tax included. A charge that was wrong is cancelled with a reason, never removed. */
export const Charge = z.object({
  id: partId,
  /** the run that it is for; null for anything else */
  run: partId.nullable().default(null),
  words: name(160),
  amount,
  ...written,
  cancelled: z
    .object({ reason: name(400), ...written })
    .nullable()
    .default(null),
})
export type Charge = z.infer<typeof Charge>

export const PAYMENT_WAYS = ['cash', 'card', 'transfer'] as const

/** Money that changed hands. A refund is a payment to the client. */
export const Payment = z.object({
  kind: z.enum(['deposit', 'payment', 'refund']),
  amount: amount.gt(0, 'is nothing'),
  way: z.enum(PAYMENT_WAYS),
  /** the number of its receipt */
  receipt: name(40),
  ...written,
})
export type Payment = z.infer<typeof Payment>

/** The money of one case, in the shop's currency, tax included. */
export const Money = z.object({
  quote: Quote.nullable().default(null),
  charges: z.array(Charge).max(200).default([]),
  payments: z.array(Payment).max(200).default([]),
  /** the tax within the prices when the first charge was made, in percent */
  taxPercent: z.number().min(0).max(100).nullable().default(null),
})
export type Money = z.infer<typeof Money>

/** What a case comes to, in the shop's currency. */
export interface Account {
  readonly total: number
  /** the tax within the total */
  readonly tax: number
  readonly paid: number
  /** still to pay; below zero where more was paid than is due */
  readonly open: number
}

const cents = (sum: number) => Math.round(sum * 100) / 100

/** What is due, what was paid and what is open. Prices hold the tax: of 120 with 20 %, 20 are tax. */
export function accountOf({ charges, payments, taxPercent }: Money): Account {
  const total = cents(charges.reduce((sum, charge) => sum + (charge.cancelled ? 0 : charge.amount), 0))
  const paid = cents(payments.reduce((sum, { kind, amount }) => sum + (kind === 'refund' ? -amount : amount), 0))
  const rate = (taxPercent ?? 0) / 100
  return { total, tax: cents((total * rate) / (1 + rate)), paid, open: cents(total - paid) }
}
