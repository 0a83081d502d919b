import { z } from 'zod'
import type { Case } from '../../cases/shape/case'
import { titleOf } from '../../cases/telling/title'
import type { Playbook } from '../../playbook/playbook'
import type { Weights } from '../../playbook/shop'
import { planChanges } from './changes'
import type { Plan } from '../situation/plan-shape'
import { fullPlanOf } from './plan'

const Pair = z.tuple([z.number(), z.number()]).readonly()

/** What other weights change in one plan, before and after. */
export const Weighed = z.object({
  about: z.string(),
  /** title of the first step */
  next: z.tuple([z.string().nullable(), z.string().nullable()]).readonly(),
  /** hands-on minutes that the plan is expected to take */
  minutes: Pair,
  /** how many steps are in the plan */
  steps: Pair,
  /** the share of everything that is expected back */
  expected: Pair,
})
export type Weighed = z.infer<typeof Weighed>
export const WeighedList = z.array(Weighed)

/** The plans of some cases with other weights beside those that there are. `now`: ms. */
export function weighed(cases: readonly Case[], playbook: Playbook, weights: Weights, now: number): Weighed[] {
  const other = { ...playbook, shop: { ...playbook.shop, weights } }
  return cases.map((ofCase) => {
    const planBy = (book: Playbook) => fullPlanOf(ofCase, book, now, { depth: 'order' }).plan
    const [before, after] = [planBy(playbook), planBy(other)]
    const pair = (of: (plan: Plan) => number) => [of(before), of(after)] as const
    return {
      about: titleOf(ofCase),
      next: planChanges(before, after).next,
      minutes: pair((plan) => plan.expected.handsOn),
      steps: pair((plan) => plan.order.length),
      expected: pair((plan) => plan.expected.share[1]),
    }
  })
}
