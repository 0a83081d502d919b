import { readFile } from 'node:fs/promises'
import type { Page } from '@playwright/test'
import { expect, expectAccessible, logCase, test } from './support/shop'
import { LOST_PHOTOS } from './support/cases'

const next = (page: Page) => page.locator('[data-test="next-route"]')

async function seeToHolds(page: Page) {
  const first = page.locator('[data-test="first-hold"]')
  await expect(first.or(page.locator('[data-test="start"]'))).toBeVisible()
  while (await first.isVisible()) {
    const words = await first.innerText()
    await first.getByRole('button', { name: /Confirm done/ }).click()
    await expect(first.filter({ hasText: words })).toHaveCount(0)
  }
}

async function record(page: Page, back: string, whole: string, note: string) {
  const form = page.locator('[data-test="run-report"]')
  await form.getByLabel('came back').fill(back)
  await form.getByLabel('whole', { exact: true }).fill(whole)
  await form.getByLabel('hands-on minutes').fill('6')
  await form.getByRole('textbox', { name: 'note' }).fill(note)
  await form.getByRole('button', { name: 'Record result' }).click()
  await expect(form).toHaveCount(0)
}

test('from the plan to the closed case, and the file of it back in', async ({ bench: page }) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/cases/${code}`)
  await expect(next(page)).toHaveText('Photo bin on Korvane 7')
  await expect(page.locator('[data-test="start"]')).toHaveCount(0)
  await seeToHolds(page)
  await page.locator('[data-test="start"]').click()
  await record(page, '190', '188', 'The newest are not in it.')
  await expect(page.locator('[data-test="back-so-far"]')).toContainText('188 of about 300, 2 damaged')
  await expect(page.locator('[data-test="below"]', { hasText: 'Photo bin' })).toContainText('it recovered 190')

  await expect(next(page)).toHaveText('Bin of the cloud library')
  await seeToHolds(page)
  await page.locator('[data-test="start"]').click()
  await record(page, '60', '60', '')
  await expect(page.locator('[data-test="back-so-far"]')).toContainText('248 of about 300')

  for (const [move, stands] of [
    ['Set to ready', 'ready'],
    ['Hand over', 'handed over'],
    ['Close the case', 'closed'],
  ] as const) {
    await page.locator('[data-test="move"]').click()
    await page.getByRole('radio', { name: move }).check()
    await page.getByRole('dialog').getByRole('button', { name: move }).click()
    await expect(page.locator('[data-test="move"]')).toContainText(stands)
  }
  await expect(page.locator('[data-test="back-so-far"]')).not.toContainText('plan expects')
  const history = page.locator('[data-test="history"]')
  await history.getByRole('button', { name: /all \d+ entries/ }).click()
  for (const words of [
    'logged the case',
    'ticked the hold',
    'started: Photo bin on Korvane 7',
    'ended: Photo bin on Korvane 7, 190 back, 188 of them whole',
    'moved the case to “closed”',
  ])
    await expect(history).toContainText(words)
  await expect(history).toContainText('Bram Hollis')

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'case file' }).click(),
  ])
  const path = await download.path()
  expect(download.suggestedFilename()).toBe(`${code}.case.json`)
  expect(JSON.parse(await readFile(path, 'utf8'))).toMatchObject({ format: 'russet-lantern/case', code })
  await page.goto('/bring-in')
  await page
    .locator('[data-test="case-file"]')
    .setInputFiles({ name: 'oxley.json', mimeType: 'application/json', buffer: await readFile(path) })
  await expect(page.getByRole('alert')).toContainText(`This case is here already, as ${code}.`)
  const other = JSON.stringify({ ...JSON.parse(await readFile(path, 'utf8')), identity: undefined })
  await page
    .locator('[data-test="case-file"]')
    .setInputFiles({ name: 'oxley.json', mimeType: 'application/json', buffer: Buffer.from(other) })
  await expect(page).toHaveURL(/\/cases\/SL-0019$/)
  await expect(page.locator('[data-test="back-so-far"]')).toContainText('248 of about 300')
  await expect(page.locator('[data-test="history"]')).toContainText('imported the case from a file')
})

test('a hold is waived with a reason, and the reason is kept', async ({ bench: page }) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/cases/${code}`)
  const hold = page.locator('[data-hold="stop-using"]')
  await hold.getByRole('button', { name: /Waive/ }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('button', { name: 'Waive hold' })).toBeDisabled()
  await dialog.getByLabel('Reason').fill('It is a spare phone.')
  await dialog.getByRole('button', { name: 'Waive hold' }).click()
  await expect(hold.getByRole('checkbox')).toBeChecked()
  await expect(page.locator('[data-test="history"]')).toContainText('It is a spare phone.')
  await hold.getByRole('checkbox').click()
  await expect(hold.getByRole('checkbox')).not.toBeChecked()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(hold.getByRole('checkbox')).toBeChecked()
})

