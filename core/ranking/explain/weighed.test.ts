import { expect, it } from 'vitest'
import { defaultPlaybook } from '../../playbook/playbook'
import { NOW } from '../../testing/case-with'
import { workedCases } from '../../testing/worked-cases'
import { weighed } from './weighed'

const playbook = defaultPlaybook()
const { weights } = playbook.shop
const cases = workedCases()
  .filter(({ name }) => ['card-deleted-and-put-aside', 'clicking-disk', 'gallery-bin-was-on'].includes(name))
  .map(({ ofCase }) => ofCase)

it('other weights are tried on cases without being taken', () => {
  expect(cases).toHaveLength(3)
  const same = weighed(cases, playbook, weights, NOW)
  expect(
    same.every(
      ({ next, steps, expected }) => next[0] === next[1] && steps[0] === steps[1] && expected[0] === expected[1],
    ),
  ).toBe(true)
  // Where a minute costs more than everything is worth, nothing is worth trying.
  const dear = weighed(cases, playbook, { ...weights, handsOnMinute: 10_000 }, NOW)
  expect(dear.every(({ minutes, expected }) => minutes[1] <= minutes[0] && expected[1] <= expected[0])).toBe(true)
  expect(dear.some(({ expected }) => expected[1] < expected[0])).toBe(true)
})
