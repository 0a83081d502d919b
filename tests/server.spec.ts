import { request as requests } from '@playwright/test'
import { ErrorShape } from '../core/errors'
import { Server } from './support/server'
import { expect, LOST_PHOTOS, logCase, signIn, test } from './support/shop'

test('a cookie that is none, and one of another shop, open nothing', async ({ shop }) => {
  for (const cookie of ['lantern=Fe26.2**forged', `lantern=${'A'.repeat(43)}`, 'lantern='.padEnd(9000, 'x')]) {
    const forged = await requests.newContext({ baseURL: shop.address, extraHTTPHeaders: { cookie } })
    expect((await forged.get('/api/cases')).status()).toBe(401)
  }
})

test('no page is shown without a session', async ({ page }) => {
  for (const path of ['/', '/log', '/cases/SL-0001', '/people']) {
    await page.goto(path)
    await expect(page).toHaveURL(/\/sign-in/)
  }
})

test('counter staff log, and neither work nor keep people', async ({ page }) => {
  await signIn(page.request, 'jory')
  const code = await logCase(page.request, LOST_PHOTOS)
  const refused = async (path: string, data: object) => (await page.request.post(path, { data })).status()
  expect(await refused(`/api/cases/${code}/runs`, { version: 1, option: 'device-photo-bin:d1' })).toBe(403)
  expect(await refused(`/api/cases/${code}/move`, { version: 1, to: 'closed', reason: 'x' })).toBe(403)
  expect(
    await refused(`/api/cases/${code}/holds`, { version: 1, hold: 'stop-using', mark: 'waived', reason: 'x' }),
  ).toBe(403)
  expect(await refused('/api/people', {})).toBe(403)
  expect(await refused(`/api/cases/${code}/holds`, { version: 1, hold: 'stop-using', mark: 'ticked' })).toBe(200)
})

test('every refusal has the one shape, and another site may not write', async ({ bench: page }) => {
  const { request } = page
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
    expect([answer.status(), error.code]).toEqual([status, code])
    expect(error.safe).not.toBe('')
  }
})

test('what was acknowledged survives a kill', async ({ shop, bench: page }) => {
  const acknowledged: string[] = []
  let isDead = false
  const writing = (async () => {
    for (let count = 0; !isDead && count < 500; count++) {
      const answer = await page.request
        .post('/api/cases', {
          data: {
            changes: [
              { fact: 'client.name', is: `Client ${count}` },
              { fact: 'limits.money', is: count },
            ],
          },
        })
        .catch(() => null)
      if (answer?.ok()) acknowledged.push(`${(await answer.json()).case.code} Client ${count}`)
    }
  })()
  await expect.poll(() => acknowledged.length).toBeGreaterThan(25)
  await shop.stop('SIGKILL')
  isDead = true
  await writing
  await shop.start()
  await signIn(page.request, 'bram')
  for (const line of acknowledged) {
    const [code, ...name] = line.split(' ')
    const kept = await (await page.request.get(`/api/cases/${code}`)).json()
    expect(kept.case.client.name).toBe(name.join(' '))
    const history = await (await page.request.get(`/api/cases/${code}/history`)).json()
    expect(history.map((entry: { fact: string }) => entry.fact)).toEqual(['', 'client.name', 'limits.money'])
  }
})

test('a session outlives a restart', async ({ shop, bench: page }) => {
  await shop.stop()
  await shop.start()
  expect((await page.request.get('/api/cases')).status()).toBe(200)
})

test('nothing but the loopback address is listened on before there is an owner', async ({ page }) => {
  const server = new Server({ LANTERN_HOST: '0.0.0.0' })
  const elsewhere = () =>
    fetch(`http://127.0.0.2:${server.port}/api/session`).then(
      (answer) => answer.ok,
      () => false,
    )
  try {
    await server.start()
    expect(await elsewhere()).toBe(false)
    await page.goto(server.address)
    await expect(page).toHaveURL(/\/first-start$/)
    await page.getByLabel('Your name').fill('Edda Voss')
    await page.getByLabel('Sign-in name').fill('edda')
    await page.getByLabel('Password').fill('short')
    await page.getByRole('button', { name: 'Begin' }).click()
    await expect(page.getByText('This is shorter than 10 characters.')).toBeVisible()
    await page.getByLabel('Password').fill('willow-bobbin-3')
    await page.getByRole('button', { name: 'Begin' }).click()
    await expect(page.getByRole('heading', { name: /Cases will hang here/ })).toBeVisible()
    await server.stop()
    await server.start()
    expect(await elsewhere()).toBe(true)
  } finally {
    await server.remove()
  }
})
