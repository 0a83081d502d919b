import { type Find, type FindCounts, type FindFilter, FindPage } from '~~/core/bench/filter'

const PAGE = 100
/** Items of one day that are shown before it is opened. */
export const EACH = 17

/** What a listing found, by the filter of the sentence; pages are fetched as they come into sight. */
export function useFinds(listing: Ref<number>, filter: Ref<FindFilter>) {
  const store = useBenchStore()
  const counts = shallowRef<FindCounts | null>(null)
  const pages = shallowRef(new Map<number, Find[]>())
  const days = shallowRef(new Map<string, Find[]>())
  const trouble = ref<string | null>(null)
  /** whether the counts and rows belong to the current filter */
  const isOfFilter = ref(false)
  let generation = 0
  /** the first row of the list that is in sight */
  let inSight = 0

  const query = (more: Record<string, string | number>) =>
    store.path(`/listings/${listing.value}?${queryOf({ ...filter.value, ...more })}`)

  async function ask(more: Record<string, string | number>): Promise<FindPage | null> {
    const own = generation
    try {
      const page = await api(FindPage, 'GET', query(more))
      trouble.value = null
      return own === generation ? page : null
    } catch (error) {
      if (own === generation) trouble.value = failureWords(error)
      return null
    }
  }

  /** how many refreshes are under way */
  let refreshing = 0

  /** Asks again; visible rows stay until the answer arrives. */
  async function refresh() {
    refreshing++
    try {
      await askAgain()
    } finally {
      refreshing--
    }
  }

  async function askAgain() {
    generation++
    asked.clear()
    if (listing.value === 0) {
      counts.value = null
      return
    }
    const page = await ask({ counts: 1, limit: PAGE })
    if (!page) return
    // Visible rows are fetched before they replace the old ones, so that nothing jumps.
    const there = new Set(page.counts?.days.map(({ day }) => day ?? 'none'))
    const again = [...days.value.keys()].filter((day) => there.has(day)).slice(0, 60)
    const shown = again.length > 0 ? await ask({ days: again.join(','), each: EACH }) : null
    if (again.length > 0 && !shown) return
    const far = Math.floor(inSight / PAGE)
    const seen = far === 0 ? null : await ask({ offset: far * PAGE, limit: PAGE })
    if (far > 0 && !seen) return
    counts.value = page.counts
    pages.value = new Map([[0, page.finds], ...(seen ? [[far, seen.finds] as const] : [])])
    days.value = new Map(again.map((day) => [day, findsOf(day, shown!.finds)]))
    isOfFilter.value = true
  }

  const findsOf = (day: string, all: readonly Find[]) =>
    all.filter((find) => (day === 'none' ? find.day === null : (find.day?.startsWith(day) ?? false)))

  const asked = new Set<string>()

  /** Loads the items from `from` to `to` where they are missing. */
  async function needRows(from: number, to: number) {
    inSight = from
    for (let page = Math.floor(from / PAGE); page <= Math.floor(to / PAGE); page++) {
      const key = `page ${page}`
      if (pages.value.has(page) || asked.has(key)) continue
      asked.add(key)
      const answer = await ask({ offset: page * PAGE, limit: PAGE })
      if (answer) pages.value = new Map(pages.value).set(page, answer.finds)
    }
  }

  /** Loads the first items of these days where they are missing. */
  async function needDays(wanted: readonly string[]) {
    const missing = wanted.filter((day) => !days.value.has(day) && !asked.has(day))
    if (missing.length === 0) return
    for (const day of missing) asked.add(day)
    const answer = await ask({ days: missing.join(','), each: EACH })
    if (!answer) return
    const next = new Map(days.value)
    for (const day of missing) next.set(day, findsOf(day, answer.finds))
    days.value = next
  }

  const rowAt = (index: number): Find | null => pages.value.get(Math.floor(index / PAGE))?.[index % PAGE] ?? null

  /** Shows a selection at once and sends it; if that fails, the old one is shown again. */
  async function select(which: { finds?: number[]; filter?: FindFilter; day?: string | null }, isSelected: boolean) {
    const touched = (find: Find) =>
      which.finds
        ? which.finds.includes(find.find)
        : which.day === undefined || (find.day?.startsWith(which.day ?? ' ') ?? which.day === null)
    // Which items outside the visible part are affected is not known here.
    const isElsewhere = which.filter !== undefined && which.filter.place !== filter.value.place
    if (!isElsewhere) change((find) => (touched(find) ? { ...find, isSelected } : find))
    try {
      await apiDo('POST', store.path(`/listings/${listing.value}/select`), {
        ...which,
        ...(which.finds ? {} : { filter: which.filter ?? filter.value }),
        isSelected,
      })
    } catch (error) {
      tellFailure(error)
    }
    // What a refresh has asked before this selection would be shown after it.
    if (isElsewhere || refreshing > 0) return refresh()
    const page = await ask({ counts: 1, limit: 0 })
    if (page) counts.value = page.counts
  }

  function change(to: (find: Find) => Find) {
    pages.value = new Map([...pages.value].map(([at, finds]) => [at, finds.map(to)]))
    days.value = new Map([...days.value].map(([at, finds]) => [at, finds.map(to)]))
  }

  watch(
    [listing, filter],
    () => {
      inSight = 0
      isOfFilter.value = false
      void refresh()
    },
    { immediate: true, deep: true },
  )
  /** The list has changed: its counts are not those of the filter until the answer arrives. */
  function outdate() {
    isOfFilter.value = false
    void refresh()
  }
  return { counts, pages, days, trouble, isOfFilter, refresh, outdate, needRows, needDays, rowAt, select }
}
export type Finds = ReturnType<typeof useFinds>
