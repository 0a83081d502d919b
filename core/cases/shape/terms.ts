import { z } from 'zod'
import { choice, fact, name } from './fact'
import { instant, Moment } from './moment'

/** Whose data it is, and why this person may ask for it. */
export const Authority = z.object({
  basis: choice(['own', 'parent', 'employer', 'estate', 'none']),
  whose: fact(name(120)),
  /** who agreed, where the data are not the bringer's own */
  agreedBy: fact(name(120)),
  /** which proof was seen that they may */
  proof: choice(['identity', 'certificate', 'letter', 'court-paper', 'known-here', 'none']),
  /** who saw the proof, and when */
  seenBy: z.string().max(120).optional(),
  seenAt: instant.optional(),
})
export type Authority = z.infer<typeof Authority>

const money = z.number().min(0, 'is below zero').max(10_000_000)

export const BUDGETS = ['little', 'usual', 'whatever'] as const
export type Budget = (typeof BUDGETS)[number]

/** What the client can spend, when it has to be done, and who may see the data. */
export const Limits = z.object({
  money: fact(money),
  /** how much effort it is worth to them, where they name no sum */
  budget: choice(BUDGETS),
  deadline: fact(Moment),
  /** in-house: others may see it, but nothing leaves the house */
  seenBy: choice(['us-only', 'in-house', 'anyone']),
  /** what having everything back is worth to this client; the shop's usual figure where unknown */
  worth: fact(money),
})
export type Limits = z.infer<typeof Limits>

const agreement = z
  .object({
    answer: choice(['given', 'refused']),
    by: z.string().max(120).optional(),
    at: instant.optional(),
  })
  .prefault({})

/** What the client has agreed to; a price limit is in the limits. */
export const Consent = z.object({
  lookThrough: agreement,
  erase: agreement,
  laboratory: agreement,
})
export type Consent = z.infer<typeof Consent>
