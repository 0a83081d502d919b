import { expect, expectAccessible, signIn, test } from './support/shop'

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
  await expect(desk.getByText('Gallery bin on the device: 3 to 4 days in the draft.')).toBeVisible()

  // Before it is taken over, the plans that it would change are listed, and nothing has changed.
  await expect(desk.getByTestId('draft')).toContainText('Gallery bin on the device')
  await desk.getByTestId('try-draft').click()
  await expect(desk.getByTestId('trial')).toContainText('SL-0012', { timeout: 90_000 })
  await expect(desk.getByTestId('contradiction').first()).toBeVisible()
  await expectAccessible(desk)
  await expect(bin).toContainText('Gallery bin')
  await desk.getByTestId('draft-reason').fill('the new system keeps them for four days')
  await desk.getByTestId('take-draft').click()
  await expect(desk.getByTestId('draft')).toBeHidden()

  // The open page is notified, and the server recomputes its caches.
  await expect(bin).not.toContainText('Gallery bin', { timeout: 15_000 })
  const kept = await (await page.request.get('/api/cases/SL-0012/plan')).json()
  expect(kept.plan.order).not.toContain('gallery-bin:d1')

  await expect(desk.getByTestId('version').first()).toContainText('the new system keeps them for four days')
  await desk.getByRole('button', { name: 'Go back to: before the first change' }).click()
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
  await expect(page.getByRole('listitem').filter({ hasText: 'Gallery bin on the device' }).first()).toContainText(
    '29 to 31 days',
  )
  await expect(page.getByRole('main').getByRole('textbox')).toHaveCount(0)
  const tried = await page.request.post('/api/playbook', { data: { what: 'weight', which: 'worth', is: 1 } })
  expect(tried.status()).toBe(403)
  const odd = { what: 'period', kind: 'gallery-bin', which: 'kept', period: { minDays: 9, maxDays: 1 } }
  await signIn(page.request, 'ottilie')
  const refused = await page.request.put('/api/playbook/draft', { data: odd })
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
  await expect(page.getByTestId('weighed').getByRole('listitem')).toHaveCount(3)
  await page.getByRole('button', { name: 'Save 1.5' }).click()
  await expect(page.getByText('A minute of hands-on work: 1.5 from now on.')).toBeVisible()
  await page.reload()
  await expect(minute).toHaveValue('1.5')
})

test('a run sheet is edited as text and by dragging, a faulty kind is refused in words, and a kind of one’s own comes and goes', async ({
  page,
}) => {
  await signIn(page.request, 'ottilie')
  await page.goto('/playbook')
  await page.getByRole('link', { name: 'Photo bin on the device' }).click()
  const steps = page.getByTestId('step')
  const second = (await steps.nth(1).locator('span').last().textContent())!
  await page.getByRole('button', { name: 'Move step 2: arrow up or down' }).press('ArrowUp')
  await expect(steps.first()).toContainText(second)
  await expectAccessible(page)

  const chance = page.getByLabel('Chance that it works, 0 to 1')
  await chance.fill('1.4')
  await page.getByTestId('keep-kind').click()
  await expect(page.getByTestId('faults')).toContainText('prior.chance')
  await chance.fill('0.8')
  await page.getByTestId('keep-kind').click()
  await expect(page.getByText('Kept in the draft.')).toBeVisible()
  await expect(page.getByTestId('faults')).toBeHidden()
  await page.getByRole('button', { name: 'Copy as a kind of our own' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Photo bin on the device (ours)')
  await page.getByRole('link', { name: 'To the draft' }).click()
  await expect(page.getByTestId('draft')).toContainText('Photo bin on the device (ours)')

  const file = await (await page.request.get('/api/playbook/file')).json()
  expect(file.kinds.find(({ id }: { id: string }) => id === 'device-photo-bin').prior.chance).not.toBe(0.8)
  await page.getByTestId('drop-draft').click()
  await expect(page.getByTestId('draft')).toBeHidden()
  file.kinds[0].says = 'Said otherwise in another shop.'
  await page.getByTestId('import-playbook').setInputFiles({
    name: 'playbook.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(file)),
  })
  await expect(page.getByTestId('draft')).toBeVisible()
  const faulty = await page.request.post('/api/playbook/file', { data: { ...file, kinds: [{ id: 'Bad id' }] } })
  expect([faulty.status(), (await faulty.json()).fields.length > 0]).toEqual([400, true])
})
