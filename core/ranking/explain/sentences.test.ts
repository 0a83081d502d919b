import fc from 'fast-check'
import { expect, it } from 'vitest'
import type { Case } from '../../cases/shape/case'
import { defaultPlaybook } from '../../playbook/playbook'
import { NOW } from '../../testing/case-with'
import { randomCase } from '../../testing/random-cases'
import { workedCases } from '../../testing/worked-cases'
import { planOf } from './plan'

const playbook = defaultPlaybook()

/** Sentences that say no, and those that say yes; what they say has to be what the figure says. */
const SAYS_NO =
  /did not go through a bin|not just moved|holds? none|was emptied|has been emptied|itself is gone|went with|cannot recover|There is no such|no longer there|before any of them was made|read as zeros|nothing is left under it|nobody needs|does not want|does not run, so|nothing was deleted there|has nothing to do with it/
const SAYS_YES =
  /but it kept the bin\.|They are still there\.|They were stored on it\.|ordinary deletion goes through|It works\.|can be unlocked\.|bin was on\.|There is such a copy\.|password are known\.|before the loss and after they were made/

function expectNoContradiction(ofCase: Case, now: number) {
  for (const { id, factors } of planOf(ofCase, playbook, now, { depth: 'order' }).options)
    for (const { name, value, says } of factors) {
      // A reason that names its set is that of this set alone.
      if (/ \([a-z ]+\)\.$/.test(says)) continue
      if (SAYS_NO.test(says)) expect(value, `${id} ${name}: ${says}`).toBeLessThan(0.1)
      if (SAYS_YES.test(says)) expect(value, `${id} ${name}: ${says}`).toBeGreaterThan(0.6)
    }
}

it.each(workedCases().map((one) => [one.name, one] as const))(
  'no sentence of a route contradicts its figure: %s',
  (_name, { ofCase, now }) => expectNoContradiction(ofCase, now),
)

it('no sentence of a route contradicts its figure in any case', () => {
  fc.assert(
    fc.property(randomCase, (ofCase) => expectNoContradiction(ofCase, NOW)),
    { numRuns: 150 },
  )
})
