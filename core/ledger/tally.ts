import { cameOf, endOf, type EndedRun } from './ended-run'

/** What a group of runs came to. Minutes and money are sums, in minutes and in the shop's currency. */
export interface Tally {
  readonly runs: number
  /** something came back */
  readonly worked: number
  readonly failed: number
  /** a condition was not met */
  readonly gate: number
  /** ended by time or by the client */
  readonly undecided: number
  /** how much of what was in reach came back, in runs: over `decided` it is the share brought back */
  readonly came: number
  /** runs of which it is known what they brought */
  readonly decided: number
  readonly back: number
  readonly whole: number
  readonly damaged: number
  readonly handsOn: number
  readonly waiting: number
  readonly spent: number
  readonly charged: number
}

const NOTHING: Tally = {
  runs: 0,
  worked: 0,
  failed: 0,
  gate: 0,
  undecided: 0,
  came: 0,
  decided: 0,
  back: 0,
  whole: 0,
  damaged: 0,
  handsOn: 0,
  waiting: 0,
  spent: 0,
  charged: 0,
}

export function tallyOf(runs: readonly EndedRun[]): Tally {
  const sum: { -readonly [Key in keyof Tally]: Tally[Key] } = { ...NOTHING }
  for (const run of runs) {
    const end = endOf(run)
    sum.runs++
    sum[end]++
    sum.came += cameOf(run) ?? 0
    if (end !== 'undecided') sum.decided++
    sum.back += run.back
    sum.whole += run.whole
    sum.damaged += Math.max(0, run.back - run.whole - run.unverified)
    sum.handsOn += run.handsOn
    sum.waiting += run.waiting
    sum.spent += run.spent
    sum.charged += run.charged
  }
  return sum
}

/** A tally for each value that a run has, largest group first. */
export function talliesBy(runs: readonly EndedRun[], of: (run: EndedRun) => string): [key: string, tally: Tally][] {
  const groups = new Map<string, EndedRun[]>()
  for (const run of runs) {
    const key = of(run)
    const group = groups.get(key)
    if (group) group.push(run)
    else groups.set(key, [run])
  }
  return [...groups]
    .map(([key, group]): [string, Tally] => [key, tallyOf(group)])
    .sort((one, other) => other[1].runs - one[1].runs || one[0].localeCompare(other[0]))
}
