import { NOW } from './support/server'
import { expect, expectAccessible, logCase, signIn, test } from './support/shop'

test.use({ shopEnv: { LANTERN_DEMO: '1', LANTERN_PAST_YEAR: '1', LANTERN_NOW: NOW } })

test('an owner finds out whether deep scans of cards are worth offering, and what is behind each figure', async ({
  page,
}) => {
  await signIn(page.request, 'ottilie')
  await page.goto('/')
  await page.getByRole('link', { name: 'Ledger' }).click()
  await expect(page.getByRole('heading', { name: 'What works here' })).toBeVisible()
  await expect(page.getByText(/kept their word/)).toBeVisible()
  await expect(page.getByTestId('drifted')).toContainText('Deep scan of the stick brought less')
  await expectAccessible(page)

  await page.getByRole('button', { name: /^Device: any device/ }).click()
  const everything = (await page.getByText(/^\d+ runs of/).textContent())!.match(/\d+/)![0]
  await page.getByRole('option', { name: 'memory card' }).click()
  await expect(page.getByText(`${everything} runs of`)).toBeHidden()
  const scan = page.getByTestId('ledger-route').filter({ hasText: 'Deep scan of the card' })
  await expect(scan).toContainText(/\d+ min/)
  const runs = Number(await scan.getByRole('link').nth(1).textContent())
  expect(runs).toBeGreaterThan(0)
  await scan.getByRole('link').nth(1).click()
  await expect(page.getByTestId('run-line')).toHaveCount(runs)
  const csv = await page.request.get((await page.getByRole('link', { name: 'CSV' }).getAttribute('href'))!)
  expect((await csv.text()).trim().split('\n')).toHaveLength(runs + 1)
  await expectAccessible(page)

  // Hours too have their runs behind them, and the sentence can be taken back to everybody.
  await page.goto('/ledger?by=Suda+Wray')
  await page.getByTestId('hours').getByRole('link', { name: 'scans, machine' }).click()
  await expect(page.getByRole('button', { name: /time for scans, machine/ })).toBeVisible()
  await expect(page.getByTestId('run-line').filter({ hasText: 'Gallery bin' })).toHaveCount(0)
  await expect(page.getByTestId('run-line').filter({ hasText: 'Deep scan' }).first()).toBeVisible()

  // What lies behind a lamp is as many runs as its table says.
  await page.goto('/ledger')
  await page.getByText('As a table').click()
  const last = page.getByRole('row', { name: /^90–100%/ })
  const count = Number(await last.getByRole('link').textContent())
  await last.getByRole('link').click()
  await expect(page.getByText(`${count} runs of`)).toBeVisible()
})

test('a run is left out of the odds with a reason, and counts again; training never counts', async ({ page }) => {
  await signIn(page.request, 'ottilie')
  await page.goto('/ledger/odds')
  const line = page.getByTestId('odds-line').filter({ hasText: 'Ask somebody who has them' })
  const before = await line.textContent()
  await line.getByRole('link').click()
  await expect(page.getByRole('heading', { name: 'The course of the odds' })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('link', { name: 'See the runs' }).click()
  const run = page.getByTestId('run-line').first()
  await run.getByTestId('leave-out').click()
  await expect(page.getByRole('button', { name: 'Leave out', exact: true }).last()).toBeDisabled()
  await page.getByTestId('leave-out-reason').fill('wrong device')
  await page.keyboard.press('Enter')
  await expect(run).toContainText('left out: wrong device')
  await page.goto('/ledger/odds')
  await expect(line).not.toHaveText(before!)
  await page.goto('/ledger')
  await page.getByRole('link', { name: '1 run', exact: true }).click()
  await page.getByTestId('count-again').click()
  await page.goto('/ledger/odds')
  await expect(line).toHaveText(before!)

  const code = await logCase(page.request, { 'client.name': 'Practice', 'wanted.w1': { type: 'photos', count: 3 } })
  await page.goto(`/cases/${code}`)
  await page.getByTestId('training').click()
  await expect(page.getByText('training, counts nowhere')).toBeVisible()
  await expect(page.getByText('marked it as training')).toBeVisible()
})

test('figures of single people are for the owner, and the ledger is not for the counter', async ({ page, browser }) => {
  await signIn(page.request, 'bram')
  await page.goto('/ledger')
  await expect(page.getByRole('button', { name: /^Loss:/ })).toBeVisible()
  await expect(page.getByRole('button', { name: /^Technician:/ })).toBeHidden()
  expect((await page.request.get('/api/ledger?by=Suda%20Wray')).status()).toBe(403)
  expect((await page.request.get('/api/ledger/runs?by=Suda%20Wray')).status()).toBe(403)
  expect((await page.request.get('/api/ledger?tenth=12')).status()).toBe(400)
  const other = await browser.newContext({ baseURL: new URL(page.url()).origin })
  await signIn(other.request, 'jory')
  expect((await other.request.get('/api/ledger')).status()).toBe(403)
  const desk = await other.newPage()
  await desk.goto('/ledger')
  await expect(desk).toHaveURL(/\/$/)
  await other.close()
})
