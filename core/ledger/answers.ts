import { z } from 'zod'
import { CASE_STATES } from '../cases/shape/states'
import { HOUR_GROUPS } from './hours'
import { RUN_ENDS } from './ended-run'

/** Low, mid and high, 0 to 1. */
const Range = z.tuple([z.number(), z.number(), z.number()]).readonly()

export const TallyShape = z.object({
  runs: z.int(),
  worked: z.int(),
  failed: z.int(),
  gate: z.int(),
  undecided: z.int(),
  came: z.number(),
  decided: z.int(),
  back: z.int(),
  whole: z.int(),
  damaged: z.int(),
  handsOn: z.number(),
  waiting: z.number(),
  spent: z.number(),
  charged: z.number(),
})

const DriftShape = z.object({ since: z.number(), runs: z.int(), came: z.number(), expected: z.number() })

const Group = z.object({ key: z.string(), title: z.string(), tally: TallyShape })
export type LedgerGroup = z.infer<typeof Group>

/** How runs are grouped beside their kinds. */
export const GROUPINGS = ['family', 'platform', 'device', 'type', 'loss', 'by'] as const
export type Grouping = (typeof GROUPINGS)[number]

/** A kind of route with runs in the period: what they came to, its odds over all time, and the course of those. */
export const RouteLine = Group.extend({
  odds: Range.nullable(),
  /** the odds run by run, thinned: ms and mid */
  course: z.array(z.tuple([z.number(), z.number()])),
  drift: DriftShape.nullable(),
})
export type RouteLine = z.infer<typeof RouteLine>

export const LampShape = z.object({
  tenth: z.int(),
  count: z.int(),
  predicted: z.number(),
  actual: z.number(),
  bracket: z.tuple([z.number(), z.number()]).readonly(),
  isKept: z.boolean(),
  /** of a lamp outside of its bracket: the kind that is behind most of the difference */
  mostly: z.object({ kind: z.string(), title: z.string() }).nullable(),
})

/** What works here: everything on the ledger’s page. */
export const LedgerAnswer = z.object({
  total: TallyShape,
  lamps: z.array(LampShape),
  routes: z.array(RouteLine),
  groups: z.record(z.enum(GROUPINGS), z.array(Group)),
  hours: z.array(z.object({ group: z.enum(HOUR_GROUPS), minutes: z.number() })),
  firsts: z.array(
    z.object({
      kind: z.string(),
      title: z.string(),
      first: z.int(),
      worked: z.int(),
      expected: z.number(),
      asPlanned: z.int(),
    }),
  ),
  holds: z.array(
    z.object({
      hold: z.string(),
      waived: z.int(),
      waivedBack: z.number().nullable(),
      kept: z.int(),
      keptBack: z.number().nullable(),
    }),
  ),
  deadlines: z.object({ kept: z.int(), missed: z.int(), ahead: z.int() }),
  /** open cases by state, and by age in days: from each bound to the next */
  open: z.array(z.object({ state: z.enum(CASE_STATES), ages: z.array(z.int()) })),
  leftOut: z.int(),
  /** who has runs; empty for people who see no figures of others */
  people: z.array(z.string()),
})
export type LedgerAnswer = z.infer<typeof LedgerAnswer>

/** From how many days on a case counts as so old. */
export const AGE_BOUNDS = [0, 1, 3, 7, 14, 30] as const

/** One run behind a figure. */
const RunLine = z.object({
  code: z.string(),
  run: z.string(),
  version: z.int(),
  ended: z.number(),
  kind: z.string(),
  title: z.string(),
  device: z.string(),
  type: z.string(),
  loss: z.string(),
  by: z.string(),
  end: z.enum(RUN_ENDS),
  chance: z.number().nullable(),
  came: z.number().nullable(),
  handsOn: z.number(),
  waiting: z.number(),
  spent: z.number(),
  leftOut: z.string().nullable(),
})
export type RunLine = z.infer<typeof RunLine>
export const RunsAnswer = z.object({ total: z.int(), runs: z.array(RunLine) })
export type RunsAnswer = z.infer<typeof RunsAnswer>

/** One case behind a figure. */
export const CasesAnswer = z.object({
  total: z.int(),
  cases: z.array(
    z.object({
      code: z.string(),
      state: z.enum(CASE_STATES),
      logged: z.number().nullable(),
      deadline: z.number().nullable(),
      done: z.number().nullable(),
      back: z.number().nullable(),
      waived: z.array(z.string()),
    }),
  ),
})
export type CasesAnswer = z.infer<typeof CasesAnswer>

/** What the shop’s runs taught about a kind of route. */
const KindLearned = z.object({
  kind: z.string(),
  title: z.string(),
  family: z.string(),
  note: z.string(),
  prior: Range,
  priorWeight: z.number(),
  runs: z.int(),
  came: z.number(),
  odds: Range,
  next: z.tuple([z.number(), z.number()]).readonly(),
  drift: DriftShape.nullable(),
})
export type KindLearned = z.infer<typeof KindLearned>
export const LearnedAnswer = z.array(KindLearned)
export type LearnedAnswer = z.infer<typeof LearnedAnswer>

/** The same of one kind, with every run that the odds count, oldest first. */
export const KindAnswer = KindLearned.extend({
  course: z.array(z.object({ at: z.number(), came: z.number(), odds: Range })),
})
export type KindAnswer = z.infer<typeof KindAnswer>
