import { z } from 'zod'
import type { Case } from '../../cases/shape/case'
import { DATA_TYPES } from '../../cases/shape/data-types'
import { PLATFORMS } from '../../cases/shape/device'
import { known, UNKNOWN } from '../../cases/shape/fact'
import { isUndecided, undamagedOf, type Run } from '../../cases/shape/run'
import { countOf } from '../../cases/shape/wanted'
import { ACCESS_GATES } from '../../playbook/kinds/route-kind'
import { clamped } from './estimate'

export const RUNS_FORMAT = 'russet-lantern/runs'

/** What one ended run teaches: how much of what was reachable came back, or the gate that it failed on. */
export const RunOutcome = z.object({
  kind: z.string().min(1).max(60),
  platform: z.enum([...PLATFORMS, UNKNOWN]).default(UNKNOWN),
  type: z.enum([...DATA_TYPES, UNKNOWN]).default(UNKNOWN),
  /** the part of what was reachable that came back, 0 to 1; null where it failed on a gate */
  came: z.number().min(0).max(1).nullable().default(null),
  failedOn: z.string().max(60).nullable().default(null),
  /** the gates of which nobody knew, when it began, whether they were met */
  open: z.array(z.string().max(60)).max(30).default([]),
})
export type RunOutcome = z.infer<typeof RunOutcome>

/** The outcomes of many runs, as they are exchanged. */
export const RunsFile = z.object({
  format: z.literal(RUNS_FORMAT),
  version: z.literal(1),
  runs: z.array(RunOutcome).max(200_000),
})
export type RunsFile = z.infer<typeof RunsFile>

const Tally = z.object({ runs: z.number().min(0), came: z.number().min(0) }).readonly()
type Tally = z.infer<typeof Tally>
const Tallies = z.record(z.string(), Tally).readonly()

/** Sums over runs, by kind|platform|type and by kind|gate: all that the odds need of them. */
export const Evidence = z.object({ routes: Tallies, gates: Tallies }).readonly()
export type Evidence = z.infer<typeof Evidence>

export const NO_EVIDENCE: Evidence = { routes: {}, gates: {} }
const NOTHING: Tally = { runs: 0, came: 0 }

/** The outcomes summed up. */
export function evidenceOf(outcomes: Iterable<RunOutcome>): Evidence {
  const routes: Record<string, Tally> = {}
  const gates: Record<string, Tally> = {}
  const add = (table: Record<string, Tally>, key: string, came: number) => {
    const so = table[key] ?? NOTHING
    table[key] = { runs: so.runs + 1, came: so.came + came }
  }
  for (const { kind, platform, type, came, failedOn, open } of outcomes) {
    if (failedOn !== null) add(gates, `${kind}|${failedOn}`, 0)
    else {
      // What nobody knew before a run that got through has turned out to be met.
      for (const gate of open) add(gates, `${kind}|${gate}`, 1)
      if (came === null) continue
      add(routes, `${kind}`, came)
      add(routes, `${kind}|${platform}`, came)
      add(routes, `${kind}|${platform}|${type}`, came)
    }
  }
  return { routes, gates }
}

/** What is known of a kind: its runs elsewhere, those of this platform with other data, those just like it. */
export function routeTallies(
  { routes }: Evidence,
  kind: string,
  platform: string,
  type: string,
): readonly [elsewhere: Tally, otherData: Tally, alike: Tally] {
  const all = routes[kind] ?? NOTHING
  const samePlatform = routes[`${kind}|${platform}`] ?? NOTHING
  const alike = routes[`${kind}|${platform}|${type}`] ?? NOTHING
  return [without(all, samePlatform), without(samePlatform, alike), alike]
}

const without = (all: Tally, part: Tally): Tally => ({
  runs: all.runs - part.runs,
  came: Math.max(0, all.came - part.came),
})

/** How often a gate of a kind, unknown before, turned out to be met. */
export function gateTally({ gates }: Evidence, kind: string, gate: string): Tally {
  return gates[`${kind}|${gate}`] ?? NOTHING
}

/** What the ended runs of a case teach. Where time ran out or the client stopped it, nobody knows what it would have recovered. */
export function outcomesOf(ofCase: Case): RunOutcome[] {
  return ofCase.runs
    .filter((run) => run.ended !== null && !isUndecided(run.cause))
    .map((run) => outcomeOfRun(run, ofCase))
}

/** What one run of a case teaches, on which platform family and for which type of data. */
export function outcomeOfRun(run: Run, ofCase: Case): RunOutcome {
  const copy = ofCase.copies.find((one) => one.id === run.copy)
  const source = run.option.slice(run.option.indexOf(':') + 1)
  const device = ofCase.devices.find((one) => one.id === source || one.id === copy?.device) ?? ofCase.devices[0] ?? null
  const most = run.results.reduce<(typeof run.results)[number] | null>(
    (so, result) => (!so || result.back > so.back ? result : so),
    null,
  )
  const leading = ofCase.wanted.find((set) => set.id === most?.wanted) ?? ofCase.wanted[0]
  const failedOn = run.failedOn ?? (run.cause === 'access' ? onlyAccessGate(run) : null)
  return {
    kind: run.kind,
    platform: device?.platform ?? UNKNOWN,
    type: leading?.type ?? UNKNOWN,
    came: failedOn === null && run.cause !== 'access' ? cameBack(run, ofCase) : null,
    failedOn,
    // Where access failed, the gates that were unknown have not turned out to be met.
    open: run.cause === 'access' ? [] : (run.predicted?.gates ?? []),
  }
}

/** The gate that a refused access teaches: the one that nobody knew, where it was only one. */
function onlyAccessGate(run: Run): string | null {
  const unknown = (run.predicted?.gates ?? []).filter((gate) => ACCESS_GATES.includes(gate))
  return unknown.length === 1 ? unknown[0]! : null
}

/** Items back without damage over items that were in reach; where nobody counted them, whether anything came back at all. */
function cameBack(run: Run, ofCase: Case): number {
  if (run.hasFailed) return 0
  if (run.safetyCopy) return 1
  const back = run.results.reduce((sum, result) => sum + undamagedOf(result), 0)
  const inReach = ofCase.wanted.reduce((sum, set) => {
    const reach = run.predicted?.reach[set.id]
    if (!reach || reach.length === 0 || !known(set.count)) return sum
    return sum + (countOf(set) * reach.reduce((so, share) => so + share, 0)) / reach.length
  }, 0)
  if (inReach < 0.5) return back > 0 ? 1 : 0
  return clamped(back / inReach)
}

/** The outcomes as JSON Schema, draft 2020-12, as a reader of such files would use it. */
export function runsJsonSchema(): object {
  return z.toJSONSchema(RunsFile, { io: 'input', target: 'draft-2020-12' })
}
