import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, expectAccessible, signIn, test } from './support/shop'

test('an owner names a place for backups, makes one, and has the shop checked', async ({ page }) => {
  const place = mkdtempSync(join(tmpdir(), 'lantern-place-'))
  await signIn(page.request, 'ottilie')
  await page.goto('/')
  await page.getByRole('button', { name: /settings and signing out/ }).click()
  await page.getByRole('menuitem', { name: 'Backups and health' }).click()
  await expect(page.getByTestId('warnings')).toContainText('There is no backup of this shop')
  await expectAccessible(page)
  const form = page.getByTestId('backup-form')
  await form.getByLabel('Folder on this machine').fill(place)
  await form.getByLabel('Passphrase').fill('a heron stands at the weir')
  await form.getByLabel('Once more').fill('a heron stands at the wier')
  await form.getByRole('button', { name: 'Save' }).click()
  await expect(form.getByRole('alert')).toHaveText('The two passphrases differ.')
  await form.getByLabel('Once more').fill('a heron stands at the weir')
  await form.getByRole('button', { name: 'Save' }).click()
  await page.getByTestId('back-up').click()
  await expect(page.getByTestId('kept')).toHaveCount(1)
  await page.getByTestId('check-now').click()
  await expect(page.getByTestId('check')).toContainText('The database is sound')
  await expect(page.getByTestId('all-well')).toBeVisible()
  await expectAccessible(page)
  rmSync(place, { recursive: true })
})
