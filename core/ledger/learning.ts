import type { RouteKind } from '../playbook/kinds/route-kind'
import { oddsAfter } from '../ranking/figures/odds'
import type { Estimate } from '../ranking/situation/estimate'
import { driftOf, type Drift, type Lesson } from './drift'

/** What the shop's runs taught about one kind of route. */
export interface Learned {
  readonly prior: Estimate
  /** in runs */
  readonly priorWeight: number
  readonly runs: number
  /** how much came back, in runs */
  readonly came: number
  readonly odds: Estimate
  /** what the odds would be after one more run that brings everything, and after one that brings nothing */
  readonly next: readonly [worked: number, failed: number]
  readonly drift: Drift | null
}

/** Lessons: the counted runs of the kind, oldest first. */
export function learnedOf({ prior }: Pick<RouteKind, 'prior'>, lessons: readonly Lesson[]): Learned {
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
export interface CoursePoint {
  readonly at: number
  readonly came: number
  readonly odds: Estimate
}

/** The same without ranges, which take long to find: ms, and the odds after that run. */
export function meansOf({ prior }: Pick<RouteKind, 'prior'>, lessons: readonly Lesson[]): [at: number, odds: number][] {
  let [sum, weight] = [prior.chance * prior.weight, prior.weight]
  return lessons.map(({ ended, came }) => {
    sum += came
    weight += 1
    return [ended, sum / weight]
  })
}

/** The course of one kind's odds, run by run. */
export function courseOf({ prior }: Pick<RouteKind, 'prior'>, lessons: readonly Lesson[]): CoursePoint[] {
  let sum = 0
  return lessons.map(({ ended, came }, at) => {
    sum += came
    return { at: ended, came, odds: oddsAfter(prior, at + 1, sum) }
  })
}

/** At most so many of a list, evenly spread, with its last. */
export function thinned<T>(list: readonly T[], most: number): T[] {
  if (list.length <= most) return [...list]
  return Array.from({ length: most }, (_, at) => list[Math.round(((at + 1) * list.length) / most) - 1]!)
}
