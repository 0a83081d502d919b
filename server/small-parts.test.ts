import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { describe, expect, it } from 'vitest'
import { CASE_STATES } from '../core/cases/shape/states'
import { DATA_TYPES } from '../core/cases/shape/data-types'
import { may, NewPerson, initialsOf } from '../core/people/person'
import { clockFrom } from './clock'
import { readStored } from './cases/rows'
import { openCases } from './cases/summaries'
import { cases } from './db/tables'
import { openDatabase } from './db/open'
import { fillWithDemo } from './stand-ins/demo'
import { readPlaybook } from './settings'

describe('the clock', () => {
  it('begins at the given instant and runs on from there', () => {
    let system = 1_000_000
    const clock = clockFrom('2026-11-24T10:42:00Z', () => system)
    system += 5000
    expect(clock.now()).toBe(Date.UTC(2026, 10, 24, 10, 42, 5))
    clock.set(77)
    system += 1
    expect(clock.now()).toBe(78)
  })

  it('is the real time unless set, and refuses an invalid one', () => {
    expect(clockFrom(undefined, () => 42).now()).toBe(42)
    expect(() => clockFrom('half past nine')).toThrow('half past nine')
  })
})

describe('people', () => {
  it('counter staff log and look, technicians work, the owner also keeps the people', () => {
    expect(['log', 'work', 'close', 'people'].map((deed) => may('counter', deed as 'log'))).toEqual([
      true,
      false,
      false,
      false,
    ])
    expect(may('technician', 'work')).toBe(true)
    expect(may('technician', 'people')).toBe(false)
    expect(may('owner', 'people')).toBe(true)
  })

  it('have a sign-in name of plain letters and a password of ten characters or more', () => {
    const person = { name: 'Bram Hollis', signIn: 'Bram', password: 'towpath-heron-4', role: 'technician' }
    expect(NewPerson.parse(person).signIn).toBe('bram')
    for (const bad of [
      { password: 'short' },
      { signIn: 'b' },
      { signIn: 'bram hollis' },
      { name: '' },
      { role: 'king' },
    ])
      expect(NewPerson.safeParse({ ...person, ...bad }).success).toBe(false)
    expect([initialsOf({ name: 'Bram Hollis' }), initialsOf({ name: 'Cher' })]).toEqual(['BH', 'C'])
  })
})

describe('the demo’s shop', () => {
  // A quarter past two on a Sunday night in summer, and a Tuesday morning in winter: the demo begins at any time.
  it.each(['2026-07-05T01:15:00Z', '2026-11-24T10:42:00Z', '2026-12-31T23:30:00Z'])(
    'has seventeen cases in all states and of many types at %s',
    (moment) => {
      const folder = mkdtempSync(join(tmpdir(), 'lantern-'))
      const database = openDatabase(folder, resolve(import.meta.dirname, 'db/migrations'))
      const now = Date.parse(moment)
      fillWithDemo(database, now)
      const playbook = readPlaybook(database)
      const all = database.select({ code: cases.code, state: cases.state }).from(cases).all()
      expect(all).toHaveLength(17)
      expect(new Set(all.map((one) => one.state))).toEqual(new Set(CASE_STATES))
      const types = new Set(all.flatMap((one) => readStored(database, one.code).case.wanted.map((set) => set.type)))
      for (const type of DATA_TYPES.filter((one) => !['call-records', 'calendar', 'mail', 'files'].includes(one)))
        expect(types, type).toContain(type)
      const soon = openCases(database, { playbook, now }, 'owner').cases.filter(
        (one) => one.closes[0] !== null && Date.parse(one.closes[0]) < now + 86_400_000,
      )
      expect(soon.length).toBeGreaterThanOrEqual(3)
      database.$client.close()
      rmSync(folder, { recursive: true })
    },
  )
})
