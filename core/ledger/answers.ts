import { z } from 'zod'
import { CASE_STATES } from '../cases/shape/states'
import { FirstChoice, HoldRecord } from './choices'
import { Drift } from './drift'
import { RUN_ENDS } from './ended-run'
import { HOUR_GROUPS } from './hours'
import { Lamp } from './lamps'
import { CoursePoint, Learned, OddsRange } from './learning'
import { Tally } from './tally'

const Group = z.object({ key: z.string(), title: z.string(), tally: Tally })
export type LedgerGroup = z.infer<typeof Group>

/** How runs are grouped beside their kinds. */
export const GROUPINGS = ['family', 'platform', 'device', 'type', 'loss', 'by'] as const
export type Grouping = (typeof GROUPINGS)[number]

/** A kind of route with runs in the period: what they came to, its odds over all time, and the course of those. */
export const RouteLine = Group.extend({
  odds: OddsRange.nullable(),
  /** the odds run by run, thinned: ms and mid */
  course: z.array(z.tuple([z.number(), z.number()])),
  drift: Drift.nullable(),
})
export type RouteLine = z.infer<typeof RouteLine>

/** A lamp; of one outside of its bracket, the kind that is behind most of the difference. */
export const ExplainedLamp = Lamp.extend({ mostly: z.object({ kind: z.string(), title: z.string() }).nullable() })
export type ExplainedLamp = z.infer<typeof ExplainedLamp>

/** What works here: everything on the ledger’s page. */
export const LedgerAnswer = z.object({
  total: Tally,
  lamps: z.array(ExplainedLamp),
  routes: z.array(RouteLine),
  groups: z.record(z.enum(GROUPINGS), z.array(Group)),
  hours: z.array(z.object({ group: z.enum(HOUR_GROUPS), minutes: z.number() })),
  firsts: z.array(FirstChoice.extend({ title: z.string() })),
  holds: z.array(HoldRecord),
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
const KindLearned = Learned.extend({ kind: z.string(), title: z.string(), family: z.string(), note: z.string() })
export type KindLearned = z.infer<typeof KindLearned>
export const LearnedAnswer = z.array(KindLearned)
export type LearnedAnswer = z.infer<typeof LearnedAnswer>

/** The same of one kind, with every run that the odds count, oldest first. */
export const KindAnswer = KindLearned.extend({
  course: z.array(CoursePoint),
})
export type KindAnswer = z.infer<typeof KindAnswer>
