import { z } from 'zod'
import { cameOf, damagedOf, endOf, type EndedRun } from './ended-run'

/** What a group of runs came to. Minutes and money are sums, in minutes and in the shop's currency. */
export const Tally = z.object({
  runs: z.int(),
  /** something came back */
  worked: z.int(),
  failed: z.int(),
  /** a condition was not met */
  gate: z.int(),
  /** ended by time or by the client */
  undecided: z.int(),
  /** how much of what was in reach came back, in runs: over `decided` it is the share brought back */
  came: z.number(),
  /** runs of which it is known what they brought */
  decided: z.int(),
  back: z.int(),
  whole: z.int(),
  damaged: z.int(),
  handsOn: z.number(),
  waiting: z.number(),
  spent: z.number(),
  charged: z.number(),
})
export type Tally = z.infer<typeof Tally>

const NOTHING = Object.fromEntries(Object.keys(Tally.shape).map((key) => [key, 0])) as Tally

export function tallyOf(runs: readonly EndedRun[]): Tally {
  const sum = { ...NOTHING }
  for (const run of runs) {
    const end = endOf(run)
    sum.runs++
    sum[end]++
    sum.came += cameOf(run) ?? 0
    if (end !== 'undecided') sum.decided++
    sum.back += run.back
    sum.whole += run.whole
    sum.damaged += damagedOf(run)
    sum.handsOn += run.handsOn
    sum.waiting += run.waiting
    sum.spent += run.spent
    sum.charged += run.charged
  }
  return sum
}

/** Runs by a value that each has, the largest group first. */
export function groupedBy(
  runs: readonly EndedRun[],
  of: (run: EndedRun) => string,
): [key: string, runs: readonly EndedRun[]][] {
  const groups = new Map<string, EndedRun[]>()
  for (const run of runs) {
    const key = of(run)
    const group = groups.get(key)
    if (group) group.push(run)
    else groups.set(key, [run])
  }
  return [...groups].sort((one, other) => other[1].length - one[1].length || one[0].localeCompare(other[0]))
}

/** A tally for each group. */
export const talliesBy = (runs: readonly EndedRun[], of: (run: EndedRun) => string): [key: string, tally: Tally][] =>
  groupedBy(runs, of).map(([key, group]) => [key, tallyOf(group)])
