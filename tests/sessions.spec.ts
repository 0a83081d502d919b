import { request as ask } from 'node:http'
import { request as requests, type APIRequestContext, type Page } from '@playwright/test'
import { connect } from '../server/db/open'
import { recoverPassword } from '../server/people/recover'
import { findPerson, setPassword } from '../server/people/store'
import { axeOn, expect, logCase, signIn, test, type Name } from './support/shop'

const PASSWORDS = { bram: 'towpath-heron-4', suda: 'lock-gate-paddle' }

/** Whoever is at the page shows who they are. */
async function unlock(page: Page, name: string | null, password: string) {
  const lock = page.getByRole('dialog')
  if (name) await lock.getByRole('radio', { name }).check()
  await lock.getByLabel('Password').fill(password)
  await page.keyboard.press('Enter')
  await expect(lock).toHaveCount(0)
}

async function later(request: APIRequestContext, minutes: number) {
  const { now } = await (await request.get('/api/session')).json()
  await request.put('/api/clock', { data: { now: new Date(Date.parse(now) + minutes * 60_000).toISOString() } })
}

const enterAs = async (page: Page, name: keyof typeof PASSWORDS) => {
  await page.goto('/sign-in')
  await page.getByLabel('Sign-in name').fill(name)
  await page.getByLabel('Password').fill(PASSWORDS[name])
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('before this time tomorrow')
}

test('two people at one bench: what the one typed waits for them, and is never sent as the other’s', async ({
  page,
}) => {
  await enterAs(page, 'suda')
  await page.keyboard.press('F8')
  await expect(page.getByRole('dialog')).toContainText('Who is at the bench?')
  await page.getByRole('dialog').getByRole('radio', { name: 'Someone else' }).check()
  await page.getByRole('dialog').getByLabel('Sign-in name').fill('bram')
  await unlock(page, null, PASSWORDS.bram)
  await expect(page.getByRole('button', { name: /Bram Hollis/ })).toBeVisible()
  const code = await logCase(page.request, { 'client.name': 'Maud Oxley' })

  // Bram is in the middle of a word when Suda needs the bench.
  await page.goto(`/log/${code}`)
  await page.getByLabel('Can spend').fill('95')
  await page.keyboard.press('F8')
  await expect(page.getByRole('radio', { name: /Suda Wray/ })).toBeChecked()
  await expect(page.getByRole('dialog').getByText('1 fact not sent yet')).toBeVisible()
  await unlock(page, null, PASSWORDS.suda)

  // Suda sees the case as the server has it, works on, and sends nothing of Bram's.
  await expect(page.getByRole('button', { name: /Suda Wray/ })).toBeVisible()
  await expect(page).toHaveURL(new RegExp(`/log/${code}`))
  await expect(page.getByLabel('Can spend')).toHaveValue('')
  const historyOf = async () => (await page.request.get(`/api/cases/${code}/history`)).json()
  expect((await historyOf()).map((entry: { fact: string }) => entry.fact)).toEqual(['', 'client.name'])

  await page.keyboard.press('F8')
  await unlock(page, 'Bram Hollis', PASSWORDS.bram)
  await expect
    .poll(async () => (await historyOf()).at(-1))
    .toMatchObject({ fact: 'limits.money', is: 95, by: 'Bram Hollis' })
})

test('a page that nobody uses locks, keeps what is typed on it, and goes on for the same person', async ({ page }) => {
  await enterAs(page, 'bram')
  const copy = await requests.newContext({ storageState: await page.context().storageState(), baseURL: page.url() })
  const image = { name: 'card.img', bytes: 8, changed: 0 }
  const { id } = await (await copy.post('/api/bench/media/uploads', { data: image })).json()
  const append = (from: number, bytes: string) =>
    copy.put(`/api/bench/media/uploads/${id}?from=${from}`, {
      data: Buffer.from(bytes),
      headers: { 'content-type': 'application/octet-stream' },
    })
  expect((await append(0, 'half')).status()).toBe(200)
  await page.goto('/cases/SL-0012')
  await page.locator('[data-test="move"]').click()
  const reason = page.getByRole('dialog').getByRole('textbox').last()
  await reason.fill('waits for her brother')
  await later(page.request, 31)
  const lock = page.getByRole('dialog').filter({ hasText: 'not used for 30 minutes' })
  await expect(lock).toBeVisible({ timeout: 15_000 })
  await expect(page.getByRole('heading', { level: 1 })).toBeHidden()
  expect((await copy.get('/api/cases')).status()).toBe(401)
  // What was begun goes on: the image arrives, and opens nothing else.
  expect((await append(4, 'rest')).status()).toBe(200)
  expect((await copy.get('/api/cases')).status()).toBe(401)
  const { violations } = await axeOn(page).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze()
  expect(violations.map(({ id }) => id)).toEqual([])
  await page.keyboard.press('Escape')
  await expect(lock).toBeVisible()
  await lock.getByLabel('Password').fill('wrong password')
  await page.keyboard.press('Enter')
  await expect(lock).toContainText('does not fit this name')
  await lock.getByLabel('Password').fill(PASSWORDS.bram)
  await page.keyboard.press('Enter')
  await expect(lock).toHaveCount(0)
  await expect(reason).toHaveValue('waits for her brother')
})

