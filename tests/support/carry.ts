import assert from 'node:assert/strict'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { FindPage } from '../../core/bench/filter'
import type { BenchAnswer, Comparison } from '../../core/bench/bench'
import type { Evidence } from '../../core/bench/medium'
import type { SessionAnswer } from '../../core/people/session'
import { AGREED } from './cases'
import { Client } from './client'
import type { Name } from './people'
import { Server } from './server'

/** A line of a shelf's manifest; finds from a medium have evidence. */
interface OnShelf {
  path: string
  sha256: string
  isVerified: boolean
  from: { item: string }
  evidence: Pick<Evidence, 'extents' | 'checks'>
}

/** A technician at the server's routes: what the screen does, without the screen. */
export class Technician {
  constructor(
    public request: Client,
    readonly server: Server,
  ) {}

  async ask<T>(method: 'GET' | 'POST' | 'PUT' | 'PATCH', path: string, data?: unknown): Promise<T> {
    const answer = await this.request.fetch(path, method, { data })
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`)
    const text = await answer.text()
    return (text === '' ? undefined : JSON.parse(text)) as T
  }

  /** what a refused request says, with its code */
  async refused(
    method: 'GET' | 'POST' | 'PUT',
    path: string,
    data?: unknown,
  ): Promise<{ code: string; message: string }> {
    const answer = await this.request.fetch(path, method, { data })
    assert(!answer.ok, `${path} should have been refused`)
    return answer.json()
  }

  async log(facts: Record<string, unknown>): Promise<string> {
    const changes = Object.entries({ ...AGREED, ...facts }).map(([fact, is]) => ({ fact, is }))
    return (await this.ask<{ case: { code: string } }>('POST', '/api/cases', { changes })).case.code
  }

  set(code: string, facts: Record<string, unknown>) {
    return this.ask<{ version: number }>('GET', `/api/cases/${code}`).then(({ version }) =>
      this.ask('PATCH', `/api/cases/${code}`, {
        version,
        changes: Object.entries(facts).map(([fact, is]) => ({ fact, is })),
      }),
    )
  }

  /** begins the run of a route after clearing the holds that the server names */
  async begin(code: string, option: string): Promise<string> {
    const start = () => this.request.post(`/api/cases/${code}/runs`, { data: { version: 0, option } })
    let answer = await start()
    if (answer.status === 409) {
      const { fields, message } = (await answer.json()) as { fields: { path: string }[]; message: string }
      const holds = fields.flatMap(({ path }) => (path.startsWith('holds.') ? [path.slice('holds.'.length)] : []))
      if (holds.length === 0) throw new Error(message)
      for (const hold of holds) await this.tick(code, hold)
      answer = await start()
    }
    const begun = (await answer.json()) as { case: { runs: { id: string }[] } }
    assert(answer.ok, JSON.stringify(begun))
    return begun.case.runs.at(-1)!.id
  }

  end(code: string, run: string, results: { wanted: string; back: number; whole: number }[]) {
    return this.ask('PUT', `/api/cases/${code}/runs/${run}`, {
      version: 0,
      report: { handsOnMinutes: 5, money: 0, results, failedOn: null, note: '' },
    })
  }

  bench = (code: string) => this.ask<BenchAnswer>('GET', `/api/cases/${code}/bench`)
  attach = (code: string, part: string, link: string) =>
    this.ask<BenchAnswer>('PUT', `/api/cases/${code}/bench/links`, { part, link })
  answer = (code: string, link: string, answer: string, value = '') =>
    this.ask('POST', `/api/cases/${code}/bench/links/${link}/answer`, { answer, value })

  async until(code: string, is: (bench: BenchAnswer) => boolean): Promise<BenchAnswer> {
    for (let tries = 0; tries < 300; tries++) {
      const bench = await this.bench(code)
      if (is(bench)) return bench
      await new Promise((wait) => setTimeout(wait, 40))
    }
    throw new Error('It did not come to that.')
  }

  /** minutes go by; whoever was signed in signs in again */
  async pass(minutes: number) {
    const { now, person, demoPeople } = await this.ask<SessionAnswer>('GET', '/api/session')
    await this.ask('PUT', '/api/clock', { now: new Date(Date.parse(now) + minutes * 60_000).toISOString() })
    const { signIn, password } = demoPeople.find((one) => one.signIn === person?.signIn)!
    await this.ask('POST', '/api/session', { signIn, password })
  }

  async list(code: string, link: string, keep: string): Promise<number> {
    const { listing } = await this.ask<{ listing: number }>('POST', `/api/cases/${code}/bench/links/${link}/list`, {
      keep,
    })
    const bench = await this.until(
      code,
      ({ listings }) => listings.find((one) => one.id === listing)?.state !== 'listing',
    )
    assert.equal(bench.listings.find((one) => one.id === listing)?.state, 'whole')
    return listing
  }

  finds = (code: string, listing: number, query = '') =>
    this.ask<FindPage>('GET', `/api/cases/${code}/bench/listings/${listing}?limit=500&counts=1&${query}`)

  /** copies everything in the filter to the shelf; returns the shelf's files with their bytes */
  async toShelf(code: string, listing: number, filter: object): Promise<(OnShelf & { bytes: Buffer })[]> {
    await this.ask('POST', `/api/cases/${code}/bench/listings/${listing}/select`, { filter, isSelected: true })
    await this.ask('POST', `/api/cases/${code}/bench/shelf/copy`, { listing })
    await this.until(code, ({ shelf }) => shelf.job?.state !== 'running')
    return this.shelf(code)
  }

  /** the shelf by its manifest, with the bytes on disk, each checked against its checksum */
  shelf(code: string) {
    const folder = join(this.server.data, 'shelf', code)
    if (!existsSync(join(folder, 'manifest.json'))) return []
    const { items } = JSON.parse(readFileSync(join(folder, 'manifest.json'), 'utf8')) as {
      items: OnShelf[]
    }
    return items.map((item) => {
      const bytes = readFileSync(join(folder, item.path))
      assert.equal(createHash('sha256').update(bytes).digest('hex'), item.sha256)
      assert(item.isVerified)
      return { ...item, bytes }
    })
  }

  tick(code: string, hold: string) {
    return this.ask('POST', `/api/cases/${code}/holds`, { version: 0, hold, mark: 'ticked' })
  }

  /** shows what a step would do, ticks its holds, and starts it */
  async act(code: string, link: string, action: string, parameters: object) {
    const { guards } = await this.compare(code, link, action, parameters)
    for (const { hold } of guards) if (hold) await this.tick(code, hold)
    const seen = await this.compare(code, link, action, parameters)
    return this.ask('POST', `/api/cases/${code}/bench/links/${link}/act`, {
      action,
      parameters,
      comparison: seen.comparison,
    })
  }

  compare = (code: string, link: string, action: string, parameters: object) =>
    this.ask<Comparison>('POST', `/api/cases/${code}/bench/links/${link}/compare`, { action, parameters })
}

/** A server with the demo's shop, and one of its people at it. */
export async function openShop(env: Record<string, string> = {}, name: Name = 'bram'): Promise<Technician> {
  const server = new Server({ LANTERN_DEMO: '1', ...env })
  await server.start()
  return new Technician(await new Client(server.address).signIn(name), server)
}

/** The same for as long as some work takes, with Ottilie, the owner, to do it. */
export async function opened(
  env: Record<string, string>,
  work: (tech: Technician, server: Server) => Promise<void>,
): Promise<void> {
  const tech = await openShop(env, 'ottilie')
  try {
    await work(tech, tech.server)
  } finally {
    await tech.server.remove()
  }
}
