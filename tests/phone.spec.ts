import type { Page } from '@playwright/test'
import { expect, expectAccessible, signIn, test } from './support/shop'

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })

const boxOf = async (page: Page, selector: string) => (await page.locator(selector).first().boundingBox())!
const isWithin = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)

test('on a phone the counter names its clients, and a case begins with its next step', async ({ page }) => {
  await signIn(page.request, 'bram')
  await page.goto('/')
  const first = page.locator('tbody tr').first()
  const client = first.locator('td').nth(1)
  await expect(client).toBeVisible()
  const [name, code] = [(await client.boundingBox())!, (await first.locator('td').first().boundingBox())!]
  expect(name.width).toBeGreaterThan(120)
  // Nothing of a case lies on anything else of it.
  expect(code.y).toBeGreaterThanOrEqual(name.y + name.height)
  expect(await isWithin(page)).toBe(true)
  await expectAccessible(page)

  await page.goto('/cases/SL-0012')
  const next = page.getByRole('button', { name: /^Confirm done/ })
  await expect(next).toBeVisible()
  const button = (await next.boundingBox())!
  expect(button.height).toBeGreaterThanOrEqual(44)
  expect(button.y).toBeLessThan((await boxOf(page, '.plan-column')).y)
  expect((await boxOf(page, '.plan-column')).y).toBeLessThan((await boxOf(page, '.docket-column')).y)
  expect(await isWithin(page)).toBe(true)
  await expectAccessible(page)

  for (const path of ['/log/SL-0012', '/bench/SL-0012?on=korvane-7', '/ledger']) {
    await page.goto(path)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    expect(await isWithin(page), path).toBe(true)
  }
})
