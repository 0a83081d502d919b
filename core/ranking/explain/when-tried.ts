import { HARDLY_EVER, NEARLY_ALWAYS } from '../order/course'
import type { Plan, PlanOption } from '../situation/plan-shape'

/** From this part of everything up, "less than all" is said. */
const ALL = 0.995

/**
 * When a step of the plan is still tried, in words; null where it always is. The steps are numbered as the plan lists
 * them, which `order` gives.
 */
export function whenTriedWords(
  { id, tried, until, after, beginAtOnce, minutes }: PlanOption,
  order: readonly string[],
): string | null {
  if (beginAtOnce) return `begin at once: the answer takes ${longWords(minutes.waiting)}`
  if (tried >= NEARLY_ALWAYS) return order[0] === id ? 'first' : null
  if (tried <= HARDLY_EVER) return 'hardly ever needed'
  const place = after === null ? -1 : order.indexOf(after)
  if (place >= 0) return `only if route ${place + 1} worked`
  if (until !== null) return `only if less than ${partWords(until)} came back`
  return `in ${Math.round(tried * 100)} of 100 cases`
}

function partWords(part: number): string {
  if (part >= ALL) return 'all'
  const tenths = Math.floor(part * 10 + 1e-9)
  if (tenths >= 1) return `${tenths} in 10`
  return `${Math.max(1, Math.round(part * 100))} in 100`
}

function longWords(minutes: number): string {
  const hours = Math.round(minutes / 60)
  if (hours < 20) return hours <= 1 ? 'an hour' : `${hours} hours`
  const days = Math.round(hours / 24)
  return days <= 1 ? 'a day' : `${days} days`
}

/** Whether a step is in the plan and hardly ever needed. What is there from some worth up is the plan's own. */
export const isSeldom = ({ standing, tried, worthFrom }: PlanOption): boolean =>
  standing === 'plan' && tried <= HARDLY_EVER && worthFrom === null

/** One stretch of the rail, beside one row: how likely it comes to the row, how likely it goes on, and how likely it ends. */
export interface RailPart {
  /** the chance that the row is tried */
  readonly into: number
  /** the chance that the next row on the rail is tried */
  readonly onward: number
  /** the chance that it ends between the two, with enough back */
  readonly stops: number
  /** beside the rail: it begins at once, or follows only what another route brought */
  readonly hangs: boolean
}

/** The rail beside the rows of a plan, top to bottom: its width is the chance that it comes so far. */
export function railOf(plan: Pick<Plan, 'order' | 'options'>): ReadonlyMap<string, RailPart> {
  const byId = new Map(plan.options.map((option) => [option.id, option]))
  const steps = plan.order.flatMap((id) => byId.get(id) ?? [])
  const hangs = (option: PlanOption) => option.after !== null || option.beginAtOnce
  const parts = new Map<string, RailPart>()
  let into = 1
  for (const [index, option] of steps.entries()) {
    const next = steps.slice(index + 1).find((one) => !hangs(one))
    const own = hangs(option) ? into : Math.min(into, option.tried)
    const onward = next ? Math.min(own, next.tried) : 0
    parts.set(option.id, { into: own, onward, stops: hangs(option) ? 0 : own - onward, hangs: hangs(option) })
    into = own
  }
  return parts
}

/** What a look costs and what it costs when it works, apart; null where it costs nothing. */
export function priceWords({ money }: Pick<PlanOption, 'money'>, words: (sum: number) => string): string | null {
  const { look, take } = money
  if (look + take === 0) return null
  if (take === 0) return `${words(look)}, whether it works or not`
  return look === 0 ? `${words(take)} if it works` : `${words(look)} to look, ${words(take)} if it works`
}
