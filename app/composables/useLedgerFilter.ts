import { LedgerFilter } from '~~/core/ledger/filter'

/** The filter of the ledger as it stands in the address, so that a figure can be opened, sent and gone back to. */
export function useLedgerFilter() {
  const route = useRoute()
  const router = useRouter()
  const filter = computed(() => {
    const read = LedgerFilter.safeParse(route.query)
    return read.success ? read.data : LedgerFilter.parse({})
  })
  /** the address of a page of the ledger with this filter and more */
  const to = (path: string, more: Partial<LedgerFilter> = {}) => ({
    path,
    query: Object.fromEntries(queryOf({ ...filter.value, ...more })),
  })
  const set = (more: Partial<LedgerFilter>) => router.replace(to(route.path, more))
  return { filter, to, set }
}
