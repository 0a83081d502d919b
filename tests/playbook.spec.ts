import { expect, signIn, test } from './support/shop'

test('the owner changes how long a bin keeps things, and every open case is planned with it', async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page.request, 'ottilie')
  await page.goto('/cases/SL-0012')
  const bin = page.locator('[data-test="route"]').first()
  await expect(bin).toContainText('Gallery bin')
  const before = await bin.textContent()

  const other = await browser.newContext({ baseURL: baseURL! })
  const desk = await other.newPage()
  await signIn(desk.request, 'ottilie')
  await desk.goto('/playbook')
  const most = desk.getByLabel('Gallery bin on the device, maximum days')
  const least = desk.getByLabel('Gallery bin on the device, minimum days')
  await most.fill('4')
  await most.press('Enter')
  await expect(desk.getByText('The minimum is greater than the maximum.')).toBeVisible()
  await expect(most).toHaveValue('4')
  await least.fill('3')
  await least.press('Enter')
  await expect(desk.getByText('The minimum is greater than the maximum.')).toBeHidden()
  await expect(desk.getByText('Gallery bin on the device: 3 to 4 days from now on.')).toBeVisible()

  // The open page is notified, and the server recomputes its caches.
  await expect(bin).not.toContainText('Gallery bin', { timeout: 15_000 })
  const kept = await (await page.request.get('/api/cases/SL-0012/plan')).json()
  expect(kept.plan.order).not.toContain('gallery-bin:d1')

  await desk.getByRole('button', { name: 'Gallery bin on the device: reset to 29 to 31 days' }).click()
  await expect(most).toHaveValue('31')
  await expect(least).toHaveValue('29')
  await expect(bin).toHaveText(before!, { timeout: 15_000 })
  await other.close()
})

test('a maker that is put into the table fills in the log, and is taken out again', async ({ page }) => {
  await signIn(page.request, 'ottilie')
  await page.goto('/playbook')
  await page.getByRole('button', { name: 'Add a maker or model' }).click()
  await expect(page.getByLabel('Maker, or maker and model')).toBeFocused()
  await page.getByLabel('Maker, or maker and model').fill('Korvane')
  await page.keyboard.press('Enter')
  await expect(page.getByText('This is already in the table.')).toBeVisible()
  await page.getByLabel('Maker, or maker and model').fill('Brindle 4')
  await page.getByLabel('Kind of device').selectOption('tablet')
  await page.getByLabel('Encryption').selectOption('none')
  await page.getByRole('button', { name: 'Add entry' }).click()
  await expect(page.getByRole('button', { name: 'Change Brindle 4' })).toBeVisible()

  await page.goto('/log')
  await page.getByLabel('Client', { exact: true }).fill('Maud Oxley')
  await page.keyboard.press('Tab')
  const model = page.getByLabel('Maker and model')
  await model.fill('Brindle 4')
  await model.press('Tab')
  await expect(page.getByLabel('Kind of device').first()).toHaveValue('a tablet')
  await expect(model).toHaveValue('Brindle 4')

  await page.goto('/playbook')
  await page.getByRole('button', { name: 'Change Brindle 4' }).click()
  await page.getByRole('button', { name: 'Remove entry' }).click()
  await expect(page.getByRole('button', { name: 'Change Brindle 4' })).toBeHidden()
})

test('a technician reads the playbook and cannot change it', async ({ bench: page }) => {
  await page.goto('/playbook')
  await expect(page.getByText('Only the owner can change them.')).toBeVisible()
  await expect(page.getByRole('listitem').filter({ hasText: 'Gallery bin on the device' })).toContainText(
    '29 to 31 days',
  )
  await expect(page.getByRole('main').getByRole('textbox')).toHaveCount(0)
  const tried = await page.request.post('/api/playbook', { data: { what: 'weight', which: 'worth', is: 1 } })
  expect(tried.status()).toBe(403)
  const odd = { what: 'period', kind: 'gallery-bin', which: 'kept', period: { minDays: 9, maxDays: 1 } }
  await signIn(page.request, 'ottilie')
  const refused = await page.request.post('/api/playbook', { data: odd })
  expect(refused.status()).toBe(400)
  expect((await refused.json()).fields[0]).toMatchObject({ path: 'period', message: 'ends before it begins' })
})

test('what a minute weighs is changed, and a weight that cannot be is refused', async ({ page }) => {
  await signIn(page.request, 'ottilie')
  await page.goto('/playbook')
  const minute = page.getByLabel('A minute of hands-on work')
  await minute.fill('-2')
  await minute.press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'This' })).toBeVisible()
  await minute.press('Escape')
  await expect(minute).toHaveValue('1')
  await minute.fill('1,5')
  await minute.press('Enter')
  await expect(page.getByText('A minute of hands-on work: 1.5 from now on.')).toBeVisible()
  await page.reload()
  await expect(minute).toHaveValue('1.5')
})
