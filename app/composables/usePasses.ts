import { PassBegun } from '~~/core/bench/answers'
import type { MediumShape, PassOptions, PassShape, PassWish } from '~~/core/bench/medium'

/** The selected medium and its scans; when one starts, ends or is removed, the whole bench is loaded again. */
export function usePasses(link: Ref<string | null>) {
  const store = useBenchStore()
  const told = shallowRef<readonly PassShape[]>([])
  const medium = computed<MediumShape | null>(() => store.bench?.media.find((one) => one.link === link.value) ?? null)
  watch(
    () => store.heardPasses,
    (passes) => {
      const before = signOf(told.value)
      told.value = passes
      if (signOf(passes) !== before) void store.load()
    },
  )
  watch(
    () => store.bench?.passes,
    (passes) => {
      if (passes) told.value = passes
    },
    { immediate: true },
  )
  /** the newest pass over the medium at hand */
  const pass = computed(() => told.value.find((one) => one.link === link.value) ?? null)
  return { medium, pass }
}

const signOf = (passes: readonly PassShape[]) => passes.map(({ id, state }) => `${id} ${state}`).join()

/** What can be done with passes; each shows the bench as it then is. */
export function usePassDeeds() {
  const store = useBenchStore()
  return {
    start: async (link: string, options: PassOptions): Promise<number | null> => {
      let listing: number | null = null
      await store.doing(async () => {
        listing = (await api(PassBegun, 'POST', store.path(`/links/${link}/pass`), options)).listing
      })
      return listing
    },
    wish: (pass: number, wish: PassWish) => store.doing(() => apiDo('PUT', store.path(`/passes/${pass}`), { wish })),
  }
}
