import { describe, expect, it } from 'vitest'
import { DAY_MS, isoOf } from '../cases/shape/moment'
import { caseWith, endedRun, NOW } from '../testing/case-with'
import { defaultPlaybook } from '../playbook/playbook'
import { caseLineOf, deadlineOf } from './case-line'
import { holdRecords } from './choices'
import { endedRunsOf, endOf, fromElsewhere, isCounted, type EndedRun } from './ended-run'
import { LedgerFilter, timeOf } from './filter'
import { HOUR_GROUPS, hoursOf, isInHours } from './hours'
import { bookOf, ledgerOf } from './ledger'
import { learnedOf } from './learning'

const { kinds } = defaultPlaybook()
const facts = {
  'devices.d1': { kind: 'camera', platform: 'camera' },
  'copies.c1': { kind: 'medium', device: 'd1', storage: { kind: 'card' } },
  'wanted.w1': { type: 'photos', count: 100 },
  'loss.how': 'formatted',
}
const back = (count: number) => [{ wanted: 'w1', back: count, whole: count, unverified: 0 }]
const predicted = (chance: number) => ({ chance, share: 1, reach: { w1: [1] }, gates: [], place: 1 })
const scan = (id: string, count: number, more = {}) =>
  endedRun(count > 0 ? back(count) : [], {
    id,
    option: 'medium-deep-scan:c1',
    kind: 'medium-deep-scan',
    copy: 'c1',
    handsOnMinutes: 20,
    waitingMinutes: 90,
    hasFailed: count === 0,
    predicted: predicted(0.85),
    ...more,
  })
const rows = (runs: ReturnType<typeof scan>[], more = {}) => endedRunsOf({ ...caseWith(facts), runs, ...more })
const ledger = (runs: EndedRun[], more = {}) =>
  ledgerOf({ runs, cases: [], lessons: new Map(), kinds, from: 0, to: NOW, now: NOW, people: ['Bram Hollis'], ...more })

