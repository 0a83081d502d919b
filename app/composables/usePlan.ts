import { fullPlanOf, type FullPlan } from '~~/core/ranking/plan'

/** The plan of the open case, made here by the same core as on the server, anew with every fact. */
export function usePlan(now: Ref<number>) {
  const session = useSessionStore()
  const store = useOpenCaseStore()
  return computed<FullPlan | null>(() =>
    session.playbook ? fullPlanOf(store.current, session.playbook, now.value) : null,
  )
}
