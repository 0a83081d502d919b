import type { Case } from '~~/core/cases/shape/case'
import type { Playbook } from '~~/core/playbook/playbook'
import type { Evidence } from '~~/core/ranking/situation/evidence'
import { fullPlanOf } from '~~/core/ranking/explain/plan'
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'

/** A request for a plan; playbook and evidence are sent again only after they changed. */
export interface PlanRequest {
  readonly id: number
  readonly depth: 'order' | 'whole'
  readonly ofCase: Case
  readonly now: number
  readonly base: { readonly playbook: Playbook; readonly evidence: Evidence } | null
}

export interface PlanReply {
  readonly id: number
  readonly depth: 'order' | 'whole'
  readonly full: FullPlan
}

let base: NonNullable<PlanRequest['base']> | null = null

/**
 * The browser optimises code only once it has run a few times, so the first order is computed this many times more,
 * between messages. The first answers that somebody types then do not wait for it.
 */
const REHEARSALS = 8
let rehearsed = 0

/** The same core as on the server, away from the thread that handles typing. */
self.onmessage = ({ data }: MessageEvent<PlanRequest>) => {
  base = data.base ?? base
  if (!base) return
  const { playbook, evidence } = base
  const made = () => fullPlanOf(data.ofCase, playbook, data.now, { evidence, depth: data.depth })
  self.postMessage({ id: data.id, depth: data.depth, full: made() } satisfies PlanReply)
  const rehearse = () => {
    if (rehearsed++ >= REHEARSALS) return
    made()
    setTimeout(rehearse)
  }
  if (data.depth === 'order') setTimeout(rehearse)
}
