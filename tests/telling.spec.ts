import type { Page } from '@playwright/test'
import { expect, expectAccessible, logCase, signIn, test } from './support/shop'

/** Types words one after the other with Tab between them, as in a fast log; a question mark is pressed alone. */
async function say(page: Page, ...words: string[]) {
  for (const word of words) {
    if (word === '?') await page.keyboard.press('?')
    else {
      await page.keyboard.type(word)
      await page.keyboard.press('Tab')
    }
  }
}
const word = (page: Page, name: string) => page.locator(`input[aria-label="${name}"]`)

test('a fast log that slips by one question: what was not understood is seen, counted, and put where it belongs', async ({
  page,
}) => {
  await signIn(page.request, 'jory')
  await page.goto('/log')
  await expect(word(page, 'Client')).toBeFocused()
  // The family is left out, so that every word after it answers the question before its own.
  await say(page, 'Nell Arden', '07700 900 333', 'mobile', 'Tarn X1', '256 GB', 'working', 'unl', 'dried up')
  const wrong = page.locator('.telling .is-wrong')
  await expect(wrong).toHaveCount(4)
  await expect(page.getByTestId('not-understood')).toContainText('4 words were not understood')
  await expect(wrong.first()).toContainText('wants one of 8: closed platform, open platform')
  const [understood, not] = await Promise.all(
    ['Kind of device', 'Platform family'].map((name) =>
      word(page, name).evaluate((input) => ({
        weight: getComputedStyle(input).fontWeight,
        family: getComputedStyle(input).fontFamily,
      })),
    ),
  )
  expect(not).not.toEqual(understood)
  await expectAccessible(page)

  // Reading back goes to the first of them, and Enter puts it where it belongs.
  await page.keyboard.press('Control+Enter')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(word(page, 'Platform family')).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(word(page, 'Platform family')).toHaveValue('')
  await expect(word(page, 'Capacity')).toHaveValue('256 GB')
  // What had been typed there goes on to its own question, in front of the word that stood there.
  await expect(page.getByTestId('not-understood')).toContainText('2 words')

  // What is not put right is still there after a reload; Escape gives it up.
  await say(page, 'open')
  await expect(page.getByRole('status').filter({ hasText: 'all saved' })).toBeVisible()
  await page.reload()
  await expect(page.getByTestId('not-understood')).toContainText('2 words')
  await expect(word(page, 'Free space')).toHaveValue('unl')
  await page.getByTestId('move-elsewhere').first().click()
  await expect(word(page, 'Lock')).toHaveValue('unlocked by its owner')
  await expect(word(page, 'Condition')).toHaveValue('dried up')
  await word(page, 'Condition').focus()
  await page.keyboard.press('Escape')
  await expect(word(page, 'Condition')).toHaveValue('working')
  await expect(page.getByTestId('not-understood')).toHaveCount(0)
  await page.keyboard.press('Control+Enter')
  await expect(page.getByRole('dialog', { name: 'Read back to the client' })).toContainText('open platform, 256 GB')
})

test('a word that goes with its own answer hands the focus on, and a key is never taken for a command', async ({
  page,
}) => {
  await signIn(page.request, 'jory')
  await page.goto('/log')
  await expect(word(page, 'Client')).toBeFocused()
  await say(page, 'Nell Arden', '?', 'phone', '?', 'open', '?', '?', 'works', 'unl', '?')
  // The word for when they were made has both, so that no word comes between it and the next.
  await say(page, 'photos', '300', '1 to 14 nov, most on 12 nov')
  await expect(word(page, 'Must have')).toBeFocused()
  await expect(word(page, 'Made')).toHaveValue('1 to 14 Nov, most 12 Nov')
  // A passcode that is asked for goes with the lock that it belongs to.
  await word(page, 'Lock').focus()
  await say(page, 'locked')
  await expect(word(page, 'Passcode')).toBeFocused()
  await word(page, 'How it was lost').focus()
  await say(page, 'formatted', 'quick')
  await word(page, 'How it was lost').focus()
  await page.keyboard.press('?')
  await expect(word(page, 'When it was lost')).toBeFocused()
})

test('what decides is typed, shown in the docket and the history, and changes the plan', async ({ page }) => {
  await signIn(page.request, 'bram')
  const code = await logCase(page.request, {
    'devices.d1': { kind: 'laptop', platform: 'desktop-pc', storage: { kind: 'solid-state', encryption: 'none' } },
    'wanted.w1': { type: 'documents', count: 240 },
    'devices.d1.condition': 'working',
  })
  await page.goto(`/log/${code}`)
  await word(page, 'How it was lost').focus()
  await say(page, 'past the bin', 'sunday', '?', 'not used', '?')
  await expect(word(page, 'Switched on or off')).toBeFocused()
  await say(page, 'off', 'sunday evening')
  await expect(page.getByLabel('The plan so far')).toContainText('Leave the laptop switched off')
  await page.goto(`/cases/${code}`)
  await expect(word(page, 'How it was lost')).toHaveValue('deleted past the bin')
  await expect(word(page, 'Off since')).toHaveValue(/^22 Nov/)
  await expect(page.getByText('switched on or off: switched off')).toBeVisible()
  await page
    .getByRole('button', { name: /not known|change/ })
    .nth(3)
    .click()
  await word(page, 'Next run of the timer').fill('wednesday')
  await page.keyboard.press('Tab')
  await expect(word(page, 'Next run of the timer')).toHaveValue('25 Nov')
})

test('two copies in one account are asked for its password once', async ({ page }) => {
  await signIn(page.request, 'bram')
  const code = await logCase(page.request, {
    'devices.d1': { kind: 'phone', platform: 'open-phone' },
    'wanted.w1': { type: 'photos', count: 200 },
    'copies.c1': { kind: 'cloud-library' },
    'copies.c2': { kind: 'cloud-backup' },
  })
  await page.goto(`/log/${code}`)
  await word(page, 'Which account').focus()
  await say(page, 'the one of the cloud')
  await expect(word(page, 'Which account').first()).toHaveValue('account of the cloud library')
  await expect(word(page, 'Account and password')).toHaveCount(0)
  await expect(word(page, 'Known')).toHaveCount(1)
  await word(page, 'Known').focus()
  await say(page, 'forgotten')
  await page.reload()
  await expect(word(page, 'Known')).toHaveValue('forgotten')
})

test('the routes for a kind of device and loss are compared, from a case, alone, and on paper', async ({
  bench: page,
}) => {
  await page.goto('/cases/SL-0012')
  await page.getByTestId('to-compare').click()
  const table = page.getByTestId('compared')
  await expect(page.getByTestId('compared-for')).toContainText('Ways to get back')
  await expect(word(page, 'Kind of data')).toHaveValue('photos')
  await expect(table.locator('[data-route="gallery-bin"]')).toContainText('The bin was switched on')
  await expect(table.locator('[data-route="cloud-backup-full"]')).toContainText('Erases the device')
  await expectAccessible(page)
  await word(page, 'How it was lost').fill('reset')
  await page.keyboard.press('Tab')
  await expect(page).toHaveURL(/how=lost/)
  await expect(table.locator('[data-route="gallery-bin"]')).toHaveCount(0)
  await expect(page.getByRole('region', { name: 'Not after such a loss' })).toContainText('Gallery bin on the device')
  // The address says it all: another tab shows the same.
  await page.goto(page.url())
  await expect(word(page, 'How it was lost')).toHaveValue('lost in a factory reset')
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByTestId('print')).toBeHidden()
  await expect(table).toBeVisible()
})
