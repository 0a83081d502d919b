import type { Playbook } from '../../playbook/playbook'
import type { Case } from '../../cases/shape/case'
import type { Plan, PlanHold, PlanOption } from '../situation/plan-shape'

/**
 * A step at the bench that destroys something: its action, the part of the case that it is done to, and the copy that
 * it restores.
 */
export interface DestructiveStep {
  /** its name in the link protocol: restore, erase, turn-back; others belong to no route */
  readonly action: string
  /** id of the device or copy that it is done to */
  readonly part: string
  /** id of the copy that is restored; null where it is not known which part of the case that is */
  readonly from: string | null
}

/**
 * The routes of a plan that need such a step: those that erase the device or turn back a copy, by the effects that
 * their kinds declare. Where it is known what is restored, only the routes that read that. Empty where no route needs
 * it.
 */
export function routesAskingFor(
  step: DestructiveStep,
  plan: Pick<Plan, 'options'>,
  ofCase: Case,
  playbook: Playbook,
): PlanOption[] {
  const kinds = new Map(playbook.kinds.map((kind) => [kind.id, kind]))
  const deviceOf = (option: PlanOption) =>
    ofCase.copies.find(({ id }) => id === option.copy)?.device ?? ofCase.devices[0]?.id ?? null
  const asking = plan.options.filter((option) => {
    const effects = kinds.get(option.kind)?.effects
    if (!effects) return false
    if (step.action === 'turn-back') return effects.turnsBack && option.copy === step.part
    return (
      (step.action === 'restore' || step.action === 'erase') && effects.erasesDevice && deviceOf(option) === step.part
    )
  })
  const own = asking.filter((option) => option.copy === step.from)
  return own.length > 0 ? own : asking
}

/** The holds that protect any of these routes and are neither ticked nor waived. */
export function holdsOpenFor(routes: readonly PlanOption[], plan: Pick<Plan, 'holds'>, ofCase: Case): PlanHold[] {
  const marked = new Set(ofCase.holds.map(({ hold }) => hold))
  const ids = new Set(routes.map(({ id }) => id))
  return plan.holds.filter((hold) => !marked.has(hold.id) && hold.protects.some((id) => ids.has(id)))
}
