import { request as requests, type APIRequestContext, type Page } from '@playwright/test'
import { recoverPassword } from '../server/people/recover'
import { Client } from './support/client'
import { passwordOf, type Name } from './support/people'
import { axeOn, expect, logCase, signIn, test } from './support/shop'

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

const enterAs = async (page: Page, name: Name) => {
  await page.goto('/sign-in')
  await page.getByLabel('Sign-in name').fill(name)
  await page.getByLabel('Password').fill(passwordOf(name))
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
  await unlock(page, null, passwordOf('bram'))
  await expect(page.getByRole('button', { name: /Bram Hollis/ })).toBeVisible()
  const code = await logCase(page.request, { 'client.name': 'Maud Oxley' })

  // Bram is in the middle of a word when Suda needs the bench.
  await page.goto(`/log/${code}`)
  await page.getByLabel('Can spend').fill('95')
  await page.keyboard.press('F8')
  await expect(page.getByRole('radio', { name: /Suda Wray/ })).toBeChecked()
  await expect(page.getByRole('dialog').getByText('1 fact not sent yet')).toBeVisible()
  await unlock(page, null, passwordOf('suda'))

  // Suda sees the case as the server has it, continues, and sends nothing of Bram's.
  await expect(page.getByRole('button', { name: /Suda Wray/ })).toBeVisible()
  await expect(page).toHaveURL(new RegExp(`/log/${code}`))
  await expect(page.getByLabel('Can spend')).toHaveValue('')
  const historyOf = async () => (await page.request.get(`/api/cases/${code}/history`)).json()
  expect((await historyOf()).map((entry: { fact: string }) => entry.fact)).not.toContain('limits.money')

  await page.keyboard.press('F8')
  await unlock(page, 'Bram Hollis', passwordOf('bram'))
  await expect
    .poll(async () => (await historyOf()).at(-1))
    .toMatchObject({ fact: 'limits.money', is: 95, by: 'Bram Hollis' })
})

test('an idle page locks, keeps what was typed on it, and reopens for the same person', async ({ page }) => {
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
  // The upload that was under way completes, and grants nothing else.
  expect((await append(4, 'rest')).status()).toBe(200)
  expect((await copy.get('/api/cases')).status()).toBe(401)
  const { violations } = await axeOn(page).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze()
  expect(violations.map(({ id }) => id)).toEqual([])
  await page.keyboard.press('Escape')
  await expect(lock).toBeVisible()
  await lock.getByLabel('Password').fill('wrong password')
  await page.keyboard.press('Enter')
  await expect(lock).toContainText('does not fit this name')
  await lock.getByLabel('Password').fill(passwordOf('bram'))
  await page.keyboard.press('Enter')
  await expect(lock).toHaveCount(0)
  await expect(reason).toHaveValue('waits for her brother')
})

test('an owner changes the own password, ends other sessions, and gets in again after losing it', async ({
  page,
  shop,
}) => {
  const as = async (password: string) => {
    const client = new Client(shop.address)
    await client.post('/api/session', { data: { signIn: 'ottilie', password } })
    return client
  }
  const status = async (client: Client) => (await client.get('/api/cases')).status
  const tablet = await as(passwordOf('ottilie'))
  await signIn(page.request, 'ottilie')
  await page.goto('/account')
  await page.getByLabel('Current password').fill(passwordOf('ottilie'))
  await page.getByLabel('New password').fill('qwertyuiop')
  await page.getByRole('button', { name: 'Change password' }).click()
  await expect(page.getByText('This is one of the most common passwords.')).toBeVisible()
  await page.getByLabel('New password').fill('kingfisher over the weir')
  await page.getByRole('button', { name: 'Change password' }).click()
  await expect(page.getByText('Your password is changed.')).toBeVisible()
  expect(await status(tablet)).toBe(401)
  const again = await as('kingfisher over the weir')
  await page.reload()
  await expect(page.getByRole('listitem').filter({ hasText: '127.0.0.1' })).toHaveCount(2)
  await page.getByRole('button', { name: 'End all other sessions' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: '127.0.0.1' })).toHaveCount(1)
  expect(await status(again)).toBe(401)

  // Lost altogether, it is set from the shop's machine while the server runs.
  recoverPassword(shop.data, 'ottilie', 'lost and found again', Date.now())
  expect((await page.request.get('/api/cases')).status()).toBe(401)
  const found = await page.request.post('/api/session', {
    data: { signIn: 'ottilie', password: 'lost and found again' },
  })
  expect(found.status()).toBe(200)
  const staff: { signIn: string; id: number }[] = await (await page.request.get('/api/people')).json()
  const idOf = (name: Name) => staff.find(({ signIn }) => signIn === name)!.id
  await page.request.put(`/api/people/${idOf('bram')}/role`, { data: { role: 'counter' } })
  await page.request.delete(`/api/people/${idOf('suda')}?to=${idOf('bram')}`)
  await page.goto('/people')
  const log = page.getByRole('region', { name: 'Security log' })
  await expect(log).toContainText('password set on the shop’s machine for Ottilie Marsh')
  await expect(log).toContainText('Ottilie Marsh removed the access of Suda Wray')
  await expect(log).toContainText('Ottilie Marsh changed the role of Bram Hollis to counter')
})
