import { withFacts } from '../../core/cases/facts/facts'
import { emptyCase, type Case } from '../../core/cases/shape/case'
import type { Playbook } from '../../core/playbook/playbook'
import type { Weights } from '../../core/playbook/shop'
import { weighed, type Weighed } from '../../core/ranking/explain/weighed'
import { demoCases } from '../../stand-ins/shop/cases'
import { demoTimes } from '../../stand-ins/shop/times'

/** A phone with several ways, a worn card, and a laptop that was set up again. */
const SHOWN = ['Carrick · hatchling photos', 'Heron watch · worn card', 'Hanna Quay · laptop set up again']

/** What other weights would change in the plans of three cases of the demo. `now`: ms. */
export function weighedOnDemo(playbook: Playbook, weights: Weights, now: number): Weighed[] {
  const cases = demoCases(demoTimes(now, playbook.shop.zone)).flatMap(({ facts }): Case[] => {
    const title = facts.find(({ fact }) => fact === 'title')?.is
    const set = SHOWN.includes(String(title)) ? withFacts(emptyCase(), facts) : null
    return set?.ok ? [set.changed] : []
  })
  return weighed(cases, playbook, weights, now)
}
