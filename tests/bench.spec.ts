import type { Page } from '@playwright/test'
import { begin, expect, expectAccessible, test } from './support/shop'

/** Types what was asked for into the strip, and sends it. */
async function give(page: Page, what: string, value: string) {
  await page.getByRole('textbox', { name: what, exact: true }).fill(value)
  await page.keyboard.press('Enter')
}

test('from the run to the shelf and back by keyboard: survey photos out of the bin', async ({ bench: page }) => {
  await page.goto('/bench/SL-0012')
  await expect(page.getByTestId('strip')).toContainText('It is locked')
  await expectAccessible(page)
  await give(page, 'passcode', '111111')
  await expect(page.getByText('That passcode is wrong.')).toBeVisible()
  await give(page, 'passcode', '190677')
  await expect(page.getByTestId('keeps')).toContainText('was never switched on')
  await page.keyboard.press('l')
  await expect(page.getByTestId('wanted-count')).toContainText('150 of about 260 wanted')
  await expect(page.getByTestId('days')).toContainText('none found')

  // Arrows, space and enter do everything in the days.
  const first = page.locator('[data-thumb]').first()
  await expect(first).toBeVisible()
  await first.focus()
  await page.keyboard.press('Shift+Space')
  await expect(page.getByTestId('selected')).toContainText('5 selected here')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Space')
  await expect(page.getByTestId('selected')).toContainText('6 selected here')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('picture')).toBeVisible()
  await expect(page.getByTestId('preview')).toContainText('22 days left')
  await expectAccessible(page)
  await page.keyboard.press('c')
  await expect(page.getByTestId('shelf-says')).toContainText('6 items on it, read back')

  // Everything in a filter at once; a reload restores the same view.
  await page.getByTestId('select-all').click()
  await expect(page.getByTestId('selected')).toContainText('150 selected here')
  await page.reload()
  await expect(page.getByTestId('selected')).toContainText('150 selected here')
  await page.getByTestId('copy').click()
  await expect(page.getByTestId('shelf-says')).toContainText('150 items on it, read back', { timeout: 30_000 })

  // What was opened is in the history of the case.
  await page.goto('/cases/SL-0012')
  await expect(page.getByTestId('history')).toContainText(/previewed “IMG_\d+\.jpg”/)
})

test('a locked phone: its messages out of the encrypted backup of a computer that it had trusted', async ({
  bench: page,
}) => {
  await page.goto('/cases/SL-0005')
  await page.getByTestId('to-bench').click()
  await expect(page.getByTestId('strip')).toContainText('4 tries left before it erases itself')
  await page.getByRole('tab', { name: /Study computer/ }).click()
  await give(page, 'password', 'gillyflower')
  await expect(page.getByTestId('backup')).toContainText('best choice')
  await page.getByRole('button', { name: 'Fetch to read' }).click()
  await page.getByRole('tab', { name: /^Backup of Korvane 5/ }).click()
  await give(page, 'password', 'larkspur')
  await expect(page.getByText('The password is wrong.')).toBeVisible()
  await give(page, 'password', 'larkspur gate 1961')
  await page.getByTestId('next').click()
  await page.getByRole('button', { name: /^kind:/ }).click()
  await page.getByRole('option', { name: /Messages/ }).click()
  // The backup also holds some that had been deleted before it was made.
  await expect(page.getByTestId('count')).toContainText('211 found')
  await page.getByRole('button', { name: /^deleted:/ }).click()
  await page.getByRole('option', { name: /^still there/ }).click()
  await expect(page.getByTestId('count')).toContainText('200 found')
  await page.getByTestId('list').getByRole('row').nth(3).click()
  await expect(page.getByRole('list', { name: 'Thread' })).toContainText(/\(\d+\)/)
  await expectAccessible(page)
  await page.getByTestId('select-all').click()
  await page.getByTestId('copy').click()
  await expect(page.getByTestId('shelf-says')).toContainText('200 items on it, read back', { timeout: 30_000 })
  // The report of the open run is filled in with the counts of the bench.
  await page.goto('/cases/SL-0005')
  await expect(page.getByTestId('run-report').getByLabel('came back').first()).toHaveValue('200')
  await page.getByText('Record result').click()
  await expect(page.getByTestId('to-bench')).toHaveCount(0)
})

