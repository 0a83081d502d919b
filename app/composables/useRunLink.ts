import { useIntervalFn } from '@vueuse/core'
import { BenchAnswer } from '~~/core/bench/bench'
import type { LinkState } from '~~/core/bench/state'
import { partsReadBy } from '~~/core/cases/shape/open-runs'
import type { Run } from '~~/core/cases/shape/run'

const EVERY_MS = 8000

/** The state of the link that is attached to what an open run reads; null while there is none, or it cannot be asked. */
export function useRunLink(run: Ref<Run>) {
  const store = useOpenCaseStore()
  const session = useSessionStore()
  const bench = shallowRef<BenchAnswer | null>(null)

  async function load() {
    if (!session.may('work') || session.lock || store.code === null) return
    try {
      bench.value = await api(BenchAnswer, 'GET', `/api/cases/${encodeURIComponent(store.code)}/bench`)
    } catch {
      // The sheet works without: what no link answers is ticked by hand.
      bench.value = null
    }
  }
  watch([() => store.code, () => run.value.id], load, { immediate: true })
  useIntervalFn(() => void load(), EVERY_MS)
  return computed<LinkState | null>(() => {
    const parts = partsReadBy(run.value)
    const link = bench.value?.parts.find((one) => one.link !== null && parts.includes(one.part))?.link
    return bench.value?.links.find(({ id }) => id === link) ?? null
  })
}
