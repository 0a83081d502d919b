import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { DAY_MS, HOUR_MS } from '../../core/cases/shape/moment'
import { defaultPlaybook } from '../../core/playbook/playbook'
import { fullPlanOf } from '../../core/ranking/explain/plan'
import { openDatabase, type Database } from '../db/open'
import { plans } from '../db/tables'
import { Failure } from '../failure'
import { writePlaybook } from '../settings'
import { readEvidence } from './evidence'
import { planOfStored, renewPlans } from './plans'
import { readStored } from './rows'
import { openCases } from './summaries'
import { changeFacts } from './writing/facts'
import { endRun, startRun } from './writing/runs'
import { logCase } from './writing/log'
import { markHold } from './writing/holds'
import { overrideOrder } from './writing/order'

const now = Date.UTC(2026, 10, 24, 10, 42)
const playbook = defaultPlaybook({ codePrefix: 'SL' })
const bram = { by: 'Bram', now }
const BIN = 'device-photo-bin:d1'
let folder: string
let database: Database

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'lantern-'))
  database = openDatabase(folder, resolve(import.meta.dirname, '../db/migrations'))
})
afterEach(() => {
  database.$client.close()
  rmSync(folder, { recursive: true })
})

const log = (name: string, daysAgo: number) =>
  logCase(
    database,
    [
      { fact: 'client.name', is: name },
      { fact: 'authority.basis', is: 'own' },
      { fact: 'consent.lookThrough.answer', is: 'given' },
      { fact: 'devices.d1', is: { kind: 'phone', platform: 'closed-phone', lock: 'unlocked', condition: 'working' } },
      { fact: 'wanted.w1', is: { type: 'photos', count: 200 } },
      { fact: 'loss.how', is: 'deleted-in-bulk' },
      {
        fact: 'loss.when',
        is: {
          from: new Date(now - (daysAgo + 1) * DAY_MS).toISOString(),
          to: new Date(now - daysAgo * DAY_MS).toISOString(),
        },
      },
    ],
    playbook,
    bram,
  ).stored
const keptOf = (id: number) => database.select().from(plans).where(eq(plans.caseId, id)).get()

describe('kept plans', () => {
  it('are the plan of the case, with the moment until which they hold', () => {
    const stored = log('Ashby', 3)
    const full = planOfStored(database, stored, { playbook, now }, 'whole')
    expect(full).toEqual(fullPlanOf(stored.case, playbook, now))
    const kept = keptOf(stored.id)!
    expect(Date.parse(kept.until)).toBeGreaterThan(now)
    expect(JSON.parse(kept.body)).toEqual(JSON.parse(JSON.stringify(full)))
    // Asked again within that time, it is read and not made.
    expect(planOfStored(database, stored, { playbook, now: now + 60_000 }, 'whole').plan.now).toBe(full.plan.now)
  })

  it('are recomputed after a new fact, a new playbook, and when they have expired', () => {
    const stored = log('Ashby', 3)
    const first = planOfStored(database, stored, { playbook, now }, 'order')
    changeFacts(database, stored.case.code, 1, [{ fact: 'loss.how', is: 'bin-emptied' }], bram)
    const changed = readStored(database, stored.case.code)
    const second = planOfStored(database, changed, { playbook, now }, 'order')
    expect(second.plan.order).not.toEqual(first.plan.order)
    writePlaybook(database, playbook)
    expect(renewPlans(database, { playbook, now }, 10)).toBe(1)
    expect(renewPlans(database, { playbook, now }, 10)).toBe(0)
    expect(renewPlans(database, { playbook, now: now + 7 * HOUR_MS }, 10)).toBe(1)
    // A clock that was put back does not trust plans of the future.
    expect(renewPlans(database, { playbook, now }, 10)).toBe(1)
  })

  it('are what the counter reads, by what waiting costs; a few at a time are renewed for it', () => {
    for (let index = 0; index < 30; index++) log(`Client ${index}`, index % 38)
    const first = openCases(database, { playbook, now }, 'owner')
    expect(first.total).toBe(30)
    expect(first.cases.length).toBe(24)
    const then = openCases(database, { playbook, now }, 'owner')
    expect(then.cases.length).toBe(30)
    const costs = then.cases.map((one) => one.waitCost)
    expect(costs).toEqual([...costs].sort((one, other) => other - one))
    expect(costs[0]).toBeGreaterThan(0)
  })
})

describe('what runs teach', () => {
  it('is kept with the run that ended, and moves the odds of the next plan', () => {
    const stored = log('Ashby', 3)
    const before = planOfStored(database, stored, { playbook, now }, 'order')
    for (const hold of before.plan.holds)
      markHold(database, stored.case.code, { hold: hold.id, mark: 'ticked', reason: '' }, bram)
    startRun(database, stored.case.code, BIN, playbook, bram)
    expect(readEvidence(database).routes).toEqual({})
    const report = {
      handsOnMinutes: 4,
      money: 0,
      results: [{ wanted: 'w1', back: 0, whole: 0, unverified: 0 }],
      failedOn: null,
      note: '',
    }
    endRun(database, stored.case.code, 'r1', report, bram)
    expect(readEvidence(database).routes['device-photo-bin|closed-phone|photos']).toEqual({ runs: 1, came: 0 })
    const chance = (full: typeof before) => full.plan.options.find((option) => option.id === BIN)!.chance[1]
    expect(chance(planOfStored(database, log('Byrne', 3), { playbook, now }, 'order'))).toBeLessThan(chance(before))
  })
})

describe('an order of somebody’s own', () => {
  const refusal = (work: () => unknown) => {
    try {
      work()
    } catch (error) {
      if (error instanceof Failure) return error.body.message
      throw error
    }
    return null
  }

  it('is kept with its reason, leaves an entry, and goes again', () => {
    const { case: logged, id } = log('Ashby', 3)
    const order = ['look-on-phone:d1', BIN]
    expect(refusal(() => overrideOrder(database, logged.code, { order, reason: ' ' }, playbook, bram))).toContain(
      'reason',
    )
    expect(
      refusal(() => overrideOrder(database, logged.code, { order: ['no:d1'], reason: 'x' }, playbook, bram)),
    ).toContain('no:d1')
    const { stored } = overrideOrder(
      database,
      logged.code,
      { order, reason: 'She hid them once before.' },
      playbook,
      bram,
    )
    const full = planOfStored(database, stored, { playbook, now }, 'order')
    expect(full.override!.order.slice(0, 2)).toEqual(order)
    expect(full.override!.price).toBeGreaterThan(0)
    expect(JSON.parse(keptOf(id)!.summary).nextStep).toContain('look through albums')
    const back = overrideOrder(database, logged.code, { order: null, reason: '' }, playbook, bram).stored
    expect(back.case.override).toBeNull()
    expect(planOfStored(database, back, { playbook, now }, 'order').override).toBeNull()
  })
})
