import { request as ask } from 'node:http'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { connect } from '../../server/db/open'
import { findPerson, setPassword } from '../../server/people/store'
import { openShop, type Technician } from '../support/carry'
import { Client } from '../support/client'
import { passwordOf, type Name } from '../support/people'

let tech: Technician
beforeAll(async () => void (tech = await openShop()))
afterAll(() => tech.server.remove())

test('old cookies open nothing: after signing out, a new password, another role, and a removal', async () => {
  const as = (name: Name) => new Client(tech.server.address).signIn(name)
  const status = async (client: Client, path = '/api/cases') => (await client.get(path)).status

  const leaving = await as('bram')
  const copied = leaving.copy()
  expect(await status(copied)).toBe(200)
  await leaving.delete('/api/session')
  expect(await status(copied)).toBe(401)

  // A request that was begun before and is ended after does not slip through.
  const holding = await as('bram')
  const held = ask(`${tech.server.address}/api/cases`, {
    method: 'POST',
    headers: { cookie: holding.cookie, 'content-type': 'application/json' },
  })
  const answered = new Promise<number>((done) => held.on('response', (answer) => done(answer.resume().statusCode!)))
  held.write('{"changes":[{"fact":"title",')
  await new Promise((done) => setTimeout(done, 500))
  await holding.delete('/api/session')
  held.end('"is":"too late"}]}')
  expect(await answered).toBe(401)

  const [owner, bram, suda] = [await as('ottilie'), await as('bram'), await as('suda')]
  const ids = new Map<string, number>(
    (await (await owner.get('/api/people')).json()).map((one: { signIn: string; id: number }) => [one.signIn, one.id]),
  )
  // An open stream ends at once with the right to read it.
  const stream = await fetch(`${tech.server.address}/api/cases/SL-0012/bench/events`, {
    headers: { cookie: bram.cookie },
  })
  const ended = (async () => {
    const reader = stream.body!.getReader()
    while (!(await reader.read()).done);
    return true
  })()
  expect((await owner.put(`/api/people/${ids.get('bram')}/role`, { data: { role: 'counter' } })).status).toBe(200)
  expect(await ended).toBe(true)
  expect(await status(bram, '/api/cases/SL-0012/bench')).toBe(403)
  expect(await status(bram)).toBe(200)
  await owner.put(`/api/people/${ids.get('bram')}/password`, { data: { password: 'heron at low water' } })
  expect(await status(bram)).toBe(401)
  await owner.delete(`/api/people/${ids.get('suda')}?to=${ids.get('bram')}`)
  expect(await status(suda)).toBe(401)
  expect((await owner.put(`/api/people/${ids.get('ottilie')}/role`, { data: { role: 'counter' } })).status).toBe(409)
})

test('a hash of an earlier version signs in once more, and is replaced', async () => {
  const database = connect(tech.server.data)
  const hashOf = () => findPerson(database, 'bram')!.passwordHash
  // The same password as an earlier version hashed it.
  const old =
    '$scrypt$n=16384,r=8,p=1$uxXXPoASdpiAR7fL1xnidQ$+bBKsHxK/RXNJA0++RyYA0VY76o+G+dcVflo8DaZjbKG4xg/V+4AnOdNh6SdWkSr6+OWqDEcQgbQpboGw9T2tw'
  setPassword(database, findPerson(database, 'bram')!.id, old)
  const enter = (password: string) => tech.request.post('/api/session', { data: { signIn: 'bram', password } })
  expect((await enter('willow-bobbin-4')).status).toBe(401)
  expect(hashOf()).toBe(old)
  for (const time of ['first', 'second']) {
    expect((await enter('willow-bobbin-3')).status, time).toBe(200)
    expect(hashOf()).toMatch(/^\$scrypt\$n=131072,/)
  }
  database.$client.close()
})

test('guesses are counted before they are looked at, and lock out nobody who is known here', async () => {
  const known = await new Client(tech.server.address).signIn('jory')
  const strangers = new Client(tech.server.address)
  const guess = (signIn: string, password: string) => strangers.post('/api/session', { data: { signIn, password } })
  const guesses = await Promise.all(
    Array.from({ length: 120 }, (_, at) => guess('jory', at === 60 ? passwordOf('jory') : `guess-number-${at}`)),
  )
  const statuses = guesses.map((answer) => answer.status)
  expect(statuses.filter((status) => status === 401)).toHaveLength(5)
  expect(statuses.filter((status) => status === 429)).toHaveLength(115)
  // In the browser in which she has signed in before, she gets in at once.
  const again = await known.post('/api/session', { data: { signIn: 'jory', password: passwordOf('jory') } })
  expect(again.status).toBe(200)
  expect((await guess('jory', passwordOf('jory'))).status).toBe(429)
})
