import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { runLantern } from '../cli/program'
import { passwordOf } from './support/people'
import { expect, expectAccessible, logCase, signIn, test } from './support/shop'
import { LOST_PHOTOS } from './support/cases'

/** Draws in a field to sign in, as a finger does. */
async function sign(page: Page) {
  const field = (await page.getByTestId('signature').boundingBox())!
  await page.mouse.move(field.x + 20, field.y + 60)
  await page.mouse.down()
  for (let step = 1; step < 25; step++)
    await page.mouse.move(field.x + 20 + step * 6, field.y + 60 + (step % 4) * 9, { steps: 2 })
  await page.mouse.up()
}

/** Confirms the holds of the next route and starts it. */
async function start(page: Page) {
  const run = page.getByTestId('run')
  const next = page.getByRole('button', { name: /^(Confirm done|Start run)/ })
  while (!(await run.isVisible())) {
    await expect(run.or(next.first()).first()).toBeVisible()
    if (await run.isVisible()) return
    await page.keyboard.press('s')
    await page.waitForTimeout(250)
  }
}

async function attach(page: Page, part: RegExp, link: RegExp) {
  const choice = page.getByRole('dialog').getByRole('combobox', { name: part })
  const option = choice.locator('option').filter({ hasText: link }).first()
  await choice.selectOption((await option.getAttribute('value'))!)
  await expect(choice).toBeEnabled()
}

async function give(page: Page, what: string, value: string) {
  await page.getByRole('textbox', { name: what, exact: true }).fill(value)
  await page.keyboard.press('Enter')
}

async function shelve(page: Page, says: RegExp) {
  await expect(page.getByTestId('wanted-count')).toBeVisible()
  await expect(page.getByTestId('select-all')).toBeEnabled()
  await page.getByTestId('select-all').click()
  await page.getByTestId('copy').click()
  await expect(page.getByTestId('shelf-says')).toContainText(says, { timeout: 40_000 })
}

async function record(page: Page) {
  await page.getByRole('button', { name: 'Record result' }).click()
  await expect(page.getByTestId('run')).toHaveCount(0)
}