test('a run that could not begin teaches no odds and leaves the fact to be changed', async ({ bench: page }) => {
  const code = await logCase(page.request, { ...LOST_PHOTOS, 'copies.c1': { kind: 'cloud-library', sync: 'on' } })
  await page.goto(`/cases/${code}`)
  await page.locator('[data-option="cloud-library-bin:c1"] button').click()
  await seeToHolds(page)
  await page.locator('[data-test="start"]').click()
  await page.getByLabel('how it went').selectOption('gate')
  await page.getByLabel('which condition').selectOption('account')
  await page.getByRole('button', { name: 'Record result' }).click()
  await expect(page.locator('[data-test="below"]', { hasText: 'Bin of the cloud library' })).toContainText(
    'failed before it began',
  )
})

test('a run sheet is worked through, timed over a reload, beside a second run; the plan says what the result changed', async ({
  bench: page,
}) => {
  const code = await logCase(page.request, { ...LOST_PHOTOS, 'copies.c1': { kind: 'cloud-library', sync: 'on' } })
  await page.goto(`/cases/${code}`)
  await seeToHolds(page)
  const first = await next(page).innerText()
  await page.locator('[data-test="start"]').click()
  const run = page.getByTestId('run')
  const clock = page.getByTestId('run-clock')
  await expect(clock.getByRole('button', { name: /hands-on/ })).toHaveAttribute('aria-pressed', 'true')

  await run.getByRole('checkbox', { name: /^step 1:/ }).click()
  await expect(run.getByRole('checkbox', { name: /^step 1:/ })).toBeChecked()
  await run.getByLabel('What you see').fill('The bin shows 212 pictures.')
  await page.keyboard.press('Enter')
  await expect(run).toContainText('The bin shows 212 pictures.')
  const session = (await (await page.request.get('/api/session')).json()) as { now: string }
  const later = new Date(Date.parse(session.now) + 20 * 60_000).toISOString()
  expect((await page.request.put('/api/clock', { data: { now: later } })).ok()).toBe(true)
  await clock.getByRole('button', { name: /waiting/ }).click()
  await expect(clock.getByRole('button', { name: /waiting/ })).toHaveAttribute('aria-pressed', 'true')
  await page.reload()
  await expect(clock.getByRole('button', { name: /hands-on/ })).toContainText(/2[01]:\d\d/)
  await expect(run.getByRole('checkbox', { name: /^step 1:/ })).toBeChecked()

  // While it waits, another route is chosen in the plan and started.
  await page.locator('[data-option="cloud-library-bin:c1"] button').click()
  await seeToHolds(page)
  await page.locator('[data-test="start"]').click()
  await expect(page.getByRole('navigation', { name: 'Open runs' }).getByRole('button')).toHaveCount(2)
  await expect(run.getByRole('heading', { level: 2 })).toHaveText('Bin of the cloud library')
  await expectAccessible(page)

  await page.getByLabel('how it went').selectOption('nothing-there')
  await page.getByRole('button', { name: 'Record result' }).click()
  await expect(run.getByRole('heading', { level: 2 })).toHaveText(first)
  // What that changed is said beside the run that is still open.
  await expect(page.getByTestId('changes')).toContainText('closed: Bin of the cloud library')
  await expect(page.getByTestId('run-report').getByLabel('hands-on minutes')).toHaveAttribute('placeholder', /^2[01]$/)
  await page.getByTestId('run-report').getByLabel('came back').fill('190')
  await page.getByRole('button', { name: 'Record result' }).click()
  const changes = page.getByTestId('changes')
  await expect(changes).toContainText(/Recorded\. (Next is now|Nothing is left)/)
  await expect(changes).toContainText(`closed: ${first}`)
  await expect(page.getByTestId('history')).toContainText('started the waiting timer')
})

