import type { Case } from '~~/core/cases/shape/case'
import type { Playbook } from '~~/core/playbook/playbook'
import type { Evidence } from '~~/core/ranking/situation/evidence'
import { fullPlanOf } from '~~/core/ranking/explain/plan'
import type { FullPlan } from '~~/core/ranking/situation/plan-shape'

/** What a plan is asked for with; the playbook and the evidence come again only where they changed. */
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
 * The browser makes code fast only once it has run a few times. The first order is made so many times more,
 * between messages, so that the first answers that are typed do not wait for that.
 */
const REHEARSALS = 8
let rehearsed = 0

/** The same core as on the server, away from the thread that types. */
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