describe('the ledger', () => {
  it('counts what was tried, what worked, and what it cost, for each way of grouping', () => {
    const runs = [...rows([scan('r1', 80), scan('r2', 0)]), ...rows([scan('r1', 0, { cause: 'out-of-time' })])]
    const { total, routes, groups } = ledger(runs)
    expect(total).toMatchObject({ runs: 3, worked: 1, failed: 1, undecided: 1, came: 0.8, decided: 2, handsOn: 60 })
    expect(routes).toMatchObject([{ key: 'medium-deep-scan', tally: { runs: 3 } }])
    expect(groups.device).toMatchObject([{ key: 'card', title: 'memory card' }])
    expect(groups.loss).toMatchObject([{ title: 'lost in a format' }])
    expect(groups.by).toMatchObject([{ key: 'Bram' }])
    expect(ledger(runs, { people: null })).toMatchObject({ groups: { by: [] }, people: [] })
  })

  it('counts neither training nor what was left out with a reason', () => {
    const leftOut = { reason: 'wrong device', by: 'Bram', at: isoOf(NOW) }
    const [run] = rows([scan('r1', 0, { leftOut })])
    const [practised] = rows([scan('r1', 0)], { isTraining: true })
    expect([isCounted(run!), isCounted(practised!)]).toEqual([false, false])
    expect(ledger([run!])).toMatchObject({ total: { runs: 0 }, leftOut: 1 })
    expect(fromElsewhere(scan('r1', 3), 'Bram', isoOf(NOW)).leftOut?.reason).toMatch(/another shop/)
    expect(fromElsewhere(scan('r1', 3, { leftOut }), 'Suda', isoOf(NOW)).leftOut).toEqual(leftOut)
  })

  it('names the kind behind a lamp that did not keep its word', () => {
    const runs = Array.from({ length: 30 }, () => rows([scan('r1', 0)])).flat()
    const lamp = ledger(runs).lamps[8]!
    expect(lamp).toMatchObject({ count: 30, actual: 0, isKept: false, mostly: { kind: 'medium-deep-scan' } })
  })

  it('says what came first and whether it was right, by the first run of each case that decided something', () => {
    const first = scan('r1', 0, { cause: 'client-stopped', ended: isoOf(NOW - DAY_MS) })
    const runs = rows([first, scan('r2', 90), scan('r3', 0, { ended: isoOf(NOW + DAY_MS) })])
    expect(ledger(runs).firsts).toMatchObject([{ kind: 'medium-deep-scan', first: 1, worked: 1, asPlanned: 1 }])
    // A run that was left out came first for nobody.
    const leftOut = { reason: 'wrong device', by: 'Bram', at: isoOf(NOW) }
    expect(rows([scan('r1', 0, { leftOut }), scan('r2', 5)]).map(({ isFirst }) => isFirst)).toEqual([false, true])
  })

  it('sets what was waived beside the cases that kept the same hold', () => {
    const mark = (is: string) => ({
      hold: 'stop-using-d2',
      mark: is as 'waived',
      reason: 'needs it',
      by: 'Bram',
      at: isoOf(NOW),
    })
    const line = (is: string, count: number) =>
      caseLineOf({ ...caseWith(facts), holds: [mark(is)], runs: count > 0 ? [scan('r1', count)] : [] })
    expect(holdRecords([line('waived', 0), line('waived', 20), line('ticked', 80)])).toEqual([
      { hold: 'stop-using', waived: 2, waivedBack: 0.1, kept: 1, keptBack: 0.8 },
    ])
    expect(holdRecords([line('ticked', 80)])).toEqual([])
  })

  it('counts the client’s deadlines by the day on which it was ready', () => {
    expect(deadlineOf(null, null, 10)).toBeNull()
    expect([deadlineOf(5, 5, 10), deadlineOf(5, 6, 10), deadlineOf(5, null, 10), deadlineOf(5, null, 4)]).toEqual([
      'kept',
      'missed',
      'missed',
      'ahead',
    ])
    const line = caseLineOf(caseWith({ ...facts, 'limits.deadline': { from: isoOf(NOW), to: isoOf(NOW + DAY_MS) } }))
    const cases = [
      { line: { ...line, logged: NOW, state: 'ready' as const }, done: NOW + DAY_MS },
      { line: { ...line, logged: NOW - 4 * DAY_MS }, done: null },
    ]
    const { deadlines, open } = ledger([], { cases })
    expect(deadlines).toEqual({ kept: 1, missed: 0, ahead: 1 })
    expect(open).toMatchObject([
      { state: 'logged', ages: [0, 0, 1, 0, 0, 0] },
      { state: 'ready', ages: [1, 0, 0, 0, 0, 0] },
    ])
  })

  it('shows where the hours went: hands, machine, and waiting for somebody', () => {
    const { family } = bookOf(kinds)
    const asked = { ...scan('r2', 0), kind: 'ask-sender', option: 'ask-sender:c1' }
    expect(hoursOf(rows([scan('r1', 1), asked]), family)).toEqual([
      ['scans-machine', 90],
      ['scans-hands', 20],
      ['people', 20],
      ['waiting', 90],
    ])
    // Behind each figure are the runs that it is made of.
    const scanned = rows([scan('r1', 1)])[0]!
    expect(HOUR_GROUPS.filter((group) => isInHours(scanned, 'scan-medium', group))).toEqual([
      'scans-machine',
      'scans-hands',
    ])
    expect(isInHours(rows([asked])[0]!, 'ask-sender', 'waiting')).toBe(true)
  })

  it('tells a condition that was not met from a failure', () => {
    const [run] = rows([scan('r1', 0, { failedOn: 'passcode', hasFailed: false })])
    expect(endOf(run!)).toBe('gate')
    // Refused access teaches one gate or none; the route itself has not failed.
    expect(endOf(rows([scan('r1', 0, { cause: 'access' })])[0]!)).toBe('gate')
  })
})

describe('what was learned', () => {
  it('says what the next run would change', () => {
    const { prior, odds, next } = learnedOf({ chance: 0.5, weight: 8 }, [
      { ended: 1, came: 1 },
      { ended: 2, came: 1 },
    ])
    expect(prior[1]).toBe(0.5)
    expect(odds[1]).toBeCloseTo(6 / 10, 12)
    expect(next.map((odds) => odds.toFixed(6))).toEqual([(7 / 11).toFixed(6), (6 / 11).toFixed(6)])
  })
})

describe('the period', () => {
  it('of one’s own is whole days of the shop, also where the clock changes', () => {
    const filter = LedgerFilter.parse({ period: 'days', from: '2026-10-25', to: '2026-10-25' })
    const { from, to } = timeOf(filter, NOW, 'Europe/London')
    expect([isoOf(from), isoOf(to)]).toEqual(['2026-10-24T23:00:00.000Z', '2026-10-26T00:00:00.000Z'])
    expect(LedgerFilter.safeParse({ period: 'days', from: '2026-13-01' }).success).toBe(false)
    expect(timeOf(LedgerFilter.parse({ period: 'all' }), NOW, 'UTC')).toEqual({ from: 0, to: NOW })
  })
})