test('contacts lost weeks ago are turned back at the account, with today’s list safe', async ({ bench: page }) => {
  await page.goto('/bench/SL-0009?on=lindqvist-account')
  await give(page, 'password', 'saxifrage-9')
  await give(page, 'code', '771204')
  await page.getByRole('button', { name: /^Show all \d+ places$/ }).click()
  await page.getByRole('button', { name: /Turn back to .*28 Oct/ }).click()
  const dialog = page.getByTestId('compare')
  await expect(dialog.getByTestId('gone')).toContainText('10 contacts')
  await expect(dialog.getByTestId('back')).toContainText('336 contacts')
  await expect(dialog.getByTestId('act')).toBeDisabled()
  await expectAccessible(page)
  // The holds of the route apply here too.
  await dialog.getByRole('button', { name: 'Confirm done' }).first().click()
  await dialog.getByRole('button', { name: 'Record consent' }).click()
  await dialog.getByRole('button', { name: 'Make the safety copy' }).click()
  // Escape closes the dialog, and nothing else.
  await expect(dialog.getByTestId('act')).toBeEnabled()
  await page.keyboard.press('Escape')
  await expect(dialog).toHaveCount(0)
  await expect(page).toHaveURL(/\/bench\/SL-0009/)
  await page.getByRole('button', { name: /Turn back to .*28 Oct/ }).click()
  await expect(dialog.getByTestId('act')).toBeEnabled()
  await dialog.getByTestId('act').click()
  await expect(page.getByTestId('task')).toContainText('Turn the contacts back')
})

test('notes gone from the bin: the cloud backup taken before the loss is distinguished from the one after', async ({
  bench: page,
}) => {
  await page.goto('/cases/SL-0008')
  await begin(page)
  await give(page, 'passcode', '140925')
  await page.getByRole('button', { name: 'Confirm trust' }).click()
  await expect(page.getByRole('row', { name: /^Bin of the notes/ })).toContainText('empty')
  await page.getByRole('tab', { name: /^Account of Sister/ }).click()
  await give(page, 'password', 'woodruff-and-wax')
  const [late, before] = [page.getByTestId('backup').nth(0), page.getByTestId('backup').nth(1)]
  await expect(late).toContainText('too late')
  await expect(before).toContainText('best choice')
  await before.getByRole('button', { name: 'Fetch to read' }).click()
  await page.getByRole('tab', { name: /^Backup of Pelloon Slate/ }).click()
  await page.getByTestId('next').click()
  await expect(page.getByTestId('wanted-count')).toContainText('36 of about 25 wanted')
  // What is wanted is shown by itself once all of it was listed.
  await expect(page.getByTestId('count')).toContainText('36 found')
  await page.getByTestId('select-all').click()
  await page.getByTestId('copy').click()
  await expect(page.getByTestId('shelf-says')).toContainText('36 items on it, read back', { timeout: 30_000 })
})

test('a document saved over this morning: last night’s state of its folder', async ({ bench: page }) => {
  await page.goto('/cases/SL-0013')
  await begin(page)
  await page.getByTestId('next').click()
  const saved = page.getByTestId('list').getByRole('row')
  await expect(saved).toHaveCount(5)
  await saved.filter({ hasText: 'Mon 23 Nov 2026 17:00' }).filter({ hasText: 'earlier' }).click()
  await expect(page.getByTestId('preview')).toContainText('Member 64')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Space')
  await page.getByTestId('copy').click()
  await expect(page.getByTestId('shelf-says')).toContainText('1 item on it, read back', { timeout: 30_000 })
})