test('nothing is opened before it is asked whose data it is, who agrees and which proof was seen', async ({
  bench: page,
}) => {
  const code = await logCase(page.request, {
    ...LOST_PHOTOS,
    'authority.basis': 'unknown',
    'consent.lookThrough.answer': 'unknown',
  })
  await page.goto(`/cases/${code}`)
  const [stop, start, holds] = [
    page.getByTestId('stop'),
    page.locator('[data-test="start"]'),
    page.locator('[data-test="first-hold"]'),
  ]
  await expect(holds.or(stop)).toBeVisible()
  while (await holds.isVisible()) {
    await holds.getByRole('button', { name: /Confirm done/ }).click()
    await page.waitForTimeout(200)
  }
  await expect(stop).toContainText('Whose data it is (2 to ask)')
  await expect(start).toHaveCount(0)
  await expectAccessible(page)
  await stop.getByRole('button', { name: 'their employer’s' }).click()
  await seeToOthersHold(page)
  await stop.getByLabel('Who agrees').fill('Ibbie Marsh, head of the library')
  await page.keyboard.press('Enter')
  await stop.getByRole('button', { name: 'a letter of authority' }).click()
  await stop.getByRole('button', { name: 'yes' }).click()
  await expect(start).toBeVisible()

  // Taken back, it stops the bench as well.
  await page.getByRole('complementary', { name: 'Docket' }).getByLabel('We may look through it').fill('no')
  await page.keyboard.press('Enter')
  await expect(stop).toContainText('does not want their data looked through')
  await expect(start).toHaveCount(0)
  await expect(page.getByTestId('history')).toContainText('proof seen: a letter of authority')
})

/** Data of others bring a hold of their own. */
async function seeToOthersHold(page: Page) {
  const hold = page.locator('[data-test="first-hold"]', { hasText: 'somebody else' })
  await hold.getByRole('button', { name: /Confirm done/ }).click()
  await expect(hold).toHaveCount(0)
}

test('what is written of a run survives a reload before it is recorded', async ({ bench: page }) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/cases/${code}`)
  await seeToHolds(page)
  await page.locator('[data-test="start"]').click()
  await page.getByRole('textbox', { name: 'note' }).fill('The bin opens slowly.')
  await page.reload()
  await expect(page.getByRole('textbox', { name: 'note' })).toHaveValue('The bin opens slowly.')
})

test('the docket changes a fact in place, and the plan follows', async ({ bench: page }) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/cases/${code}`)
  await page.getByRole('complementary', { name: 'Docket' }).getByLabel('How it was lost').fill('deleted and')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-test="below"]', { hasText: 'Photo bin' })).toContainText('emptied')
  await expect(page.locator('[data-test="history"]')).toContainText(
    'how it was lost: deleted in bulk → deleted and the bin emptied',
  )
})

test('the counter is walked with arrows, and opened with Enter', async ({ bench: page }) => {
  await page.goto('/')
  await expect(page.getByRole('row')).toHaveCount(17)
  await expect(page.getByRole('row').nth(1)).toContainText('Water rescue volunteers')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/cases\/SL-00\d\d$/)
})

