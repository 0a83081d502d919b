import { useDocumentVisibility, useEventListener, useEventSource, useIntervalFn, useThrottleFn } from '@vueuse/core'
import { BenchNews, PassNews } from '~~/core/bench/bench'

/** While the connection is down, the bench is loaded this often. */
const WITHOUT_LINE_MS = 6000
const MIN_BETWEEN_MS = 1000

/** Keeps the bench of a case current: the server sends what is new, and only then is anything loaded. */
export function useBenchNews() {
  const store = useBenchStore()
  const session = useSessionStore()
  // A browser keeps few connections to one server open, so a hidden page closes its own.
  const visibility = useDocumentVisibility()
  const isSeen = computed(() => visibility.value === 'visible' && !session.lock)
  const address = computed(() => (store.code && isSeen.value ? store.path('/events') : undefined))
  const { data, event, status } = useEventSource(address, ['passes', 'bench'], { autoReconnect: { delay: 2000 } })
  const loadSoon = useThrottleFn(() => void store.load(), MIN_BETWEEN_MS, true)
  watch(
    data,
    (text) => {
      if (!text) return
      if (event.value === 'passes') store.heardPasses = PassNews.parse(JSON.parse(text))
      else hear(BenchNews.parse(JSON.parse(text)))
    },
    { flush: 'sync' },
  )

  function hear({ isStale, listings, shelf, fetches }: BenchNews) {
    if (isStale) void loadSoon()
    else store.hear({ ...(listings && { listings }), ...(shelf && { shelf }), ...(fetches && { fetches }) })
  }
  useIntervalFn(() => status.value !== 'OPEN' && isSeen.value && void store.load(), WITHOUT_LINE_MS)
  watch(isSeen, (is) => is && void store.load())
  useEventListener('focus', () => void store.load())
}
