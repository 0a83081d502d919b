import type { Considered } from './consider'
import { expectedShareOf } from './expected'
import { exactSteps, neededFor, plannedFor, restrictedFor } from '../order/planned'
import type { Restricted } from '../order/policy'
import { isPreparation } from '../order/preparations'
import { withOnly } from '../order/problem'
import type { Override } from '../situation/plan-shape'

/**
 * A preferred order as of now: closed routes are left out, what a route requires is put in front of it, and the rest of
 * the best plan comes after it. It is followed as given while nothing has come back; once something has, a step of it is
 * still tried where it is worth that. Its price is the best plan's value less its own.
 */
export function overrideOf(considered: Considered, order: readonly number[], preferred: readonly string[]): Override {
  const { live, built, axes } = considered
  const { problem } = built
  const wanted = preferred.flatMap((id) => {
    const index = live.findIndex((option) => option.id === id)
    return index < 0 ? [] : neededFor(problem, index)
  })
  const first = [...new Set(wanted)]
  const steps = [...new Set([...first, ...order.flatMap((step) => neededFor(problem, step))])]
  const exact = exactSteps(problem, first)
  const own = restrictedFor(problem, exact, inOrder(steps, first, considered, exact))
  return {
    order: steps.map((step) => live[step]!.id),
    price: Math.max(0, plannedFor(problem, exact).value - own.value),
    share: expectedShareOf(built, own.next, axes),
  }
}

/**
 * The restrictions of an order: its first steps have to be tried while nothing has come back, unless what they need has
 * failed; the others may be left out; none may change places. Steps are counted among the exact ones.
 */
function inOrder(
  steps: readonly number[],
  first: readonly number[],
  { live, built }: Considered,
  exact: readonly number[],
): Restricted {
  const within = (some: readonly number[]) =>
    some.flatMap((step) => (exact.includes(step) ? [exact.indexOf(step)] : []))
  const order = within(steps)
  const forced = within(first)
  const needs = withOnly(built.problem, exact).steps.map(({ requires }) => setOf(requires))
  const routes = setOf([...exact.keys()].filter((at) => !isPreparation(live[exact[at]!]!)))
  const placeOf = (step: number) => (order.includes(step) ? order.indexOf(step) : order.length)
  const lastOf = (tried: number) =>
    [...exact.keys()].reduce((last, step) => (tried & (1 << step) ? Math.max(last, placeOf(step)) : last), -1)
  return {
    mayFollow: (step, tried) => placeOf(step) >= lastOf(tried),
    forced: ({ worked, failed, void: closed }) => {
      if (worked & routes) return null
      const tried = worked | failed | closed
      return forced.find((step) => !(tried & (1 << step)) && (worked & needs[step]!) === needs[step]) ?? null
    },
  }
}

const setOf = (steps: readonly number[]) => steps.reduce((so, step) => so | (1 << step), 0)
