import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { MAX_SESSION_MS } from '../../core/people/session'
import { closeDatabase, openDatabase, type Database } from '../db/open'
import { knownDevices, sessions } from '../db/tables'
import { replacePassword } from './change-password'
import { isKnownDevice, KNOWN_FOR_MS, rememberDevice } from './known-devices'
import { recoverPassword } from './recover'
import { logSecurity, securityEntries } from './security-log'
import {
  beginSession,
  digestOf,
  endSessionsOf,
  findSession,
  isStillOpen,
  newSecret,
  noteUse,
  sessionsOf,
} from './sessions'
import { addPerson, findPerson, removePerson, setRole } from './store'

const NOW = Date.parse('2026-11-24T10:42:00Z')
const MINUTE = 60_000
const FROM = { address: '192.168.7.5', agent: 'Browser/1 (Mobile)' }
let folder = ''
let database: Database
const person = (signIn: string, role: 'owner' | 'technician') =>
  addPerson(database, { name: `${signIn} Reed`, signIn, role, passwordHash: 'none' }, NOW)

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'lantern-people-'))
  database = openDatabase(folder, resolve('server/db/migrations'))
  person('edda', 'owner')
  person('finn', 'technician')
})
afterEach(() => {
  closeDatabase(database)
  rmSync(folder, { recursive: true, force: true })
})
const idOf = (signIn: string) => findPerson(database, signIn)!.id
const begin = (signIn: string, now = NOW) => beginSession(database, idOf(signIn), FROM, now)

describe('a session on the server', () => {
  it('is found by its secret, of which the database holds nothing', () => {
    const secret = begin('finn')
    expect(findSession(database, secret)).toMatchObject({ begun: NOW, used: NOW, person: { signIn: 'finn' } })
    expect(JSON.stringify(database.select().from(sessions).all())).not.toContain(secret)
    expect(findSession(database, newSecret())).toBeNull()
  })

  it('has the role that its person has now', () => {
    const secret = begin('finn')
    const before = findSession(database, secret)!
    expect(isStillOpen(database, before, NOW, 30)).toBe(true)
    setRole(database, idOf('finn'), 'counter')
    expect(findSession(database, secret)!.person.role).toBe('counter')
    // What was opened in the old role does not stay open in the new one.
    expect(isStillOpen(database, before, NOW, 30)).toBe(false)
  })

  it('ends with its person’s access, and with a new password that somebody else sets', () => {
    const [first, second] = [begin('finn'), begin('finn')]
    rememberDevice(database, digestOf('device'), idOf('finn'), NOW)
    replacePassword({ database }, idOf('finn'), 'another')
    expect([first, second].map((secret) => findSession(database, secret))).toEqual([null, null])
    expect(isKnownDevice(database, digestOf('device'), idOf('finn'), NOW)).toBe(false)
    const third = begin('finn')
    removePerson(database, idOf('finn'), null, { by: 'Edda', now: 0 })
    expect(findSession(database, third)).toBeNull()
  })

  it('is used as long as somebody uses it, and the last use is what counts', () => {
    const session = findSession(database, begin('finn'))!
    noteUse(database, session, NOW + 5000)
    expect(findUsed()).toBe(NOW)
    noteUse(database, session, NOW + 20 * MINUTE)
    noteUse(database, session, NOW + 10 * MINUTE)
    expect(findUsed()).toBe(NOW + 20 * MINUTE)
    expect(isStillOpen(database, session, NOW + 49 * MINUTE, 30)).toBe(true)
    expect(isStillOpen(database, session, NOW + 50 * MINUTE, 30)).toBe(false)
  })
  const findUsed = () => database.select().from(sessions).get()!.used

  it('is listed for its person alone, and all the others end at once', () => {
    begin('edda')
    const own = findSession(database, begin('finn', NOW + MINUTE))!
    begin('finn', NOW - 40 * MINUTE)
    const listed = sessionsOf(database, own, NOW + MINUTE, 30)
    expect(listed.map(({ isThis, isIdle, machine }) => ({ isThis, isIdle, machine }))).toEqual([
      { isThis: true, isIdle: false, machine: 'a phone or tablet' },
      { isThis: false, isIdle: true, machine: 'a phone or tablet' },
    ])
    expect(endSessionsOf(database, own.person.id, own.id)).toBe(1)
    expect(sessionsOf(database, own, NOW + MINUTE, 30)).toHaveLength(1)
    expect(
      database
        .select()
        .from(sessions)
        .where(eq(sessions.personId, idOf('edda')))
        .all(),
    ).toHaveLength(1)
  })

  it('that is long over leaves the table when another begins', () => {
    begin('finn', NOW - MAX_SESSION_MS - 1)
    begin('edda')
    expect(database.select().from(sessions).all()).toHaveLength(1)
  })
})

describe('known devices', () => {
  it('are known for one person, for half a year, and forty of them at most', () => {
    const finn = idOf('finn')
    for (let at = 0; at < 45; at++) rememberDevice(database, `device-${at}`, finn, NOW + at)
    expect(isKnownDevice(database, 'device-44', finn, NOW + KNOWN_FOR_MS)).toBe(true)
    expect(isKnownDevice(database, 'device-44', idOf('edda'), NOW)).toBe(false)
    expect(isKnownDevice(database, 'device-4', finn, NOW)).toBe(false)
    expect(isKnownDevice(database, 'device-44', finn, NOW + 44 + KNOWN_FOR_MS)).toBe(false)
    expect(database.select().from(knownDevices).all()).toHaveLength(40)
  })
})

describe('the security log', () => {
  it('keeps each event, and a flood as one line a minute', () => {
    for (let at = 0; at < 100; at++)
      logSecurity(database, { event: 'foreign-host', address: '10.0.0.9' }, NOW + at * 10)
    for (const at of [2000, 2500])
      logSecurity(database, { event: 'signed-in', by: 'finn Reed', address: '10.0.0.9' }, NOW + at)
    logSecurity(database, { event: 'foreign-host', address: '10.0.0.9' }, NOW + 2 * MINUTE)
    const entries = securityEntries(database, null, 10)
    expect(entries.map(({ event, count }) => [event, count])).toEqual([
      ['foreign-host', 1],
      ['signed-in', 1],
      ['signed-in', 1],
      ['foreign-host', 64],
    ])
    expect(securityEntries(database, entries[1]!.id, 10)).toHaveLength(2)
  })
})

describe('a password set from the shop’s machine', () => {
  it('is taken while the server runs, ends every session of the person, and is written down', () => {
    const [edda, finn] = [begin('edda'), begin('finn')]
    expect(recoverPassword(folder, ' Edda ', 'heron at low water', NOW)).toBe('edda Reed')
    expect(findSession(database, edda)).toBeNull()
    expect(findSession(database, finn)).not.toBeNull()
    expect(securityEntries(database, null, 1)[0]).toMatchObject({ event: 'password-recovered', about: 'edda Reed' })
  })

  it('is refused in words where there is no shop, nobody of that name, or the password is common', () => {
    expect(() => recoverPassword(join(folder, 'none'), 'edda', 'heron at low water', NOW)).toThrow('no shop')
    expect(() => recoverPassword(folder, 'nobody', 'heron at low water', NOW)).toThrow('edda (owner)')
    expect(() => recoverPassword(folder, 'edda', 'qwertyuiop', NOW)).toThrow('common')
  })
})
