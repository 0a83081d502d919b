import type { BenchNews } from '../../core/bench/bench'
import { readStored } from '../cases/rows'
import { linksOfCase } from '../links/case-links'
import { fetchesOf } from '../steps/fetches'
import { faultWords } from '../links/link-failures'
import { stateOfLink } from '../links/link-states'
import { looksOf } from '../listings/look-list'
import { shelfState } from '../shelf/shelf'

/** How often the database is looked at for what is new, and the links of a case: while one of them is at work, and else. */
const LOOK_MS = 500
const WORKING_MS = 1000
const RESTING_MS = 6000

type Tell = (news: BenchNews) => void

/** One case whose bench somebody looks at: its links are asked once for all who do. */
class Watch {
  readonly listeners = new Set<Tell>()
  private readonly said = new Map<string, string>()
  private latest: BenchNews = {}
  private changes = -1
  private isFetching = false
  private told = 0
  private nextLinks = 0
  private isLooking = false
  private readonly timer = setInterval(() => void this.look(), LOOK_MS)

  constructor(private readonly caseId: number) {}

  /** Whoever comes later hears first what was said last. */
  add(tell: Tell): void {
    this.listeners.add(tell)
    tell(this.latest)
  }

  end(): void {
    clearInterval(this.timer)
  }

  private async look(): Promise<void> {
    const { database } = useLantern()
    if (this.isLooking || !database.$client.open) return
    this.isLooking = true
    try {
      await this.tellChanges()
    } catch (error) {
      console.error(error)
    } finally {
      this.isLooking = false
    }
  }

  private async tellChanges(): Promise<void> {
    const { database } = useLantern()
    const news: BenchNews = {}
    const changes = changesOf(database)
    if (changes !== this.changes) {
      this.note(news, 'looks', looksOf(database, this.caseId))
      this.note(news, 'shelf', await shelfState(this.caseId))
    }
    // How far a backup has come stands in its file and not in the database.
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
      // Much hangs on how a link stands: the page asks for all of it then.
      if (this.said.get('links') !== undefined && this.said.get('links') !== text) news.isStale = true
      this.said.set('links', text)
    }
    if (Object.keys(news).length === 0) return
    this.latest = { ...this.latest, ...news, isStale: undefined }
    news.number = ++this.told
    for (const tell of this.listeners) tell(news)
  }

  private note<Name extends 'looks' | 'shelf' | 'fetches'>(
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

/** Goes up with every write to the database, whoever makes it: where it stands still, nothing in it is new. */
function changesOf({ $client }: ReturnType<typeof useLantern>['database']): number {
  const ofOthers = $client.pragma('data_version', { simple: true }) as number
  const own = $client.prepare('select total_changes()').pluck().get() as number
  return ofOthers * 2 ** 32 + own
}

const watches = new Map<string, Watch>()

/** Tells what is new on the bench of a case, until the function that it answers is called. */
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
