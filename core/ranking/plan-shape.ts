import { z } from 'zod'
import { FAMILIES } from '../playbook/route-kind'

export const PLAN_FORMAT = 'russet-lantern/plan'

const fraction = z.number().min(0).max(1)
const estimate = z.tuple([fraction, fraction, fraction])
const iso = z.iso.datetime()

export const STANDINGS = ['plan', 'closed', 'harmful', 'not-worth-it', 'covered'] as const
export type Standing = (typeof STANDINGS)[number]

export const PlanFactor = z.object({
  name: z.string(),
  value: z.number().min(0),
  range: z.tuple([z.number(), z.number()]),
  fact: z.string().nullable(),
  says: z.string(),
})
export type PlanFactor = z.infer<typeof PlanFactor>

/** A safety copy is a step of the plan like any other, but of no family of routes. */
export const SAFETY = 'safety-copy'

export const PlanOption = z.object({
  id: z.string(),
  kind: z.string(),
  family: z.enum([...FAMILIES, SAFETY]),
  copy: z.string().nullable(),
  title: z.string(),
  standing: z.enum(STANDINGS),
  chance: estimate,
  share: estimate,
  expected: fraction,
  closes: z.tuple([iso.nullable(), iso.nullable()]),
  minutes: z.object({ handsOn: z.number(), waiting: z.number() }),
  money: z.object({ look: z.number(), take: z.number() }),
  harm: z.number(),
  /** share by slice of each wanted set, if the route can be carried out */
  reach: z.record(z.string(), z.array(fraction)),
  factors: z.array(PlanFactor),
  says: z.string(),
})
export type PlanOption = z.infer<typeof PlanOption>

export const PlanHold = z.object({
  id: z.string(),
  says: z.string(),
  from: z.array(z.string()),
  protects: z.array(z.string()),
})
export type PlanHold = z.infer<typeof PlanHold>

/** A plan as it is answered, stored and shown. Chances and shares are fractions of 1, times minutes. */
export const Plan = z.object({
  format: z.literal(PLAN_FORMAT),
  version: z.literal(1),
  now: iso,
  order: z.array(z.string()),
  options: z.array(PlanOption),
  holds: z.array(PlanHold),
  questions: z.array(
    z.object({ fact: z.string(), asks: z.string(), gain: z.number(), answers: z.record(z.string(), z.number()) }),
  ),
  expected: z.object({ share: estimate, handsOn: z.number(), waiting: z.number(), money: z.number() }),
  waiting: z.object({ hours: z.literal(24), money: z.number(), items: z.record(z.string(), z.number()) }),
})
export type Plan = z.infer<typeof Plan>

/** The plan as JSON Schema, draft 2020-12. */
export function planJsonSchema(): object {
  return z.toJSONSchema(Plan, { target: 'draft-2020-12' })
}