test('old cookies open nothing: after signing out, a new password, another role, and a removal', async ({
  page,
  shop,
}) => {
  const as = async (name: Name) => {
    const context = await requests.newContext({ baseURL: shop.address })
    await signIn(context, name)
    return context
  }
  const copyOf = async (context: APIRequestContext) =>
    requests.newContext({ baseURL: shop.address, storageState: await context.storageState() })
  const status = async (context: APIRequestContext, path = '/api/cases') => (await context.get(path)).status()

  const leaving = await as('bram')
  const copied = await copyOf(leaving)
  expect(await status(copied)).toBe(200)
  await leaving.delete('/api/session')
  expect(await status(copied)).toBe(401)

  // A request that was begun before and is ended after does not slip through.
  const holding = await as('bram')
  const head = (await holding.storageState()).cookies.map(({ name, value }) => `${name}=${value}`).join('; ')
  const held = ask(`${shop.address}/api/cases`, {
    method: 'POST',
    headers: { cookie: head, 'content-type': 'application/json' },
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
  const cookie = (await bram.storageState()).cookies.map(({ name, value }) => `${name}=${value}`).join('; ')
  const stream = await fetch(`${shop.address}/api/cases/SL-0012/bench/events`, { headers: { cookie } })
  const ended = (async () => {
    const reader = stream.body!.getReader()
    while (!(await reader.read()).done);
    return true
  })()
  expect((await owner.put(`/api/people/${ids.get('bram')}/role`, { data: { role: 'counter' } })).status()).toBe(200)
  expect(await ended).toBe(true)
  expect(await status(bram, '/api/cases/SL-0012/bench')).toBe(403)
  expect(await status(bram)).toBe(200)
  await owner.put(`/api/people/${ids.get('bram')}/password`, { data: { password: 'heron at low water' } })
  expect(await status(bram)).toBe(401)
  await owner.delete(`/api/people/${ids.get('suda')}`)
  expect(await status(suda)).toBe(401)
  expect((await owner.put(`/api/people/${ids.get('ottilie')}/role`, { data: { role: 'counter' } })).status()).toBe(409)

  // The owner, at a page, changes the own password: another browser of theirs is out, and this one stays.
  const tablet = await as('ottilie')
  await signIn(page.request, 'ottilie')
  await page.goto('/account')
  await page.getByLabel('Current password').fill('copper-kettle-9')
  await page.getByLabel('New password').fill('qwertyuiop')
  await page.getByRole('button', { name: 'Change password' }).click()
  await expect(page.getByText('This is one of the most common passwords.')).toBeVisible()
  await page.getByLabel('New password').fill('kingfisher over the weir')
  await page.getByRole('button', { name: 'Change password' }).click()
  await expect(page.getByText('Your password is changed.')).toBeVisible()
  expect(await status(tablet)).toBe(401)
  const again = await requests.newContext({ baseURL: shop.address })
  await again.post('/api/session', { data: { signIn: 'ottilie', password: 'kingfisher over the weir' } })
  await page.reload()
  await expect(page.getByRole('listitem').filter({ hasText: '127.0.0.1' })).toHaveCount(2)
  await page.getByRole('button', { name: 'End all other sessions' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: '127.0.0.1' })).toHaveCount(1)
  expect(await status(again)).toBe(401)

  // Lost altogether, it is set from the shop's machine while the server runs.
  recoverPassword(shop.data, 'ottilie', 'lost and found again', Date.now())
  expect(await status(page.request)).toBe(401)
  const found = await page.request.post('/api/session', {
    data: { signIn: 'ottilie', password: 'lost and found again' },
  })
  expect(found.status()).toBe(200)
  await page.goto('/people')
  const log = page.getByRole('region', { name: 'Security log' })
  await expect(log).toContainText('password set on the shop’s machine for Ottilie Marsh')
  await expect(log).toContainText('Ottilie Marsh removed the access of Suda Wray')
  await expect(log).toContainText('Ottilie Marsh changed the role of Bram Hollis to counter')
})

test('a hash of an earlier version signs in once more, and is made anew with it', async ({ page, shop }) => {
  const database = connect(shop.data)
  const hashOf = () => findPerson(database, 'bram')!.passwordHash
  // The same password as an earlier version hashed it.
  const old =
    '$scrypt$n=16384,r=8,p=1$uxXXPoASdpiAR7fL1xnidQ$+bBKsHxK/RXNJA0++RyYA0VY76o+G+dcVflo8DaZjbKG4xg/V+4AnOdNh6SdWkSr6+OWqDEcQgbQpboGw9T2tw'
  setPassword(database, findPerson(database, 'bram')!.id, old)
  const enter = (password: string) => page.request.post('/api/session', { data: { signIn: 'bram', password } })
  expect((await enter('willow-bobbin-4')).status()).toBe(401)
  expect(hashOf()).toBe(old)
  for (const time of ['first', 'second']) {
    expect((await enter('willow-bobbin-3')).status(), time).toBe(200)
    expect(hashOf()).toMatch(/^\$scrypt\$n=131072,/)
  }
  database.$client.close()
})

test('guesses are counted before they are looked at, and lock out nobody who is known here', async ({ page, shop }) => {
  await enterAs(page, 'bram')
  const strangers = await requests.newContext({ baseURL: shop.address })
  const guess = (signIn: string, password: string) => strangers.post('/api/session', { data: { signIn, password } })
  const guesses = await Promise.all(
    Array.from({ length: 120 }, (_, at) => guess('bram', at === 60 ? PASSWORDS.bram : `guess-number-${at}`)),
  )
  const statuses = guesses.map((answer) => answer.status())
  expect(statuses.filter((status) => status === 401)).toHaveLength(5)
  expect(statuses.filter((status) => status === 429)).toHaveLength(115)
  // In the browser in which he has signed in before, he gets in at once.
  expect(
    (await page.request.post('/api/session', { data: { signIn: 'bram', password: PASSWORDS.bram } })).status(),
  ).toBe(200)
  expect((await guess('bram', PASSWORDS.bram)).status()).toBe(429)
})
