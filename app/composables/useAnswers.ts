import type { AnswerContext } from '~~/core/cases/telling/answering'

/** Time, zone and currency in which answers are read and said. */
export function useAnswerContext() {
  const session = useSessionStore()
  const now = useServerNow()
  return computed<AnswerContext>(() => ({
    now: now.value,
    zone: session.shop.zone,
    currency: session.shop.currency,
  }))
}
