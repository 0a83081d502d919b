import { moved, routesPassed } from '~~/core/ranking/explain/own-order'
import { isSeldom } from '~~/core/ranking/explain/when-tried'
import { isRoute, type FullPlan, type PlanOption } from '~~/core/ranking/situation/plan-shape'

/**
 * The steps of a plan in the order in which they are shown, and that order changed by hand: with the arrow keys or by
 * dragging. Nothing is stored until somebody gives a reason.
 */
export function useOwnOrder(full: () => FullPlan, list: Readonly<Ref<HTMLElement | null>>) {
  const store = useOpenCaseStore()
  const session = useSessionStore()
  const byId = computed(() => new Map(full().plan.options.map((option) => [option.id, option])))
  /** hardly ever needed, and not put into an order by somebody: named below the rows */
  const isBelow = (option: PlanOption) => isSeldom(option) && !store.current.override?.order.includes(option.id)
  const order = computed(() => {
    const own = full().override?.order ?? []
    const all = [...own, ...full().plan.order.filter((id) => !own.includes(id))]
    return all.filter((id) => byId.value.has(id) && !isBelow(byId.value.get(id)!))
  })
  const planned = computed(() => order.value.flatMap((id) => byId.value.get(id) ?? []))
  const below = computed(() => full().plan.options.filter(({ standing }) => standing !== 'plan'))
  const seldom = computed(() => full().plan.options.filter((option) => isRoute(option) && isBelow(option)))

  /** the routes as somebody has just put them; null where the stored order is shown */
  const waiting = ref<string[] | null>(null)
  const rows = computed<PlanOption[]>(() => {
    if (!waiting.value) return planned.value
    const own = waiting.value.flatMap((id) => byId.value.get(id) ?? [])
    return [...planned.value.filter((option) => !isRoute(option)), ...own]
  })
  const mayMove = computed(() => session.may('work') && !store.supposed && planned.value.filter(isRoute).length > 1)

  /** Moves a route up (negative) or down among the routes. */
  function move(id: string, by: number) {
    if (!mayMove.value || by === 0) return
    const routes = planned.value.filter(isRoute).map((option) => option.id)
    waiting.value = moved(waiting.value ?? routes, id, by) ?? waiting.value
  }

  useDragOrder(
    list,
    '.number',
    (item, by) => {
      const shown = rows.value.map((option) => ({ id: option.id, isRoute: isRoute(option) }))
      const id = item.dataset.option ?? ''
      move(id, routesPassed(shown, id, by))
    },
    () => mayMove.value,
  )

  return { planned, seldom, below, rows, waiting, move }
}
