import { createSharedComposable, useIntervalFn } from '@vueuse/core'

/** The server's time as a ref (ms), updated twice a minute; everything shown is computed from it. */
export const useServerNow = createSharedComposable(() => {
  const session = useSessionStore()
  const now = ref(session.now())
  useIntervalFn(() => {
    now.value = session.now()
  }, 30_000)
  return now
})