test('a case is found by name, code, number, note and history, the closed ones too, with what matched where', async ({
  bench: page,
}) => {
  await page.goto('/')
  await expect(page.getByRole('row')).toHaveCount(17)
  await page.keyboard.press('/')
  await page.keyboard.type('allotm')
  const found = page.getByTestId('found-case')
  await expect(found).toHaveCount(1)
  await expect(found).toContainText('Allotments by the weir')
  await expect(found.locator('mark').first()).toHaveText('Allotm')
  for (const typed of ['SL-0002', '960655', '(01632) 960 655']) {
    await page.getByRole('searchbox').fill(typed)
    await expect(found.first()).toContainText('Allotments by the weir')
  }
  const answer = await page.request.post('/api/cases/SL-0012/hand-over', {
    data: { version: 0, write: { do: 'contact', way: 'called', says: 'Her aunt has a heron film' } },
  })
  expect(answer.ok()).toBe(true)
  await page.getByRole('searchbox').fill('heron aunt')
  await expect(found).toContainText('contact with the client: Her aunt has a heron film')
  await expectAccessible(page)
  await page.keyboard.press('Escape')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/cases\/SL-0012$/)
  await page.getByRole('searchbox').fill('zzz')
  await expect(page.getByRole('heading', { name: 'Nothing says “zzz”' })).toBeVisible()
})

test('a safety copy that fails is reported as such, and the erase does not start; one that was read back lets it', async ({
  bench: page,
}) => {
  const code = await logCase(page.request, {
    ...LOST_PHOTOS,
    'copies.c1': {
      kind: 'computer-backup',
      encrypted: 'no',
      taken: { from: '2026-11-17T00:00:00Z', to: '2026-11-17T00:00:00Z' },
    },
    'consent.erase.answer': 'given',
  })
  const begin = async (option: string) => {
    for (;;) {
      const answer = await page.request.post(`/api/cases/${code}/runs`, { data: { version: 0, option } })
      if (answer.ok()) return null
      const { message, fields } = (await answer.json()) as { message: string; fields: { path: string }[] }
      const holds = fields.flatMap(({ path }) => (path.startsWith('holds.') ? [path.slice('holds.'.length)] : []))
      if (holds.length === 0) return message
      for (const hold of holds)
        await page.request.post(`/api/cases/${code}/holds`, { data: { version: 0, hold, mark: 'ticked' } })
    }
  }
  const restore = () => begin('computer-backup-full:c1')
  const form = page.locator('[data-test="run-report"]')
  const record = form.getByRole('button', { name: 'Record result' })
  expect(await restore()).toContain('make the safety copy first')

  expect(await begin('safety-copy:d1')).toBe(null)
  await page.goto(`/cases/${code}`)
  await form.getByLabel('how it went').selectOption('access')
  await form.getByRole('textbox', { name: 'note' }).fill('The cable gave out at a third.')
  await record.click()
  await expect(form).toHaveCount(0)
  expect(await restore()).toContain('make the safety copy first')
  await expect(page.locator('[data-test="history"]')).toContainText(
    'which failed (no access): The cable gave out at a third.',
  )

  // It is tried again; a form that does not mention the copy is refused.
  expect(await begin('safety-copy:d1')).toBe(null)
  await page.reload()
  await record.click()
  await expect(form.getByRole('alert')).toContainText('That it was read back: has to be said')
  await expect(form.getByRole('alert')).toContainText('Where it is')
  await expectAccessible(page)
  await form.getByLabel('It was opened or read back').check()
  await form.getByLabel('where it is').fill('disk 4, folder Oxley')
  await form.getByLabel('items in it').fill('812')
  await record.click()
  await expect(form).toHaveCount(0)
  await expect(page.locator('[data-test="history"]')).toContainText('read back: 812 items, disk 4, folder Oxley')
  expect(await restore()).toBe(null)
})
