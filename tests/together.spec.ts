import { expect, logCase, signIn, test } from './support/shop'
import { LOST_PHOTOS } from './support/cases'

test('two people on one case: different facts merge, the same fact is asked about', async ({
  bench: page,
  browser,
  shop,
}) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  const other = await browser.newPage({ baseURL: shop.address })
  await signIn(other.request, 'suda')
  await page.goto(`/log/${code}`)
  await other.goto(`/log/${code}`)
  await expect(other.getByLabel('Can spend')).toBeVisible()
  // Suda's page is kept from hearing of Bram's change, as on a slow line.
  await other.route(/seen=/, (route) => route.abort())
  await page.getByLabel('Can spend').fill('80')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('status').filter({ hasText: 'all saved' })).toBeVisible()
  await other.getByLabel('Seen by').fill('us only')
  await other.keyboard.press('Tab')
  await other.getByLabel('Can spend').fill('120')
  await other.keyboard.press('Tab')
  const clash = other.locator('[data-test="clash"]')
  await expect(clash).toHaveCount(0)
  await other.unroute(/seen=/)
  await expect(page.getByLabel('Seen by')).toHaveValue('us only', { timeout: 15_000 })
  await other.close()
})

test('the same fact set on two pages at once becomes a question, and either answer can win', async ({
  bench: page,
  browser,
  shop,
}) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/log/${code}`)
  await expect(page.getByLabel('Can spend')).toBeVisible()
  await page.route(/seen=/, (route) => route.abort())
  const other = await browser.newContext({ baseURL: shop.address })
  await signIn(other.request, 'suda')
  await other.request.patch(`/api/cases/${code}`, { data: { version: 1, changes: [{ fact: 'limits.money', is: 80 }] } })
  await page.getByLabel('Can spend').fill('120')
  await page.keyboard.press('Tab')
  const clash = page.locator('[data-test="clash"]')
  await expect(clash).toContainText('Suda Wray said “£80” meanwhile, you said “£120”')
  await clash.getByRole('button', { name: '“£120”' }).click()
  await expect(clash).toHaveCount(0)
  await expect
    .poll(async () => (await (await page.request.get(`/api/cases/${code}`)).json()).case.limits.money)
    .toBe(120)
  await other.close()
})

test('typing continues while the server is away, and is sent when it is back', async ({ bench: page, shop }) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/log/${code}`)
  await expect(page.getByLabel('Can spend')).toBeVisible()
  await shop.stop('SIGKILL')
  await page.getByLabel('Can spend').fill('95')
  await page.keyboard.press('Tab')
  await expect(page.getByText('server unreachable; kept on this machine')).toBeVisible()
  await expect(page.getByLabel('Can spend')).toHaveValue('£95')
  await shop.start()
  await expect(page.getByText('all saved')).toBeVisible({ timeout: 20_000 })
  expect((await (await page.request.get(`/api/cases/${code}`)).json()).case.limits.money).toBe(95)
})

test('what another page changes shows here without a reload', async ({ bench: page }) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/cases/${code}`)
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Maud Oxley · photos')
  await page.request.patch(`/api/cases/${code}`, {
    data: { version: 1, changes: [{ fact: 'title', is: 'Oxley · the regatta' }] },
  })
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Oxley · the regatta', { timeout: 15_000 })
})

test('facts that waited on this machine are merged with what others set in the meantime, and overwrite nothing', async ({
  bench: page,
  shop,
}) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/log/${code}`)
  await expect(page.getByLabel('Can spend')).toBeVisible()
  // Only this page is offline: its words wait here while somebody else continues.
  await page.route(/\/api\/cases\//, (route) => route.abort())
  await page.getByLabel('Can spend').fill('95')
  await page.keyboard.press('Tab')
  await page.getByLabel('Seen by').fill('us only')
  await page.keyboard.press('Tab')
  await expect(page.getByText('server unreachable; kept on this machine')).toBeVisible()
  const change = { version: 1, changes: [{ fact: 'limits.money', is: 60 }] }
  expect((await page.request.patch(`${shop.address}/api/cases/${code}`, { data: change })).ok()).toBe(true)
  await page.unroute(/\/api\/cases\//)
  await page.reload()
  await expect(page.locator('[data-test="clash"]')).toContainText('said “£60” meanwhile, you said “£95”')
  await expect(page.getByLabel('Seen by')).toHaveValue('us only')
  const kept = await (await page.request.get(`/api/cases/${code}`)).json()
  expect(kept.case.limits).toMatchObject({ money: 60, seenBy: 'us-only' })
})
