import { expect, logCase, signIn, test } from './support/shop'
import { LOST_PHOTOS } from './support/cases'

test('words that cannot be read are said so and stay where they are', async ({ bench: page }) => {
  await page.goto('/log/SL-0012')
  const when = page.getByLabel('When it was lost')
  await when.fill('the day the boat came')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('This is not a time')
  await expect(when).toHaveValue('the day the boat came')
  await expect(when).toHaveAttribute('aria-invalid', 'true')
  for (const [label, typed, words] of [
    ['Phone number', 'ask her sister', 'is not a phone number'],
    ['Capacity', 'huge', 'This is not a size'],
    ['Can spend', 'plenty', 'This is not an amount of money'],
    ['How it was lost', 'vaporised', 'Not one of these'],
  ] as const) {
    await page.getByLabel(label, { exact: true }).fill(typed)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('alert').filter({ hasText: words })).toBeVisible()
    await page.keyboard.press('Escape')
  }
  // What was typed waits to be put right, also after a reload; Escape gives it up for what was known before.
  await page.reload()
  await expect(when).toHaveValue('the day the boat came')
  await when.focus()
  await page.keyboard.press('Escape')
  await expect(when).toHaveValue('15 to 18 Nov')
  await expect(page.getByLabel('Phone number', { exact: true })).toHaveValue('01632 960 214')
})

test('a case file with faults is refused with each of them, and nothing changes', async ({ bench: page }) => {
  await page.goto('/bring-in')
  const bring = (name: string, text: string) =>
    page
      .locator('[data-test="case-file"]')
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) })
  await bring('half.json', '{"format":')
  await expect(page.getByRole('alert')).toContainText('half.json was not imported. Nothing was changed.')
  await bring(
    'wrong.json',
    '{"format":"russet-lantern/case","version":1,"loss":{"how":"vaporised"},"limits":{"money":-3,"colour":"red"}}',
  )
  await expect(page.getByRole('alert')).toContainText('loss.how')
  await expect(page.getByRole('alert')).toContainText('limits.money: is below zero')
  await bring('strange.json', '{"format":"russet-lantern/case","version":1,"limits":{"colour":"red"}}')
  await expect(page.getByRole('alert')).toContainText('limits.colour: is not known in a case')
  await bring(
    'markup.json',
    '{"format":"russet-lantern/case","version":1,"client":{"name":"<img src=x onerror=document.title=1>"}}',
  )
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('<img src=x onerror=document.title=1>')
  await expect(page).not.toHaveTitle('1')
  await page.goto('/')
  await expect(page.getByRole('row')).toHaveCount(18)
})

test('impossible figures in a run’s report are named field by field', async ({ bench: page }) => {
  const code = await logCase(page.request, {
    ...LOST_PHOTOS,
    'devices.d1': { kind: 'card', condition: 'working' },
    'copies.c1': null,
  })
  for (const hold of ['keep-medium-out', 'save-elsewhere'])
    await page.request.post(`/api/cases/${code}/holds`, { data: { version: 1, hold, mark: 'ticked' } })
  await page.request.post(`/api/cases/${code}/runs`, { data: { version: 1, option: 'medium-deep-scan:d1' } })
  await page.goto(`/cases/${code}`)
  const form = page.locator('[data-test="run-report"]')
  await form.getByLabel('came back').fill('5')
  await form.getByLabel('whole', { exact: true }).fill('9')
  await form.getByLabel('hands-on minutes').fill('-2')
  await form.getByRole('button').click()
  await expect(form.getByRole('alert')).toContainText('more are whole than came back')
  await expect(form.getByRole('alert')).toContainText('Hands-on minutes: is below zero')
  await form.getByLabel('whole', { exact: true }).fill('some')
  await form.getByRole('button').click()
  await expect(form.getByRole('alert')).toContainText('What came back: is not a number')
})

test('people are added by the owner only, and with sound words', async ({ page }) => {
  await signIn(page.request, 'ottilie')
  await page.goto('/people')
  await page.getByLabel('Name', { exact: true }).fill('Fern Aldous')
  await page.getByLabel('Sign-in name').fill('f!')
  await page.getByLabel('First password').fill('short')
  await page.getByRole('button', { name: 'Add' }).click()
  await expect(page.getByText('This is not a sign-in name')).toBeVisible()
  await expect(page.getByText('This is shorter than 10 characters.')).toBeVisible()
  await page.getByLabel('Sign-in name').fill('bram')
  await page.getByLabel('First password').fill('quiet-millrace-2')
  await page.getByRole('button', { name: 'Add' }).click()
  await expect(page.getByText('This is taken.')).toBeVisible()
  await page.getByLabel('Sign-in name').fill('fern')
  await page.getByRole('button', { name: 'Add' }).click()
  await expect(page.getByRole('main').getByRole('listitem').filter({ hasText: 'Fern Aldous' })).toBeVisible()
})

test('a wrong password is reported, and after five the name has to wait', async ({ page }) => {
  await page.goto('/sign-in')
  await page.getByLabel('Sign-in name').fill('bram')
  for (let time = 0; time < 5; time++) {
    await page.getByLabel('Password').fill(`wrong-${time}`)
    await page.getByRole('button', { name: 'Sign in', exact: true }).click()
    await expect(page.getByText('This does not fit this name.')).toBeVisible()
  }
  await page.getByLabel('Password').fill('towpath-heron-4')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('Try again in')
})

test('a case and a page that are not there are said in words', async ({ bench: page }) => {
  await page.goto('/cases/SL-9999')
  await expect(page.getByRole('alert')).toContainText('There is no case SL-9999.')
  await page.goto('/no/such/page')
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible()
})

test('a person’s password is changed and their access taken away, and the last owner stays', async ({
  page,
  browser,
  shop,
}) => {
  await signIn(page.request, 'ottilie')
  const bram = await browser.newContext({ baseURL: shop.address })
  await signIn(bram.request, 'bram')
  await page.goto('/people')
  await page.getByRole('button', { name: 'Change Bram Hollis' }).click()
  await page.getByLabel('New password').fill('brief')
  await page.getByRole('button', { name: 'Set password' }).click()
  await expect(page.getByText('This is shorter than 10 characters.')).toBeVisible()
  await page.getByLabel('New password').fill('reed-warbler-7')
  await page.getByRole('button', { name: 'Set password' }).click()
  await expect(page.getByText('signs in with the new password')).toBeVisible()
  const enter = (password: string) => bram.request.post('/api/session', { data: { signIn: 'bram', password } })
  expect((await enter('towpath-heron-4')).status()).toBe(401)
  expect((await enter('reed-warbler-7')).status()).toBe(200)
  await page.getByRole('button', { name: 'Change Bram Hollis' }).click()
  await page.getByRole('button', { name: 'Remove access' }).click()
  await expect(page.getByRole('alert')).toContainText('Choose who takes them over')
  await page.getByLabel('Who takes over what is open, if they leave').selectOption('Suda Wray')
  await page.getByRole('button', { name: 'Remove access' }).click()
  await expect(page.getByRole('main').getByRole('listitem').filter({ hasText: 'Bram Hollis' })).toHaveCount(0)
  expect((await bram.request.get('/api/cases')).status()).toBe(401)
  const owner = (await (await page.request.get('/api/people')).json()).find(
    (one: { role: string }) => one.role === 'owner',
  )
  expect((await page.request.delete(`/api/people/${owner.id}`)).status()).toBe(409)
  await bram.close()
})
