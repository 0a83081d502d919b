import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { demoCases } from '../../stand-ins/shop/cases'
import { demoPlaybook } from '../../stand-ins/shop/shop'
import { demoTimes } from '../../stand-ins/shop/times'
import { historySince, readStored } from '../cases/rows'
import { changeFacts } from '../cases/writing/facts'
import { logCase } from '../cases/writing/log'
import { openDatabase, type Database } from '../db/open'
import { addPerson, findPerson, removePerson } from './store'

const NOW = Date.UTC(2026, 10, 24, 10, 42)
const playbook = demoPlaybook()
const writer = { by: 'Ottilie Marsh', now: NOW }
let folder: string
let database: Database
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'lantern-people-'))
  database = openDatabase(folder, resolve('server/db/migrations'))
  for (const [name, signIn, role] of [
    ['Ottilie Marsh', 'ottilie', 'owner'],
    ['Bram Hollis', 'bram', 'technician'],
    ['Suda Wray', 'suda', 'technician'],
  ] as const)
    addPerson(database, { name, signIn, role, passwordHash: 'x' }, NOW)
})
afterEach(() => {
  database.$client.close()
  rmSync(folder, { recursive: true })
})
const idOf = (signIn: string) => findPerson(database, signIn)!.id

it('who leaves passes on what is open, and their name stays in the history', () => {
  const [demo] = demoCases(demoTimes(NOW, playbook.shop.zone))
  const { stored } = logCase(database, demo!.facts, playbook, { by: 'Bram Hollis', now: NOW })
  const { code } = stored.case
  changeFacts(database, code, 1, [{ fact: 'with', is: 'Bram Hollis' }], { by: 'Bram Hollis', now: NOW })
  expect(() => removePerson(database, idOf('bram'), null, writer)).toThrow('has an open case')
  expect(() => removePerson(database, idOf('bram'), idOf('bram'), writer)).toThrow('somebody else')
  removePerson(database, idOf('bram'), idOf('suda'), writer)
  const after = readStored(database, code)
  expect(after.case.with).toBe('Suda Wray')
  expect(historySince(database, after.id, 0).map(({ by }) => by)).toContain('Bram Hollis')
  expect(historySince(database, after.id, 0).at(-1)).toMatchObject({
    fact: 'with',
    was: 'Bram Hollis',
    is: 'Suda Wray',
  })
  expect(findPerson(database, 'bram')).toBeUndefined()
})

it('the last owner stays', () => {
  expect(() => removePerson(database, idOf('ottilie'), idOf('suda'), writer)).toThrow('A shop needs an owner')
})
