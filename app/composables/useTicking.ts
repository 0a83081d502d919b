import { useIntervalFn } from '@vueuse/core'

/** The server's time as a ref that is updated every second, for what is shown as a running clock (ms). */
export function useTicking() {
  const session = useSessionStore()
  const now = ref(session.now())
  useIntervalFn(() => {
    now.value = session.now()
  }, 1000)
  return now
}
