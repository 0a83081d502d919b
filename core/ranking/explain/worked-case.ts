import { z } from 'zod'
import { withFacts } from '../../cases/facts/facts'
import { emptyCase, type Case } from '../../cases/shape/case'
import { STANDINGS, type Plan } from '../situation/plan-shape'

const between = z.tuple([z.number(), z.number()])
const ids = z.array(z.string())

/** What must come of a worked case; see the README beside the files. */
const Expectation = z.strictObject({
  first: ids.optional(),
  before: z.array(z.tuple([z.string(), z.string()])).optional(),
  planned: ids.optional(),
  standing: z.record(z.string(), z.array(z.enum(STANDINGS))).optional(),
  absent: ids.optional(),
  chance: z.record(z.string(), between).optional(),
  share: z.record(z.string(), between).optional(),
  wide: ids.optional(),
  reach: z.record(z.string(), z.record(z.string(), z.object({ first: between, last: between }))).optional(),
  closes: z.record(z.string(), z.tuple([z.string().nullable(), z.string().nullable()])).optional(),
  holds: ids.optional(),
  noHolds: ids.optional(),
  notFirst: ids.optional(),
  tried: z.record(z.string(), between).optional(),
  worthFrom: z.record(z.string(), between).optional(),
  beginAtOnce: ids.optional(),
  asks: z.string().optional(),
  asksAmong: ids.optional(),
  total: between.optional(),
  waitingCosts: z.boolean().optional(),
})

const WorkedFile = z.strictObject({
  because: z.string().min(20),
  now: z.iso.datetime().optional(),
  facts: z.record(z.string(), z.unknown()),
  ticked: ids.default([]),
  expect: Expectation,
})

export interface WorkedCase {
  readonly name: string
  readonly because: string
  readonly now: number
  readonly ofCase: Case
  readonly expect: z.infer<typeof Expectation>
}

/** Tuesday 24 November 2026, 10:42 in London: the time of worked cases that name none. */
const USUAL_NOW = Date.UTC(2026, 10, 24, 10, 42)

/** A worked case as its file has it: facts by path, days and ranges as people write them. Throws where the file is faulty. */
export function readWorkedCase(name: string, file: unknown): WorkedCase {
  const { because, now, facts, ticked, expect } = WorkedFile.parse(file)
  const changes = Object.entries(facts).map(([fact, is]) => ({ fact, is: timesRead(is) }))
  const set = withFacts(emptyCase(), changes)
  if (!set.ok) throw new Error(`${name}: ${set.faults.map(({ path, message }) => `${path} ${message}`).join('; ')}`)
  const marks = ticked.map((hold) => ({
    hold,
    mark: 'ticked' as const,
    reason: '',
    by: 'Bram',
    at: '2026-11-24T09:00:00Z',
  }))
  return { name, because, now: now ? Date.parse(now) : USUAL_NOW, ofCase: { ...set.changed, holds: marks }, expect }
}

const DAY = /^\d{4}-\d{2}-\d{2}$/
const INSTANT = /^\d{4}-\d{2}-\d{2}T[\d:]+Z$/

/** Days and moments, alone or as `from..to`, read as the ranges that cases hold. */
function timesRead(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(timesRead)
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, timesRead(inner)]))
  if (typeof value !== 'string') return value
  const [from = '', to = from] = value.split('..')
  const isTime = (one: string) => DAY.test(one) || INSTANT.test(one)
  return isTime(from) && isTime(to) ? { from: startOf(from), to: endOf(to) } : value
}

const startOf = (time: string) => (DAY.test(time) ? `${time}T00:00:00.000Z` : time)
const endOf = (time: string) =>
  DAY.test(time) ? new Date(Date.parse(`${time}T00:00:00Z`) + 86_400_000).toISOString() : time

