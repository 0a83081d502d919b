import { z } from 'zod'
import { FAMILIES } from '../../playbook/kinds/route-kind'

export const PLAN_FORMAT = 'russet-lantern/plan'

/** Raised with every change after which a case can get another plan, so that stored plans are made again; below 1000. */
export const ENGINE_REVISION = 5

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

/** Asking the client is one too. */
export const CONSENT = 'consent'

/** So is making a device run that does not. */
export const REPAIR = 'repair'

/** True for routes, false for the steps that only have to come before them. */
export function isRoute(option: { readonly family: string }): boolean {
  return option.family !== SAFETY && option.family !== CONSENT && option.family !== REPAIR
}

/** The first route of a plan: what it begins with once what has to come before is done. */
export function firstRouteOf(plan: Pick<Plan, 'order' | 'options'>): PlanOption | null {
  const byId = new Map(plan.options.map((option) => [option.id, option]))
  return plan.order.flatMap((id) => byId.get(id) ?? []).find(isRoute) ?? null
}

export const PlanOption = z.object({
  id: z.string(),
  kind: z.string(),
  family: z.enum([...FAMILIES, SAFETY, CONSENT, REPAIR]),
  copy: z.string().nullable(),
  title: z.string(),
  standing: z.enum(STANDINGS),
  chance: estimate,
  share: estimate,
  expected: fraction,
  /** the chance that it is tried at all, when the plan is followed */
  tried: fraction,
  /** it is tried only if less than this share of everything is back by then; null where that cannot be said */
  until: fraction.nullable(),
  /** id of the route that must have worked before it is tried, where that is always so */
  after: z.string().nullable(),
  /** whether to begin with it at once, since its answer comes later */
  beginAtOnce: z.boolean(),
  /** from what worth of everything up, in money, it would be tried; null where it is, or where no worth makes it so */
  worthFrom: z.number().nullable(),
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
  /** what to do or to leave, and why, where that does not speak for itself; together they are `says` */
  what: z.string(),
  why: z.string().nullable(),
  says: z.string(),
  from: z.array(z.string()),
  protects: z.array(z.string()),
})
export type PlanHold = z.infer<typeof PlanHold>

const range = z.tuple([z.number(), z.number(), z.number()])
const estimates = z.object({ handsOn: range, waiting: range, money: range })

/** A fact worth asking: what knowing it is worth in money, and the expected share under each answer. */
export const PlanQuestion = z.object({
  fact: z.string(),
  asks: z.string(),
  gain: z.number().min(0),
  answers: z.record(z.string(), fraction),
  /** what each answer would do to the plan: the first route then */
  leads: z.record(z.string(), z.string().nullable()),
  /** what the fact becomes under each answer; nothing where an answer does not say it exactly */
  sets: z.record(z.string(), z.unknown()),
})
export type PlanQuestion = z.infer<typeof PlanQuestion>

const loses = { money: z.number(), items: z.record(z.string(), z.number()) }

/** A plan as it is answered, stored and shown. Chances and shares are fractions of 1, times minutes. */
export const Plan = z.object({
  format: z.literal(PLAN_FORMAT),
  version: z.literal(1),
  now: iso,
  /** steps as shown: those tried while nothing has come back, then those that only other branches try */
  order: z.array(z.string()),
  /** whether all steps of the plan were weighed exactly; of many, only those that are worth most are */
  exact: z.boolean(),
  /** the unknown facts that are counted at their mean */
  folded: z.array(z.string()),
  /** until when the plan holds; null where no closing or event is ahead */
  holdsUntil: iso.nullable(),
  options: z.array(PlanOption),
  holds: z.array(PlanHold),
  /** those most worth asking first; empty where they have not been worked out yet */
  questions: z.array(PlanQuestion),
  expected: z.object({
    share: estimate,
    handsOn: z.number(),
    waiting: z.number(),
    money: z.number(),
    /** up to the first success, with its chance, and up to the stopping point; null where there is none */
    first: estimates.extend({ chance: fraction }).nullable(),
    stop: estimates.nullable(),
  }),
  waiting: z.object({
    hours: z.literal(24),
    ...loses,
    /** the same when it is begun at the next opening of the shop; null while it is open */
    opening: z.object({ at: iso, ...loses }).nullable(),
  }),
  /** the unknown facts that are separated, in so many joint states, and those counted at their mean */
  states: z.object({ count: z.int(), facts: z.array(z.string()), folded: z.array(z.string()) }),
  /** how often the first route stays first while the odds move within their ranges, and which one takes its place most often */
  sensitivity: z.object({ firstStays: fraction, rival: z.string().nullable() }).nullable(),
  /** until when the plan holds; null where no closing or event is ahead */
  until: iso.nullable(),
})
export type Plan = z.infer<typeof Plan>

/** What the plan expects of one wanted set, for the picture of what will come back. */
export const SetForecast = z
  .object({
    wanted: z.string(),
    /** number of items wanted, null where nobody knows */
    of: z.number().nullable(),
    /** share that is back already, undamaged */
    back: z.number(),
    /** share that will probably be back in the end, what is back already included */
    share: estimate.readonly(),
    /** by slice: the same, mid only */
    reached: z.array(z.number()).readonly(),
    /** edges of the slices in ms, empty where nobody knows when the items were made */
    edges: z.array(z.number()).readonly(),
  })
  .readonly()
export type SetForecast = z.infer<typeof SetForecast>

/** True once everything that is wanted is back. */
export const isAllBack = (sets: readonly SetForecast[]): boolean =>
  sets.length > 0 && sets.every(({ back }) => back > 1 - 1e-9)

/** An order that somebody prefers, against the best one. */
export const Override = z
  .object({
    /** ids of the routes, those that have to come before others put in */
    order: z.array(z.string()).readonly(),
    /** in money: what it is worth less than the best order */
    price: z.number(),
    /** expected share back in the end */
    share: estimate.readonly(),
  })
  .readonly()
export type Override = z.infer<typeof Override>

/** A plan with what the pages show beside it. */
export const FullPlan = z
  .object({
    plan: Plan,
    sets: z.array(SetForecast).readonly(),
    /** in money: what following the plan is worth, gains less costs and harms */
    value: z.number(),
    /**
     * the first route: the chance that nothing is tried after it has worked, the share of everything that is back then, and
     * the route that follows if it brings nothing
     */
    next: z.object({ ends: fraction, back: fraction, then: z.string().nullable() }).readonly().nullable(),
    /** the order that somebody put in its place, with its price; null where nobody did */
    override: Override.nullable(),
  })
  .readonly()
export type FullPlan = z.infer<typeof FullPlan>

/** The plan as JSON Schema, draft 2020-12. */
export function planJsonSchema(): object {
  return z.toJSONSchema(Plan, { target: 'draft-2020-12' })
}
