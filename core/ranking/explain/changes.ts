import { isRoute, type Plan, type PlanOption } from '../situation/plan-shape'

/** What a result, or a new fact, changed in the plan. */
export interface PlanChanges {
  /** expected share back in the end, before and after; null where it is the same to a hundredth */
  readonly expected: readonly [before: number, after: number] | null
  /** titles of the next step; null where nothing is left to try. The same twice where it stayed. */
  readonly next: readonly [before: string | null, after: string | null]
  /** routes that closed, with the reason of each */
  readonly closed: readonly Pick<PlanOption, 'id' | 'title' | 'says'>[]
  /** routes that are in the plan now and were not */
  readonly opened: readonly Pick<PlanOption, 'id' | 'title' | 'says'>[]
  /** routes that are no longer worth trying, or covered by others */
  readonly dropped: readonly Pick<PlanOption, 'id' | 'title' | 'says'>[]
}

/** Compares two plans of one case. */
export function planChanges(before: Plan, after: Plan): PlanChanges {
  const was = new Map(before.options.map((option) => [option.id, option]))
  const is = new Map(after.options.map((option) => [option.id, option]))
  const titleOfFirst = ({ order }: Plan, options: ReadonlyMap<string, PlanOption>) =>
    order[0] === undefined ? null : (options.get(order[0])?.title ?? null)
  const standings = (option: PlanOption) => [was.get(option.id)?.standing ?? null, option.standing] as const
  const turned = (to: (standing: PlanOption['standing']) => boolean) =>
    after.options.filter((option) => {
      const [old, now] = standings(option)
      return isRoute(option) && old !== now && to(now) && (old !== null || now === 'plan')
    })
  const shares = [before.expected.share[1], after.expected.share[1]] as const
  return {
    expected: Math.round(shares[0] * 100) === Math.round(shares[1] * 100) ? null : shares,
    next: [titleOfFirst(before, was), titleOfFirst(after, is)],
    closed: turned((now) => now === 'closed'),
    opened: turned((now) => now === 'plan'),
    dropped: turned((now) => now === 'not-worth-it' || now === 'covered'),
  }
}

/** True where two plans differ in nothing that is worth telling. */
export const isUnchanged = ({ expected, next, closed, opened, dropped }: PlanChanges): boolean =>
  expected === null && next[0] === next[1] && closed.length + opened.length + dropped.length === 0