/** Every way in which a plan is not what the worked case expects, as sentences; none where it is. */
export function contradictions({ expect }: WorkedCase, plan: Plan): string[] {
  const option = (id: string) => plan.options.find((one) => one.id === id)
  const routes = plan.order.filter((id) => !/^(safety-copy|consent|repair:)/.test(id))
  const said: string[] = []
  const rounded = (figure: number | undefined) =>
    figure === undefined ? 'nothing' : String(Math.round(figure * 1000) / 1000)
  const claim = (holds: boolean, sentence: string) => {
    if (!holds) said.push(sentence)
  }
  const lies = (value: number | undefined, [low, high]: readonly [number, number]) =>
    value !== undefined && value >= low && value <= high
  if (expect.first) claim(expect.first.includes(routes[0] ?? ''), `first is ${routes[0] ?? 'nothing'}`)
  for (const [one, other] of expect.before ?? []) {
    const [at, then] = [plan.order.indexOf(one), plan.order.indexOf(other)]
    claim(at >= 0 && (then < 0 || at < then), `${one} is not before ${other}: ${plan.order.join(', ')}`)
  }
  for (const id of expect.planned ?? [])
    claim(
      plan.order.includes(id),
      `${id} is not in the plan: ${option(id)?.standing ?? 'not offered'} ${option(id)?.says ?? ''}`,
    )
  for (const [id, standings] of Object.entries(expect.standing ?? {})) {
    const found = option(id)
    claim(
      found !== undefined && standings.includes(found.standing),
      `${id} stands as ${found?.standing ?? 'not offered'}: ${found?.says ?? ''}`,
    )
  }
  for (const id of expect.absent ?? []) claim(option(id) === undefined, `${id} is offered`)
  for (const [id, range] of Object.entries(expect.chance ?? {}))
    claim(lies(option(id)?.chance[1], range), `chance of ${id} is ${rounded(option(id)?.chance[1])}`)
  for (const [id, range] of Object.entries(expect.share ?? {}))
    claim(lies(option(id)?.share[1], range), `share of ${id} is ${rounded(option(id)?.share[1])}`)
  for (const id of expect.wide ?? []) {
    const chance = option(id)?.chance
    claim(chance !== undefined && chance[2] - chance[0] >= 0.2, `range of ${id} is ${String(chance)}`)
  }
  for (const [id, sets] of Object.entries(expect.reach ?? {}))
    for (const [set, { first, last }] of Object.entries(sets)) {
      const reach = option(id)?.reach[set]
      claim(lies(reach?.[0], first), `${id} reaches ${rounded(reach?.[0])} of the first`)
      claim(lies(reach?.at(-1), last), `${id} reaches ${rounded(reach?.at(-1))} of the last`)
    }
  for (const [id, dates] of Object.entries(expect.closes ?? {}))
    for (const [end, date] of dates.entries()) {
      const closes = option(id)?.closes[end]
      claim(
        date === null ? closes === null : (closes?.startsWith(date) ?? false),
        `${id} closes ${String(option(id)?.closes)}`,
      )
    }
  for (const id of expect.holds ?? [])
    claim(
      plan.holds.some((hold) => hold.id === id || hold.id.startsWith(`${id}-`)),
      `no hold ${id}`,
    )
  for (const id of expect.noHolds ?? []) claim(!plan.holds.some((hold) => hold.id === id), `hold ${id}`)
  for (const id of expect.notFirst ?? []) claim(routes[0] !== id, `first is ${id}`)
  for (const [id, range] of Object.entries(expect.tried ?? {}))
    claim(lies(option(id)?.tried, range), `${id} is tried in ${rounded(option(id)?.tried)}`)
  for (const [id, range] of Object.entries(expect.worthFrom ?? {}))
    claim(
      lies(option(id)?.worthFrom ?? undefined, range),
      `${id} is worth it from ${rounded(option(id)?.worthFrom ?? undefined)}`,
    )
  for (const id of expect.beginAtOnce ?? []) claim(option(id)?.beginAtOnce === true, `${id} is not begun at once`)
  const asked = plan.questions.map((question) => question.fact)
  if (expect.asks) claim(asked[0] === expect.asks, `asks ${asked.join(', ')}`)
  for (const fact of expect.asksAmong ?? []) claim(asked.includes(fact), `does not ask ${fact}: ${asked.join(', ')}`)
  if (expect.total) claim(lies(plan.expected.share[1], expect.total), `expects ${rounded(plan.expected.share[1])}`)
  if (expect.waitingCosts !== undefined)
    claim(plan.waiting.money > 0.005 === expect.waitingCosts, `waiting costs ${plan.waiting.money}`)
  return said
}
