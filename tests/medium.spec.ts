import type { MediumEntry } from '../core/bench/medium'
import { lockedImage, PASSPHRASE } from '../core/testing/locked-images'
import { LOST_PHOTOS } from './support/cases'
import { begin, expect, expectAccessible, logCase, signIn, test } from './support/shop'

test.use({ shopEnv: { LANTERN_DEMO: '1', LANTERN_JOBS: '1' } })

test('a worn card from its case to the shelf: both scans, paused, killed, resumed, filtered, previewed, recorded', async ({
  bench: page,
  shop,
}) => {
  test.setTimeout(360_000)
  await page.goto('/cases/SL-0017')
  await begin(page)

  // The medium is described before anything is read; the scan is chosen by keyboard.
  await expect(page.getByTestId('medium-says')).toContainText('58.7 MB, FAT32 “HERONWATCH” and FAT16 “SPARE”')
  // The run is a quick pass, so that is proposed.
  await expect(page.getByLabel('Quick pass: file-system records')).toBeChecked()
  await expectAccessible(page)
  await page.getByTestId('next').focus()
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('pass-says')).toContainText('Quick pass done', { timeout: 30_000 })
  await expect(page.getByTestId('count')).toContainText('23 found')

  // Then the content too, kinds as the case wants them.
  await page.getByRole('button', { name: 'Deep scan …' }).click()
  await expect(page.getByLabel('photos')).toBeChecked()
  await expect(page.getByLabel('video clips')).toBeChecked()
  await expect(page.getByLabel('documents')).not.toBeChecked()
  await page.getByLabel('also search sectors that are in use').check()
  await page.getByLabel(/take the SHA-256/).check()
  await page.getByTestId('next').click()
  const says = page.getByTestId('pass-says')
  await expect(says).toContainText(/[1-9]\d?% read/, { timeout: 30_000 })
  // Finds so far can be used while the scan runs.
  await expect(page.getByTestId('kinds')).toContainText(/found so far: .*\d+ photos/)
  await expect(page.locator('[data-thumb]').first()).toBeVisible()
  await page.keyboard.press('p')
  await expect(says).toContainText(/Deep scan paused, \d+% read/)
  const paused = await says.innerText()
  await page.reload()
  await expect(says).toContainText(/Deep scan paused/)
  expect(await says.innerText()).toBe(paused)
  await page.keyboard.press('p')
  await expect(says).toContainText(/^\d+% read/)

  await shop.stop('SIGKILL')
  await shop.start()
  await signIn(page.request, 'bram')
  await page.reload()
  await expect(says).toContainText('Deep scan done', { timeout: 120_000 })
  await expect(page.getByTestId('section')).toContainText('11 sectors unreadable')
  await expect(page.getByTestId('sha256')).toContainText(/SHA-256 [0-9a-f]{64}/)

  // A stretch of the section is a word of the sentence.
  await page.getByTestId('section').focus()
  await page.keyboard.press('Home')
  for (let at = 0; at < 4; at++) await page.keyboard.press('Shift+PageDown')
  await expect(page.getByTestId('sentence')).toContainText('stored between 0 bytes and 10 MB')
  await expect(page.getByTestId('count')).toContainText('22 found')
  await page.keyboard.press('Escape')
  await expect(page.getByTestId('sentence')).not.toContainText('stored between')

  // By folder, and looked at closely: by what is it held to be whole?
  await page.getByRole('button', { name: 'By folder' }).click()
  await page.getByRole('button', { name: 'HERONWATCH', exact: true }).click()
  await expect(page.getByTestId('folders').or(page.getByTestId('list')).first()).toBeVisible()
  await page.getByLabel(/^part of a name/).fill('ern000')
  await page.getByRole('row', { name: /_ERN0001\.JPG/ }).click()
  const preview = page.getByTestId('preview')
  await expect(preview).toContainText('some of its sectors cannot be read')
  await page.getByRole('row', { name: /_ERN0002\.JPG/ }).click()
  await expect(page.getByTestId('picture')).toBeVisible()
  await expect(preview).toContainText(/yes: .*image data decodes/)
  await expect(preview).toContainText('1 piece: 0x19E600')
  await expectAccessible(page)
  await page.keyboard.press('Escape')

  await page.getByRole('button', { name: 'Reset the filter' }).click()
  await page.getByRole('button', { name: /^wanted:/ }).click()
  await page.getByRole('option', { name: /^wanted \d/ }).click()
  await page.getByTestId('select-all').click()
  await expect(page.getByTestId('selected')).toContainText('23 selected here')
  await page.getByTestId('copy').click()
  await expect(page.getByTestId('shelf-says')).toContainText('23 items on it, read back', { timeout: 30_000 })
  await expect(page.getByTestId('run-report').getByLabel('came back').first()).toHaveValue('19')
  await page.getByText('Record result').click()
  await expect(page.getByTestId('run-report')).toHaveCount(0)
  await page.goto('/cases/SL-0017')
  await expect(page.getByTestId('history')).toContainText('the deep scan ended')
})

