import { expect, expectAccessible, signIn, test } from './support/shop'

test.use({ shopEnv: { LANTERN_DEMO: '1' } })

const saved = (page: import('@playwright/test').Page) => page.getByText('Saved.', { exact: true }).first()

test('an owner sets prices, speeds, paper and language; plans, quotes, labels and dates go by them', async ({
  page,
}) => {
  await signIn(page.request, 'ottilie')
  await page.goto('/settings')
  await expectAccessible(page)
  const line = (label: string) => page.getByLabel(label, { exact: true })

  await line('Looking').fill('free')
  await line('Looking').press('Enter')
  await expect(page.getByRole('alert')).toContainText('This is not a number.')
  await line('Looking').fill('32,50')
  await line('Looking').press('Enter')
  await expect(saved(page)).toBeVisible()
  await expect(line('Looking')).toHaveValue('32.5')

  await line('Memory card in the reader').fill('9')
  await line('Memory card in the reader').press('Enter')
  await line('Receipt, money').selectOption('A5')
  await line('Label, width').fill('10')
  await line('Label, width').press('Enter')
  await expect(page.getByRole('alert')).toContainText('is below 40 mm')
  await line('Label, width').fill('89')
  await line('Label, width').press('Enter')
  await expect(page.getByRole('alert')).toHaveCount(0)
  await page.getByRole('link', { name: 'label', exact: true }).click()
  await expect(page.getByTestId('test-page')).toContainText('label 89 × 29 mm')
  await expectAccessible(page)
  await page.goto('/print/SL-0012/tag')
  expect((await page.getByTestId('tag-label').first().boundingBox())!.width).toBeCloseTo((89 / 25.4) * 96, 0)

  await page.goto('/hand-over/SL-0008')
  await page.getByRole('button', { name: /Quote/ }).first().click()
  await expect(page.getByRole('dialog').getByLabel(/^Due when nothing comes back/)).toHaveValue('32.5')
  await page.keyboard.press('Escape')
  await page.getByTestId('charge').click()
  await page.getByLabel('From the price list').selectOption({ label: 'Looking, £32.50' })
  await expect(page.getByLabel(/^Price with tax/)).toHaveValue('32.5')
  await page.keyboard.press('Escape')

  await page.goto('/settings')
  await page.getByLabel('Dates and numbers').selectOption('German')
  await expect(page.getByRole('banner')).toContainText('Di. 24. Nov.')
  await page.goto('/ledger/runs')
  await expect(page.getByRole('cell', { name: '24. Nov. 2026' }).first()).toBeVisible()
})

test('keys are changed on this machine, shown where they act, and given back', async ({ page }) => {
  await signIn(page.request, 'bram')
  await page.goto('/')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.keyboard.press('F1')
  const sheet = page.getByTestId('key-sheet')
  await sheet.getByLabel('Key for “log a case”').fill('u')
  await expect(sheet.getByRole('alert')).toContainText('is for “change person” here')
  await sheet.getByLabel('Key for “log a case”').fill('+')
  await expectAccessible(page)
  await sheet.getByRole('button', { name: 'Close' }).click()
  await page.keyboard.press('n')
  await page.keyboard.press('+')
  await expect(page).toHaveURL('/log')
  await page.goto('/')
  await expect(page.getByRole('link', { name: 'Log a case' }).or(page.getByText('Log a case')).first()).toContainText(
    '+',
  )
  await page.keyboard.press('F1')
  await sheet.getByRole('button', { name: 'All keys as shipped' }).click()
  await sheet.getByRole('button', { name: 'Close' }).click()
  await page.keyboard.press('n')
  await expect(page).toHaveURL('/log')
})
