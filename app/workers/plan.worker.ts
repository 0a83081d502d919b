import type { Case } from '~~/core/cases/case'
import type { Playbook } from '~~/core/playbook/playbook'
import type { Evidence } from '~~/core/ranking/evidence'
import { fullPlanOf, type FullPlan } from '~~/core/ranking/plan'

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

/** The same core as on the server, away from the thread that types. */
self.onmessage = ({ data }: MessageEvent<PlanRequest>) => {
  base = data.base ?? base
  if (!base) return
  const { playbook, evidence } = base
  const full = fullPlanOf(data.ofCase, playbook, data.now, { evidence, depth: data.depth })
  self.postMessage({ id: data.id, depth: data.depth, full } satisfies PlanReply)
}
