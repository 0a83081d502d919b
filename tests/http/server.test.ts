import { afterAll, beforeAll, expect, test } from 'vitest'
import { ErrorShape } from '../../core/errors'
import { openShop, Technician } from '../support/carry'
import { Client } from '../support/client'
import { LOST_PHOTOS } from '../support/cases'

let tech: Technician
beforeAll(async () => void (tech = await openShop()))
afterAll(() => tech.server.remove())

test('a cookie that is none, and one of another shop, open nothing', async () => {
  for (const cookie of ['lantern=Fe26.2**forged', `lantern=${'A'.repeat(43)}`, 'lantern='.padEnd(9000, 'x')]) {
    const forged = new Client(tech.server.address)
    expect((await forged.get('/api/cases', { headers: { cookie } })).status).toBe(401)
  }
})

test('counter staff log, and neither work nor keep people', async () => {
  const counter = new Technician(await new Client(tech.server.address).signIn('jory'), tech.server)
  const code = await counter.log(LOST_PHOTOS)
  const refused = async (path: string, data: object) => (await counter.request.post(path, { data })).status
  expect(await refused(`/api/cases/${code}/runs`, { version: 1, option: 'device-photo-bin:d1' })).toBe(403)
  expect(await refused(`/api/cases/${code}/move`, { version: 1, to: 'closed', reason: 'x' })).toBe(403)
  expect(
    await refused(`/api/cases/${code}/holds`, { version: 1, hold: 'stop-using', mark: 'waived', reason: 'x' }),
  ).toBe(403)
  expect(await refused('/api/people', {})).toBe(403)
  expect(await refused(`/api/cases/${code}/holds`, { version: 1, hold: 'stop-using', mark: 'ticked' })).toBe(200)
})

test('every refusal has the one shape, and another site may not write', async () => {
  const { request } = tech
  for (const [answer, status, code] of [
    [await request.get('/api/cases/SL-4040'), 404, 'not-found'],
    [await request.get('/api/nowhere'), 404, 'not-found'],
    [await request.post('/api/cases', { data: { changes: 'all' } }), 400, 'invalid'],
    [
      await request.post('/api/cases', { data: '{"changes":', headers: { 'content-type': 'application/json' } }),
      400,
      'invalid',
    ],
    [await request.post('/api/cases', { data: { changes: [{ fact: 'limits.money', is: -1 }] } }), 400, 'invalid'],
    [
      await request.patch('/api/cases/SL-0001', { data: { version: 999, changes: [{ fact: 'title', is: 'x' }] } }),
      400,
      'invalid',
    ],
    [await request.post('/api/cases/SL-0001/runs', { data: { version: 1, option: 'none' } }), 409, 'refused'],
    [
      await request.post('/api/cases', { data: { changes: [] }, headers: { origin: 'http://elsewhere.example' } }),
      403,
      'foreign-origin',
    ],
    [
      await request.post('/api/first-start', { data: { name: 'Eve', signIn: 'eve', password: 'long-enough-words' } }),
      409,
      'refused',
    ],
  ] as const) {
    const error = ErrorShape.parse(await answer.json())
    expect([answer.status, error.code]).toEqual([status, code])
    expect(error.safe).not.toBe('')
  }
})

test('what was acknowledged survives a kill', async () => {
  const acknowledged: string[] = []
  let isDead = false
  const writing = (async () => {
    for (let count = 0; !isDead && count < 500; count++) {
      const answer = await tech.request
        .post('/api/cases', {
          data: {
            changes: [
              { fact: 'client.name', is: `Client ${count}` },
              { fact: 'limits.money', is: count },
            ],
          },
        })
        .catch(() => null)
      if (answer?.ok) acknowledged.push(`${(await answer.json()).case.code} Client ${count}`)
    }
  })()
  await expect.poll(() => acknowledged.length).toBeGreaterThan(25)
  await tech.server.stop('SIGKILL')
  isDead = true
  await writing
  await tech.server.start()
  await tech.request.signIn('bram')
  for (const line of acknowledged) {
    const [code, ...name] = line.split(' ')
    const kept = await (await tech.request.get(`/api/cases/${code}`)).json()
    expect(kept.case.client.name).toBe(name.join(' '))
    const history = await (await tech.request.get(`/api/cases/${code}/history`)).json()
    expect(history.map((entry: { fact: string }) => entry.fact)).toEqual(['', 'client.name', 'limits.money'])
  }
})

test('a session outlives a restart', async () => {
  await tech.server.stop()
  await tech.server.start()
  expect((await tech.request.get('/api/cases')).status).toBe(200)
})
