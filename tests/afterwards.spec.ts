import { readFile } from 'node:fs/promises'
import { expect, expectAccessible, logCase, signIn, test } from './support/shop'
import { LOST_PHOTOS } from './support/cases'

test('a passcode that the client left is noted at the counter, filled in at the bench, and forgotten with the run', async ({
  bench: page,
}) => {
  const code = 'SL-0012'
  await page.goto(`/hand-over/${code}`)
  const secrets = page.getByTestId('secrets')
  await page.getByTestId('note-secret').click()
  await page.getByLabel('As the client says it').fill('190677')
  await expectAccessible(page)
  await page.getByTestId('done').click()
  await expect(secrets).toContainText('passcode of Korvane 7')
  await expect(secrets).not.toContainText('190677')
  await secrets.getByRole('button', { name: 'Show' }).click()
  await expect(page.getByTestId('secret')).toHaveText('190677')
  // A look is an entry in the history, and raises the version of the case: what is shown stays.
  await page.waitForTimeout(1000)
  await expect(page.getByTestId('secret')).toHaveText('190677')
  await page.goto(`/bench/${code}`)
  await page.getByRole('tab', { name: /^Korvane 7/ }).click()
  await page.getByTestId('fill-in').click()
  await expect(page.getByRole('textbox', { name: 'passcode', exact: true })).toHaveValue('190677')
  await page.getByTestId('answer').click()
  await expect(page.getByTestId('fill-in')).toHaveCount(0)
  await page.goto(`/hand-over/${code}`)
  await secrets.getByRole('button', { name: 'Forget' }).click()
  await expect(secrets).not.toContainText('passcode of Korvane 7')
})

test('all about one client is one file; they are erased at their wish, and the case is wiped by hand', async ({
  page,
}) => {
  await signIn(page.request, 'ottilie')
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/cases/${code}`)
  await page.getByTestId('move').click()
  await page.getByRole('radio', { name: 'Close the case' }).check()
  await page
    .getByRole('dialog')
    .getByLabel(/reason|why/i)
    .fill('found at home')
  await page.getByRole('dialog').getByRole('button', { name: 'Close the case' }).click()
  await page.getByRole('searchbox').fill('maud ox')
  await page.getByRole('link', { name: 'Maud Oxley', exact: true }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Maud Oxley')
  await expectAccessible(page)
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('client-file').click()])
  const zip = await readFile(await download.path())
  expect([zip.subarray(0, 2).toString(), zip.includes(`cases/${code}/case.json`)]).toEqual(['PK', true])

  await page.goto(`/hand-over/${code}`)
  await page.getByRole('button', { name: 'Wipe the data now' }).click()
  await page.getByLabel('Why').fill('she asked for it')
  await page.getByLabel(/^Type the code/).fill(code)
  await expectAccessible(page)
  await page.getByTestId('done').click()
  await expect(page.getByTestId('wipe-records')).toContainText(`the data of ${code}, by hand (Ottilie Marsh)`)

  await page.goto('/?find=maud')
  await page.getByRole('link', { name: 'Maud Oxley', exact: true }).click()
  await expect(page.getByText('the data: wiped')).toBeVisible()
  await page.getByRole('button', { name: 'Erase at their wish' }).click()
  await page.getByLabel('Type the name of the client').fill('Maud Oxley')
  await page.getByTestId('done').click()
  await expect(page).toHaveURL(/\/$/)
  await page.goto('/?find=maud')
  await expect(page.getByRole('heading', { name: 'Nothing says “maud”' })).toBeVisible()
  await page.goto('/afterwards')
  await expect(page.getByText(`the name of ${code}, by hand (Ottilie Marsh)`)).toBeVisible()
})

test('a list of cases is matched, checked line by line, and imported without its faulty lines', async ({
  bench: page,
}) => {
  await page.goto('/bring-in')
  const csv =
    'Name;Phone;Device;How lost;Colour\nOdo Pell;01632 960 300;phone;deleted in bulk;red\nInes Brandt;none;laptop;vaporised;\n'
  await page
    .getByTestId('case-list')
    .setInputFiles({ name: 'notebook.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) })
  const list = page.getByTestId('bring-list')
  await expect(list.getByLabel('What is in “How lost”')).toHaveValue('loss.how')
  await expect(list.getByLabel('What is in “Colour”')).toHaveValue('')
  await list.getByLabel('What is in “Colour”').selectOption('Note')
  await page.getByTestId('check-list').click()
  await expect(page.getByTestId('checked-list')).toContainText('Can be imported: one case. 1 of 2 lines have faults:')
  await expect(page.getByTestId('checked-list')).toContainText('How it was lost: “vaporised”')
  await expectAccessible(page)
  await page.getByTestId('write-list').click()
  await expect(page).toHaveURL(/\/$/)
  await page.goto('/?find=odo')
  await expect(page.getByTestId('found-case')).toContainText('Odo Pell')
})
