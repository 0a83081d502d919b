import type { BenchNews } from '../../core/bench/bench'
import { readStored } from '../cases/rows'
import { linksOfCase } from '../links/case-links'
import { fetchesOf } from '../steps/fetches'
import { faultWords } from '../links/link-failures'
import { stateOfLink } from '../links/link-states'
import { listingsOf } from '../listings/listings-of-case'
import { shelfState } from '../shelf/shelf'
import { logFault } from '../log-fault'

/** How often the database is checked for changes, and the links of a case: while one of them is working, and otherwise. */
const ASK_MS = 500
const WORKING_MS = 1000
const RESTING_MS = 6000

type Tell = (news: BenchNews) => void

/** A case whose bench is open somewhere: its links are asked once for everybody who has it open. */
class Watch {
  readonly listeners = new Set<Tell>()
  private readonly said = new Map<string, string>()
  private latest: BenchNews = {}
  private changes = -1
  private isFetching = false
  private told = 0
  private nextLinks = 0
  private isAsking = false
  private readonly timer = setInterval(() => void this.ask(), ASK_MS)

  constructor(private readonly caseId: number) {}

  /** A new listener first gets the latest news. */
  add(tell: Tell): void {
    this.listeners.add(tell)
    tell(this.latest)
  }

  end(): void {
    clearInterval(this.timer)
  }

  private async ask(): Promise<void> {
    const { database } = useLantern()
    if (this.isAsking || !database.$client.open) return
    this.isAsking = true
    try {
      await this.tellChanges()
    } catch (error) {
      logFault(error)
    } finally {
      this.isAsking = false
    }
  }

  private async tellChanges(): Promise<void> {
    const { database } = useLantern()
    const news: BenchNews = {}
    const changes = changesOf(database)
    if (changes !== this.changes) {
      this.note(news, 'listings', listingsOf(database, this.caseId))
      this.note(news, 'shelf', await shelfState(this.caseId))
    }
    // The progress of a fetched backup is in its file and not in the database.
    if (changes !== this.changes || this.isFetching) {
      const fetches = await fetchesOf(this.caseId)
      this.isFetching = fetches.some(({ state }) => state === 'running')
      this.note(news, 'fetches', fetches)
    }
    this.changes = changes
    if (Date.now() >= this.nextLinks) {
      const links = await this.askLinks()
      const isWorking = links.some((one) => 'tasks' in one && one.tasks.some(({ state }) => state === 'running'))
      this.nextLinks = Date.now() + (isWorking ? WORKING_MS : RESTING_MS)
      const text = JSON.stringify(links)
      // Many parts of the page depend on the state of a link, so the page asks for everything then.
      if (this.said.get('links') !== undefined && this.said.get('links') !== text) news.isStale = true
      this.said.set('links', text)
    }
    if (Object.keys(news).length === 0) return
    this.latest = { ...this.latest, ...news, isStale: undefined }
    news.number = ++this.told
    for (const tell of this.listeners) tell(news)
  }

  private note<Name extends 'listings' | 'shelf' | 'fetches'>(
    news: BenchNews,
    name: Name,
    value: NonNullable<BenchNews[Name]>,
  ): void {
    const text = JSON.stringify(value)
    if (this.said.get(name) === text) return
    this.said.set(name, text)
    Object.assign(news, { [name]: value })
  }

  private askLinks() {
    const links = linksOfCase(this.caseId)
    return Promise.all(
      [...links].map(async (id) => {
        try {
          return await stateOfLink(id)
        } catch (error) {
          return { id, fault: faultWords(error) }
        }
      }),
    )
  }
}

/** Goes up with every write to the database, by this process or another; unchanged, nothing in it is new. */
function changesOf({ $client }: ReturnType<typeof useLantern>['database']): number {
  const ofOthers = $client.pragma('data_version', { simple: true }) as number
  const own = $client.prepare('select total_changes()').pluck().get() as number
  return ofOthers * 2 ** 32 + own
}

const watches = new Map<string, Watch>()

/** Reports changes of the bench of a case to `tell`; returns the function that ends it. */
export function watchBench(code: string, tell: Tell): () => void {
  const watch = watches.get(code) ?? new Watch(readStored(useLantern().database, code).id)
  watches.set(code, watch)
  watch.add(tell)
  return () => {
    watch.listeners.delete(tell)
    if (watch.listeners.size > 0) return
    watch.end()
    watches.delete(code)
  }
}
