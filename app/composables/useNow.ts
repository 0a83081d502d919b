import { createSharedComposable, useIntervalFn } from '@vueuse/core'

/** The server's time as a ref (ms), updated at this interval. */
function useClock(everyMs: number) {
  const session = useSessionStore()
  const now = ref(session.now())
  useIntervalFn(() => {
    now.value = session.now()
  }, everyMs)
  return now
}

/** The server's time as a ref (ms), updated twice a minute; everything shown is computed from it. */
export const useServerNow = createSharedComposable(() => useClock(30_000))

/** The same every second, for what is shown as a running clock. */
export const useTicking = () => useClock(1000)
