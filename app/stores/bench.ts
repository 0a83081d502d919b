import type { HandoutLayout } from '~~/core/bench/shelf'
import { ListingBegun, PutBackAnswer } from '~~/core/bench/answers'
import type { ActionName, ActionParameters } from '~~/core/bench/action'
import type { PassShape } from '~~/core/bench/medium'
import { BenchAnswer, type BenchNews, Comparison } from '~~/core/bench/bench'
import type { AnswerKind } from '~~/core/bench/state'

const NOTHING: ActionParameters = { from: '', password: '', items: [], types: [] }

/** The bench of one case: its links, listings and shelf. */
export const useBenchStore = defineStore('bench', () => {
  const code = ref('')
  const bench = shallowRef<BenchAnswer | null>(null)
  const trouble = ref<string | null>(null)
  const isBusy = ref(false)
  /** the scans of the case, as the server last reported them */
  const heardPasses = shallowRef<readonly PassShape[]>([])
  let asked = 0
  let answered = 0
  let isOvertaken = false

  const path = (rest = '') => `/api/cases/${encodeURIComponent(code.value)}/bench${rest}`
  const linkPath = (link: string, rest: string) => path(`/links/${encodeURIComponent(link)}/${rest}`)

  async function open(which: string) {
    if (code.value !== which) {
      bench.value = null
      heardPasses.value = []
    }
    code.value = which
    await load()
  }

  async function load() {
    if (useSessionStore().lock) return
    const own = ++asked
    try {
      const answer = await api(BenchAnswer, 'GET', path())
      if (own !== asked) return
      answered = own
      bench.value = answer
      trouble.value = null
      if (isOvertaken) {
        isOvertaken = false
        void load()
      }
    } catch (error) {
      if (own !== asked) return
      answered = own
      // The page locks, and keeps what it shows.
      if (error instanceof ApiFailure && error.isSignedOut) return
      trouble.value = failureWords(error)
    }
  }

  let last: Promise<unknown> = Promise.resolve()

  /** Runs one write after the other and then shows the bench as the server answers it; true if it succeeded. */
  function doing(work: () => Promise<unknown>): Promise<boolean> {
    const own = last.then(() => done(work))
    last = own
    return own
  }

  async function done(work: () => Promise<unknown>): Promise<boolean> {
    isBusy.value = true
    try {
      await work()
      return true
    } catch (error) {
      tellFailure(error)
      return false
    } finally {
      await load()
      isBusy.value = false
    }
  }

  /**
   * Applies news from the server. A file that becomes a link, or the end of a run's copying, changes more than itself.
   */
  function hear(news: Pick<BenchNews, 'listings' | 'shelf' | 'fetches'>) {
    if (!bench.value) return
    // An answer under way may be older than this news, so it is requested once more.
    isOvertaken = asked !== answered
    const before = bench.value
    bench.value = { ...before, ...news }
    const isFetched = news.fetches?.some(
      ({ id, state }) => state !== before.fetches.find((one) => one.id === id)?.state,
    )
    const isCopied = news.shelf !== undefined && news.shelf.job?.state !== before.shelf.job?.state
    if (isFetched || isCopied) void load()
  }

  return {
    code,
    bench,
    trouble,
    isBusy,
    heardPasses,
    hear,
    open,
    load,
    path,
    doing,
    attach: (part: string, link: string | null) => doing(() => apiDo('PUT', path('/links'), { part, link })),
    answer: (link: string, answer: AnswerKind, value = '') =>
      doing(() => apiDo('POST', linkPath(link, 'answer'), { answer, value })),
    /** the number of the listing, or null where it could not begin */
    async list(link: string, keep: string): Promise<number | null> {
      let listing: number | null = null
      await doing(async () => {
        listing = (await api(ListingBegun, 'POST', linkPath(link, 'list'), { keep })).listing
      })
      return listing
    },
    handOut: (folder: string, layout: HandoutLayout) =>
      doing(() => apiDo('POST', path('/shelf/hand-out'), { folder, layout })),
    stopHandout: () => doing(() => apiDo('DELETE', path('/shelf/hand-out'))),
    discard: (link: string) => doing(() => apiDo('DELETE', path(`/links/${encodeURIComponent(link)}`))),
    fetch: (link: string, keep: string) => doing(() => apiDo('POST', linkPath(link, 'fetch'), { keep })),
    safetyCopy: (link: string, password: string | null = null) =>
      doing(() => apiDo('POST', linkPath(link, 'safety-copy'), { password })),
    compare: (link: string, action: ActionName, parameters: Partial<ActionParameters>) =>
      api(Comparison, 'POST', linkPath(link, 'compare'), { action, parameters: { ...NOTHING, ...parameters } }),
    act: (
      link: string,
      action: ActionName,
      parameters: Partial<ActionParameters>,
      seen: { comparison: string; waiver: string },
    ) =>
      doing(() => apiDo('POST', linkPath(link, 'act'), { action, parameters: { ...NOTHING, ...parameters }, ...seen })),
    copy: (listing: number) => doing(() => apiDo('POST', path('/shelf/copy'), { listing })),
    stopCopying: () => doing(() => apiDo('POST', path('/shelf/stop'))),
    resumeCopying: () => doing(() => apiDo('POST', path('/shelf/resume'))),
    putBack: (link: string, keep: string, items: number[]) =>
      doing(async () => {
        const { count } = await api(PutBackAnswer, 'POST', linkPath(link, 'put-back'), { keep, items })
        tellDone(`${count} put back.`)
      }),
    practise: (link: string, what: object) => doing(() => apiDo('POST', `/api/stand-ins/${link}/faults`, what)),
    reset: (link: string) => doing(() => apiDo('POST', `/api/stand-ins/${link}/reset`)),
  }
})