test('an image is uploaded, attached to a case and scanned; two pages show the same', async ({
  bench: page,
  context,
}) => {
  await page.goto('/bench')
  await expect(page.getByText('Adding media')).toBeVisible()
  await page.getByTestId('image-file').setInputFiles({
    name: 'empty card.img',
    mimeType: 'application/octet-stream',
    buffer: Buffer.alloc(3 << 20, 7),
  })
  await expect(page.getByText('empty card.img')).toBeVisible()
  await page.goto('/bench/SL-0015?on=medium-pattern-stick')
  // After a format the content is wanted too, without being asked for.
  await expect(page.getByLabel('Deep scan: records and content')).toBeChecked()
  const other = await context.newPage()
  await other.goto('/bench/SL-0015?on=medium-pattern-stick')
  await expect(other.getByTestId('pass-start')).toBeVisible()
  await page.getByTestId('next').click()
  await expect(page.getByTestId('pass-says')).toContainText('Deep scan done')
  await expect(other.getByTestId('pass-says')).toContainText('Deep scan done')
  // Traces of what was there before the format still give names and folders.
  await page.getByRole('button', { name: 'As a list' }).click()
  await expect(page.getByRole('row', { name: /Dye book\.docx/ })).toContainText('lost folder')
})

test('an encrypted volume is opened with its passphrase before it is scanned, and closed again', async ({
  bench: page,
  shop,
}) => {
  await page.goto('/bench')
  await page.getByTestId('image-file').setInputFiles({
    name: 'vault.img',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(lockedImage('version-2')),
  })
  await expect(page.getByText('vault.img')).toBeVisible()
  const { media } = (await (await page.request.get('/api/bench/media')).json()) as { media: MediumEntry[] }
  const { id } = media.find(({ title }) => title === 'vault.img')!
  await page.request.put('/api/cases/SL-0017/bench/links', { data: { part: 'x7', link: id } })
  await page.goto(`/bench/SL-0017?on=${id}`)
  const volumes = page.getByTestId('volumes')
  await expect(volumes).toContainText('An encrypted volume (LUKS 2): it opens with its passphrase')
  await expectAccessible(page)
  const passphrase = page.getByLabel('Passphrase of the encrypted volume')
  await passphrase.fill('something else')
  await passphrase.press('Enter')
  await expect(page.getByText('This passphrase opens none of its key slots')).toBeVisible()
  await expect(passphrase).toBeFocused()
  await passphrase.fill(PASSPHRASE)
  await page.getByTestId('open-volume').click()
  await expect(volumes).toContainText('Opened with its passphrase (LUKS 2), read only.')
  await page.getByTestId('next').click()
  await expect(page.getByTestId('count')).toContainText('2 found', { timeout: 20_000 })
  await page.getByRole('button', { name: 'Close the encrypted volume' }).click()
  await expect(passphrase).toBeVisible()
  expect(shop.log).not.toContain(PASSPHRASE)
})

test('a film is shown by a still that says something, or by its sound where it is dark', async ({ bench: page }) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  await page.goto(`/cases/${code}`)
  await begin(page)
  await page.getByTestId('bring').click()
  await page
    .getByTestId('batch-files')
    .setInputFiles(['later.mp4', 'dark.mp4'].map((one) => `tests/support/films/${one}`))
  await page.getByRole('gridcell', { name: /^later\.mp4/ }).click()
  const film = page.getByTestId('film')
  await expect(film).toHaveAttribute('data-still', 'shown')
  expect(await film.locator('video').evaluate((own: HTMLVideoElement) => own.currentTime)).toBeGreaterThan(2)
  await page.getByRole('gridcell', { name: /^dark\.mp4/ }).click()
  await expect(film).toHaveAttribute('data-still', 'dark')
  await expect(film.getByTestId('wave')).toBeVisible()
  await expect(film).toContainText('dark.mp4: dark wherever it was looked at')
})
