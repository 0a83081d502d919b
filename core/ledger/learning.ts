import { z } from 'zod'
import { oddsAfter, updated, type Odds } from '../ranking/figures/odds'
import { Drift, driftOf, type Lesson } from './drift'

/** Low, mid and high, 0 to 1. */
export const OddsRange = z.tuple([z.number(), z.number(), z.number()]).readonly()

/** What the shop's runs taught about one kind of route. */
export const Learned = z.object({
  prior: OddsRange,
  /** in runs */
  priorWeight: z.number(),
  runs: z.int(),
  /** how much came back, in runs */
  came: z.number(),
  odds: OddsRange,
  /** what the odds would be after one more run that brings everything, and after one that brings nothing */
  next: z.tuple([z.number(), z.number()]).readonly(),
  drift: Drift.nullable(),
})
export type Learned = z.infer<typeof Learned>

/** Lessons: the counted runs of the kind, oldest first. */
export function learnedOf(prior: Odds, lessons: readonly Lesson[]): Learned {
  const runs = lessons.length
  const came = lessons.reduce((sum, lesson) => sum + lesson.came, 0)
  return {
    prior: oddsAfter(prior, 0, 0),
    priorWeight: prior.weight,
    runs,
    came,
    odds: oddsAfter(prior, runs, came),
    next: [oddsAfter(prior, runs + 1, came + 1)[1], oddsAfter(prior, runs + 1, came)[1]],
    drift: driftOf(prior, lessons),
  }
}

/** The odds after a run: when it ended (ms), what came of it, and the range that the odds had then. */
export const CoursePoint = z.object({ at: z.number(), came: z.number(), odds: OddsRange })

/** The course of one kind's odds, run by run. */
export function courseOf(prior: Odds, lessons: readonly Lesson[]): z.infer<typeof CoursePoint>[] {
  let sum = 0
  return lessons.map(({ ended, came }, at) => {
    sum += came
    return { at: ended, came, odds: oddsAfter(prior, at + 1, sum) }
  })
}

/** The same without ranges, which take long to find: ms, and the odds after that run. */
export function meansOf(prior: Odds, lessons: readonly Lesson[]): [at: number, odds: number][] {
  let so = prior
  return lessons.map(({ ended, came }) => {
    so = updated(so, 1, came)
    return [ended, so.chance]
  })
}

/** At most so many of a list, evenly spread, with its last. */
export function thinned<T>(list: readonly T[], most: number): T[] {
  if (list.length <= most) return [...list]
  return Array.from({ length: most }, (_, at) => list[Math.round(((at + 1) * list.length) / most) - 1]!)
}
