import { z } from 'zod'
import { name, partId, text } from './fact'
import { instant } from './moment'
import { RunClock } from './run-clock'

const fraction = z.number().min(0).max(1)

/** What one run brought back of one wanted set; items that an earlier run brought do not count again. */
export const RunResult = z
  .object({
    wanted: partId,
    back: z.int().min(0, 'is below zero').max(100_000_000),
    /** how many of them open and are whole */
    whole: z.int().min(0, 'is below zero').max(100_000_000),
    /** how many of them are unverified; what is neither is damaged */
    unverified: z.int().min(0, 'is below zero').max(100_000_000).default(0),
  })
  .refine((result) => result.whole <= result.back, { message: 'more are whole than came back', path: ['whole'] })
  .refine((result) => result.whole + result.unverified <= Math.max(result.back, result.whole), {
    message: 'more are whole or unverified than came back',
    path: ['whole'],
  })
export type RunResult = z.infer<typeof RunResult>

/** Items that came back without damage: intact or unverified. */
export const undamagedOf = ({ whole, unverified }: Pick<RunResult, 'whole' | 'unverified'>): number =>
  whole + unverified

/** What one run found of one wanted set, and how much of it was copied to the shelf and verified. */
export const RunShelf = z.object({
  wanted: partId,
  found: z.int().min(0).max(100_000_000),
  copied: z.int().min(0).max(100_000_000),
  verified: z.int().min(0).max(100_000_000),
  /** of the verified copies, how whole the items are */
  whole: z.int().min(0).max(100_000_000).default(0),
  unverified: z.int().min(0).max(100_000_000).default(0),
  damaged: z.int().min(0).max(100_000_000).default(0),
})
export type RunShelf = z.infer<typeof RunShelf>

/**
 * What must be recorded of a safety copy before anything is erased: read back, its number of items, and where it is.
 */
export const SafetyReport = z.object({
  isReadBack: z.literal(true, 'has to be said: opened or read back, and compared'),
  place: name(200),
  items: z.int().min(1, 'have to be counted').max(100_000_000),
})
export type SafetyReport = z.infer<typeof SafetyReport>

/** A line of the run sheet that somebody ticked: a gate, something that has to be ready, or a step. */
export const SheetCheck = z.object({
  line: z.string().regex(/^(gate:[a-z-]{1,60}|ready:\d{1,2}|step:\d{1,2})$/, 'is no line of a run sheet'),
  by: name(80),
  at: instant,
})

/** The most notes that one run holds. */
export const MAX_NOTES = 200

/** A note that was made while a run was open. */
const RunNote = z.object({ at: instant, by: name(80), text: name(1000) })

/**
 * Why a run failed. What the odds learn from it differs: a gate or access teaches the gate; nothing there, damaged and
 * overwritten teach the route; where time ran out or the client stopped it, nothing is learned.
 */
export const RUN_CAUSES = [
  'gate',
  'access',
  'nothing-there',
  'damaged',
  'overwritten',
  'out-of-time',
  'client-stopped',
] as const
export type RunCause = (typeof RUN_CAUSES)[number]

/** Causes after which the same route can be tried again without any fact having changed. */
export const isUndecided = (cause: RunCause | null): boolean => cause === 'out-of-time' || cause === 'client-stopped'

/** That somebody left a run out of the odds, and why. */
export const LeftOut = z.object({ reason: name(400), by: name(80), at: instant })

/** One attempt at a route. */
export const Run = z.object({
  id: partId,
  option: z.string().min(1).max(120),
  kind: z.string().min(1).max(60),
  copy: z.string().max(60).nullable().default(null),
  title: name(160),
  by: name(80),
  started: instant,
  ended: instant.nullable().default(null),
  handsOnMinutes: z.number().min(0, 'is below zero').max(100_000).default(0),
  money: z.number().min(0, 'is below zero').max(10_000_000).default(0),
  results: z.array(RunResult).max(50).default([]),
  /** counted at the bench during the run */
  shelf: z.array(RunShelf).max(50).default([]),
  /** the gate that it failed on, so that the odds do not count it */
  failedOn: z.string().max(60).nullable().default(null),
  /** it was tried and did not work, for a reason other than a gate */
  hasFailed: z.boolean().default(false),
  /** why it failed; null where it did not, and for runs from before causes were asked for */
  cause: z.enum(RUN_CAUSES).nullable().default(null),
  waitingMinutes: z.number().min(0, 'is below zero').max(1_000_000).default(0),
  clock: RunClock.nullable().default(null),
  checks: z.array(SheetCheck).max(60).default([]),
  notes: z.array(RunNote).max(MAX_NOTES).default([]),
  /** of a safety copy that was made */
  safetyCopy: SafetyReport.nullable().default(null),
  note: text(2000).default(''),
  /** what the plan expected when the run started, to compare prediction and outcome */
  predicted: z
    .object({
      chance: fraction,
      share: fraction,
      reach: z.record(z.string(), z.array(fraction).max(400)),
      /** the gates that were not known to be met */
      gates: z.array(z.string().max(60)).max(30).default([]),
      /** its place in the order that was shown, from 1; null where it was not in it */
      place: z.int().min(1).max(1000).nullable().default(null),
    })
    .nullable()
    .default(null),
  /** why the odds do not learn from it, such as the wrong device; null where they do */
  leftOut: LeftOut.nullable().default(null),
})
export type Run = z.infer<typeof Run>

/** What somebody reports when a run ends. */
export const RunReport = z.object({
  handsOnMinutes: Run.shape.handsOnMinutes.unwrap(),
  money: Run.shape.money,
  results: Run.shape.results,
  failedOn: Run.shape.failedOn,
  hasFailed: Run.shape.hasFailed,
  cause: Run.shape.cause,
  waitingMinutes: Run.shape.waitingMinutes,
  safetyCopy: Run.shape.safetyCopy,
  note: Run.shape.note,
})
export type RunReport = z.infer<typeof RunReport>
/** The same as it is typed: what is left out has its usual value. */
export type RunReportInput = z.input<typeof RunReport>