test('the whole way: log, consent, two runs, check with the client, bag, report, money, return, history', async ({
  bench: page,
  shop,
}) => {
  test.setTimeout(240_000)
  const out = mkdtempSync(join(tmpdir(), 'lantern-way-'))
  const medium = join(out, 'medium')
  mkdirSync(medium)
  const keys = async (...words: string[]) => {
    for (const word of words) {
      await page.keyboard.type(word)
      await page.keyboard.press('Tab')
    }
  }

  // Logged at the counter, as the client tells it.
  await page.goto('/')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('before this time tomorrow')
  await page.keyboard.press('n')
  await expect(page.getByLabel('Client', { exact: true })).toBeFocused()
  await keys('Maud Oxley', '07700 900 246', 'phone', 'Korvane 7', 'open', '128 GB')
  await page.keyboard.press('?')
  await keys('work', 'unl')
  await page.getByLabel('Kind of data').fill('photos')
  await page.keyboard.press('Tab')
  await keys('about 260', '11 oct to 15 nov')
  await page.getByLabel('How it was lost').fill('deleted in')
  await page.keyboard.press('Tab')
  await keys('between 15 and 18 november')
  await page.getByLabel('Another copy').fill('cloud lib')
  await page.keyboard.press('Enter')
  await page.keyboard.type('known')
  await page.keyboard.press('Tab')
  await keys('on', '28 oct')
  await page.keyboard.press('Control+Enter')
  await expect(page.getByRole('dialog', { name: 'Read back to the client' })).toContainText('Maud Oxley')
  await page.keyboard.press('Control+Enter')
  await expect(page).toHaveURL(/\/cases\/SL-0018$/)
  const code = 'SL-0018'

  // Taken in, with a receipt; then the agreement, signed on the screen.
  await page.getByTestId('to-hand-over').click()
  await expect(page.getByTestId('next-with-client')).toContainText('Take in what the client brought')
  await expectAccessible(page)
  await page.getByTestId('take-in').click()
  await page.getByLabel('Condition').fill('glass cracked at one corner')
  await page.getByLabel('Place in the shop').fill('drawer 4')
  await expectAccessible(page)
  await page.getByTestId('done').click()
  await expect(page.getByTestId('thing')).toContainText('drawer 4')
  await expect(page.getByTestId('next-with-client')).toContainText('Record what the client agrees to')
  await page.getByTestId('agree').click()
  // Whose data it is stands in the words, so it is asked first.
  await page.getByTestId('asked-first').getByRole('combobox').fill('own')
  await page.keyboard.press('Tab')
  await expect(page.getByTestId('agreement-words')).toContainText('The data are mine.')
  await page.getByRole('checkbox', { name: 'the price' }).check()
  await page.getByLabel(/^At most/).fill('90')
  await sign(page)
  await expectAccessible(page)
  await page.getByTestId('done').click()
  await expect(page.getByTestId('agreement')).toContainText('looking through the data, the price')

  // Two runs: the bin of the phone, then the cloud library.
  await page.goto(`/bench/${code}`)
  await page.getByRole('button', { name: 'Attach a device or copy' }).first().click()
  await attach(page, /Korvane 7/, /Korvane 7 of Wilfreda Ashby/)
  await attach(page, /cloud library/, /Account of Wilfreda Ashby/)
  await page.getByRole('button', { name: 'Done' }).click()
  await page.goto(`/cases/${code}`)
  await start(page)
  await page.getByTestId('to-bench').click()
  await page.getByRole('tab', { name: /^Korvane 7/ }).click()
  await give(page, 'passcode', '190677')
  await page.getByTestId('next').click()
  await shelve(page, /^\D*150 items/)
  await page.goto(`/cases/${code}`)
  await expect(page.getByTestId('run-report').getByLabel('came back').first()).toHaveValue('150')
  await record(page)
  await start(page)
  await page.getByTestId('to-bench').click()
  await page.getByRole('tab', { name: /^Account/ }).click()
  await give(page, 'password', 'bog-cotton-22')
  await give(page, 'code', '482913')
  await page.getByTestId('next').click()
  await shelve(page, /250 items/)
  await page.goto(`/cases/${code}`)
  await record(page)
  await page.getByTestId('move').click()
  await page.getByRole('radio', { name: 'Set to ready' }).check()
  await page.getByRole('dialog').getByRole('button', { name: 'Set to ready' }).click()

  // Told that it is ready, and gone through with the client.
  await page.getByTestId('to-hand-over').click()
  await expect(page.getByTestId('next-with-client')).toContainText('Tell the client that it is ready')
  await page.getByLabel('What was said').fill('it is ready')
  await page.getByTestId('note-contact').click()
  await expect(page.getByTestId('next-with-client')).toContainText('Go through it with the client')
  await page.getByTestId('for-two').click()
  await expect(page.getByTestId('back-words')).toContainText('Of about 260 photos')
  await expect(page.getByRole('navigation', { name: 'Places' })).toHaveCount(0)
  await expectAccessible(page)
  const groups = page.getByTestId('check-row')
  await groups
    .nth(0)
    .getByRole('button', { name: /^Look at/ })
    .first()
    .click()
  const picture = page.getByTestId('large-picture')
  await expect(picture).toBeVisible()
  const first = await picture.getAttribute('src')
  await page.keyboard.press('ArrowRight')
  await expect(picture).not.toHaveAttribute('src', first!)
  expect(await picture.evaluate((one: HTMLImageElement) => one.decode().then(() => one.naturalWidth))).toBeGreaterThan(
    96,
  )
  await page.keyboard.press('Escape')
  await groups.nth(0).getByRole('button', { name: 'right', exact: true }).click()
  await groups.nth(1).getByRole('button', { name: 'something is missing' }).click()
  await groups.nth(1).getByLabel('What is missing').fill('the heron')
  await page.keyboard.press('Tab')
  await expect(page.getByTestId('marked')).toContainText('You looked at 2 of')
  await page.getByRole('button', { name: 'Sign …' }).click()
  await sign(page)
  await page.getByTestId('sign').click()
  await expect(page.getByTestId('signed')).toContainText('Maud Oxley signed')
  // Leaving it asks for the password, and so does any other page.
  await page.goto('/')
  await expect(page.getByRole('dialog')).toContainText('This screen was turned to a client.')
  await page.getByLabel('Sign-in name').fill('bram')
  await page.getByLabel('Password').fill(passwordOf('bram'))
  await page.getByRole('dialog').getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(page.getByRole('heading', { level: 1 })).toContainText('before this time tomorrow')

  // The shelf leaves the house as a bag on the client's medium.
  const owner = await page.context().browser()!.newContext({ baseURL: shop.address })
  await signIn(owner.request, 'ottilie')
  await owner.request.put('/api/bench/hand-out', { data: { folders: [medium] } })
  await owner.close()
  await page.goto(`/bench/${code}`)
  await page.getByTestId('hand-out').click()
  await page.getByRole('radio', { name: /a bag/ }).check()
  await page.getByTestId('done').click()
  await expect(page.getByTestId('handed-out')).toContainText('read back', { timeout: 40_000 })
  const bag = join(medium, code)
  for (const manifest of ['manifest-sha256.txt', 'tagmanifest-sha256.txt'])
    expect(execFileSync('sha256sum', ['-c', manifest], { cwd: bag, encoding: 'utf8' })).not.toContain('FAILED')

  // The outcome, the money, the report, the return.
  await page.goto(`/hand-over/${code}`)
  await page.getByTestId('outcome').click()
  await page.getByRole('textbox', { name: /did not come back, and why/ }).fill('Written over since.')
  await page.getByTestId('done').click()
  await expect(page.getByTestId('result')).toContainText('back in part')
  await page.getByTestId('charge').click()
  await page.getByLabel('For what').fill('Bin and cloud library')
  await page.getByLabel(/^Price with tax/).fill('95')
  await page.getByTestId('done').click()
  await expect(page.getByText(/above the £90.00 that the client agreed to/)).toBeVisible()
  await page.getByLabel(/^Price with tax/).fill('45')
  await page.getByTestId('done').click()
  await expect(page.getByTestId('open-amount')).toHaveText('£45.00')
  await page.getByTestId('pay').click()
  await page.getByTestId('done').click()
  await expect(page.getByTestId('money')).toContainText('✓ Paid')
  await page.getByTestId('make-annex').click()
  const report = page.getByTestId('sheet')
  for (const words of [
    'What was lost',
    'Written over since.',
    'something is missing (the heron)',
    'How to avoid it next time',
  ])
    await expect(report).toContainText(words)
  await expectAccessible(page)
  const head = /head of the history (\S+)/.exec(await report.innerText())![1]!
  const pdf = await page.pdf({ path: join(out, 'report.pdf'), format: 'A4' })
  expect(pdf.length).toBeGreaterThan(10_000)
  await page.goto(`/hand-over/${code}`)
  await page.getByRole('link', { name: /receipt, handed in/ }).click()
  const receipt = await page.getByTestId('sheet').innerText()
  await page.goto(`/hand-over/${code}`)
  await page.getByTestId('give-back').click()
  await page.getByLabel('Code of the receipt').fill(/[2-9A-Z]{4}-[2-9A-Z]{4}/.exec(receipt)![0])
  await sign(page)
  await page.getByTestId('done').click()
  await expect(page.getByTestId('custody')).toContainText('given back to Maud Oxley')
  await expect(page.getByTestId('next-with-client')).toContainText('Nothing is waiting')

  // What was done can be shown a year later: the history is whole, and holds the head that was printed.
  let [said, wrong] = ['', '']
  const verify = ['verify', '--data', shop.data, '--head', head]
  expect(await runLantern(verify, { out: (text) => (said += text), err: (text) => (wrong += text) }), wrong).toBe(0)
  const history = await (await page.request.get(`/api/cases/${code}/history`)).text()
  for (const words of [
    'took in: Korvane 7',
    'agreed to looking through the data',
    'copied',
    'gave Korvane 7 to Maud Oxley',
  ])
    expect(history).toContain(words)
  expect(readFileSync(join(bag, 'read-me.txt'), 'utf8')).toContain(code)

  // Afterwards: its date comes, the shelf is gone, and the history is whole without what it said.
  await page.getByTestId('move').click()
  await page.getByRole('radio', { name: 'Hand over' }).check()
  await page.getByRole('dialog').getByRole('button', { name: 'Hand over', exact: true }).click()
  const afterwards = page.getByTestId('afterwards')
  await expect(afterwards).toContainText('The data are wiped automatically on 24 Dec 2026')
  expect(existsSync(join(shop.data, 'shelf', code))).toBe(true)
  await page.request.put('/api/clock', { data: { now: '2026-12-24T10:50:00Z' } })
  await signIn(page.request, 'bram')
  await page.goto(`/hand-over/${code}`)
  await expect(afterwards).toContainText('The data were wiped on 24 Dec 2026')
  await expect(page.getByTestId('wipe-records')).toContainText('because its date came')
  await expectAccessible(page)
  expect(existsSync(join(shop.data, 'shelf', code))).toBe(false)
  expect(await runLantern(verify, { out: (text) => (said += text), err: (text) => (wrong += text) }), wrong).toBe(0)
  const bare = await (await page.request.get(`/api/cases/${code}/history`)).text()
  expect(bare).not.toContain('took in: Korvane 7')
  rmSync(out, { recursive: true })
})

