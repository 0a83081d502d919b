import { gateAnswer } from '~~/core/bench/gate-answers'
import type { LinkState } from '~~/core/bench/state'
import type { Case } from '~~/core/cases/shape/case'
import { known } from '~~/core/cases/shape/fact'
import type { RouteKind } from '~~/core/playbook/kinds/route-kind'
import { GATE_WORDS } from '~~/core/ranking/explain/sheet'
import type { PlanOption } from '~~/core/ranking/situation/plan-shape'

/** A gate on a run sheet. */
export interface GateLine {
  readonly line: string
  readonly words: string
  /** known to be met, from the case or from the link itself: nobody has to tick it */
  readonly isMet: boolean
  /** known not to be met */
  readonly isShut: boolean
  readonly note: string
}

/** The gates of a run, each with what the link and the case say about it; a link knows better than an earlier answer. */
export function gateLines(
  kind: Pick<RouteKind, 'gates'> | null,
  option: Pick<PlanOption, 'factors'> | null,
  link: LinkState | null,
  ofCase: Pick<Case, 'wanted'>,
): GateLine[] {
  const types = ofCase.wanted.flatMap(({ type }) => (known(type) ? [type] : []))
  return (kind?.gates ?? []).map(({ gate }) => {
    const says = link && gateAnswer(gate, link, types)
    const factor = option?.factors.find(({ name }) => name === gate)
    const line = { line: `gate:${gate}`, words: GATE_WORDS[gate] }
    if (says === 'met') return { ...line, isMet: true, isShut: false, note: `${link!.title} answers` }
    if (says === 'not-met') return { ...line, isMet: false, isShut: true, note: link!.says }
    if (factor?.value === 1) return { ...line, isMet: true, isShut: false, note: factor.says }
    return { ...line, isMet: false, isShut: factor?.value === 0, note: factor?.says ?? '' }
  })
}