test('files fetched by hand are dropped onto the bench, found, and counted for the run', async ({ bench: page }) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/cases/${code}`)
  await start(page)
  await page.getByTestId('bring').click()
  await expect(page.getByTestId('drop-zone')).toBeVisible()
  await expectAccessible(page)
  const samples = 'core/testing/format-samples'
  await page.getByTestId('batch-files').setInputFiles([`${samples}/weir.jpg`, `${samples}/notes.rtf`])
  await expect(page.getByTestId('count')).toContainText('1 found')
  await page.getByTestId('select-all').click()
  await page.getByTestId('copy').click()
  await expect(page.getByTestId('shelf-says')).toContainText('1 item on it, read back')
  await page.goto(`/cases/${code}`)
  await expect(page.getByTestId('run-report').getByLabel('came back').first()).toHaveValue('1')
})

test('two people at the hand-over of one case: nothing is lost, and each sees the other’s', async ({
  bench: page,
  browser,
  shop,
}) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  const other = await browser.newPage({ baseURL: shop.address })
  await signIn(other.request, 'jory')
  await page.goto(`/hand-over/${code}`)
  await other.goto(`/hand-over/${code}`)
  for (const [one, words] of [
    [page, 'asked for the code'],
    [other, 'called about the price'],
  ] as const) {
    await one.getByLabel('What was said').fill(words)
    await one.getByTestId('note-contact').click()
  }
  for (const one of [page, other])
    for (const words of ['asked for the code', 'called about the price'])
      await expect(one.getByTestId('contact')).toContainText(words)
  await other.close()
})

test('the owner names the shop, its periods and its folders; what is wrong is said beside its line', async ({
  page,
}) => {
  await signIn(page.request, 'ottilie')
  await page.goto('/settings')
  await expectAccessible(page)
  await page.getByLabel('Name', { exact: true }).fill('Lamp & Lock')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Saved.').first()).toBeVisible()
  await page.getByLabel('Time zone').fill('Europe/Nowhere')
  await page.keyboard.press('Tab')
  await expect(page.getByText('This is not the name of a time zone.')).toBeVisible()
  await page.getByLabel('Kept after the return, days').fill('14')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('list', { name: 'All terms' })).toContainText('for 14 days after the return')
  await page.reload()
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Lamp & Lock')
  await expect(page.getByLabel('Time zone')).toHaveValue('Europe/London')

  // What can be tried is read with the client, who agrees on the spot; any other page then asks who is there.
  await page.goto('/hand-over/SL-0012')
  await page.getByTestId('make-options').click()
  await expect(page.getByTestId('sheet')).toContainText('To begin with: Gallery bin')
  await expect(page.getByTestId('sheet')).toContainText('Lamp & Lock')
  await page.getByTestId('for-two-sheet').click()
  await expect(page.getByRole('navigation', { name: 'Places' })).toHaveCount(0)
  await expectAccessible(page)
  await page.getByTestId('agree-for-two').click()
  await page.getByRole('checkbox', { name: 'the price' }).check()
  await page.getByRole('radio', { name: 'said in words' }).check()
  await page.getByTestId('done').click()
  await expect(page.getByTestId('shop-dialog')).toHaveCount(0)
  await page.getByTestId('leave').click()
  await expect(page.getByRole('dialog')).toContainText('This screen was turned to a client.')

  const owner = await page.context().newPage()
  await owner.goto('/bench')
  await expect(owner.getByRole('dialog')).toContainText('turned to a client')
  await owner.getByLabel('Sign-in name').fill('ottilie')
  await owner.getByLabel('Password').fill(passwordOf('ottilie'))
  await owner.getByRole('dialog').getByRole('button', { name: 'Sign in' }).click()
  for (const label of [
    'path of an image or a block device on this machine',
    'path of a folder on this machine',
    'path of a folder to hand over into',
  ])
    await expect(owner.getByRole('textbox', { name: label })).toBeVisible()
})
