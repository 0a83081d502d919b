import { chromium, type Page } from '@playwright/test'
import { join, resolve } from 'node:path'
import { Server } from '../tests/support/server'
import playwright from '../playwright.config'

/** The pictures of docs/screenshots, made from the demo's shop at one and the same moment. */
const folder = resolve(import.meta.dirname, '../docs/screenshots')
const pictures: {
  name: string
  path: string
  isNight?: boolean
  isOwner?: boolean
  before?: (page: Page) => Promise<void>
}[] = [
  { name: 'counter', path: '/' },
  { name: 'search', path: '/?find=weir' },
  {
    name: 'log',
    path: '/log/SL-0012',
    before: async (page) => {
      await page.getByLabel('Gallery bin').focus()
    },
  },
  { name: 'case', path: '/cases/SL-0012' },
  { name: 'ledger', path: '/ledger', isOwner: true },
  { name: 'run', path: '/cases/SL-0005' },
  {
    name: 'bench',
    path: '/bench/SL-0012?on=korvane-7',
    before: async (page) => {
      await page.getByRole('textbox', { name: 'passcode' }).fill('190677')
      await page.keyboard.press('Enter')
      await page.locator('[data-test=keeps]').waitFor()
    },
  },
  {
    name: 'bench-found',
    path: '/bench/SL-0012?on=korvane-7',
    before: async (page) => {
      await page.locator('[data-test=next]').click()
      const thumb = page.locator('[data-thumb]').first()
      await thumb.focus()
      await page.keyboard.press('Shift+Space')
      await page.keyboard.press('Enter')
      await page.locator('[data-test=picture]').waitFor()
      await page.waitForLoadState('networkidle')
    },
  },
  {
    name: 'bench-backups',
    path: '/bench/SL-0008?on=byrne-account',
    before: async (page) => {
      await page.getByRole('textbox', { name: 'password' }).fill('woodruff-and-wax')
      await page.keyboard.press('Enter')
      await page.locator('[data-test=backup]').first().waitFor()
    },
  },
  {
    name: 'bench-compare-night',
    path: '/bench/SL-0009?on=lindqvist-account',
    isNight: true,
    before: async (page) => {
      await page.getByRole('textbox', { name: 'password' }).fill('saxifrage-9')
      await page.keyboard.press('Enter')
      await page.getByRole('textbox', { name: 'code' }).fill('771204')
      await page.keyboard.press('Enter')
      await page.getByRole('button', { name: /^Show all \d+ places$/ }).click()
      await page.getByRole('button', { name: /Turn back to .*28 Oct/ }).click()
      await page.locator('[data-test=gone]').waitFor()
    },
  },
  {
    name: 'bench-medium',
    path: '/bench/SL-0012?on=medium-survey-card',
    before: async (page) => {
      await page.getByLabel('Deep scan: records and content').check()
      await page.locator('[data-test=next]').click()
      await page.getByText('Deep scan done').first().waitFor()
      await page.locator('[data-test=wanted-count]').waitFor()
      const thumb = page.locator('[data-thumb]').nth(7)
      await thumb.focus()
      await page.keyboard.press('Shift+Space')
      await page.keyboard.press('Enter')
      await page.locator('[data-test=picture]').waitFor()
      await page.waitForLoadState('networkidle')
    },
  },
  {
    name: 'bench-medium-night',
    path: '/bench/SL-0017?on=medium-worn-card',
    isNight: true,
    before: async (page) => {
      await page.getByLabel('Deep scan: records and content').check()
      await page.getByLabel('also search sectors that are in use').check()
      await page.locator('[data-test=next]').click()
      await page
        .getByText(/[3-9]\d% read/)
        .first()
        .waitFor()
      await page.locator('[data-thumb]').first().waitFor()
    },
  },
  { name: 'compare', path: '/compare?case=SL-0012' },
  {
    name: 'client',
    path: '/?find=allotments',
    isOwner: true,
    before: async (page) => {
      await page.getByRole('link', { name: 'Allotments by the weir', exact: true }).click()
      await page.locator('[data-test=client-file]').waitFor()
    },
  },
  { name: 'hand-over', path: '/hand-over/SL-0006' },
  {
    name: 'sheet',
    path: '/hand-over/SL-0012',
    before: async (page) => {
      await page.locator('[data-test=make-options]').click()
      await page.locator('[data-test=sheet]').waitFor()
    },
  },
  {
    name: 'for-two',
    path: '/bench/SL-0012?on=korvane-7',
    before: async (page) => {
      await page.locator('[data-test=next]').click()
      await page.locator('[data-test=wanted-count]').waitFor()
      await page.locator('[data-test=select-all]').click()
      await page.locator('[data-test=copy]').click()
      await page.getByText('150 items').waitFor()
      await page.goto('/for-two/SL-0012')
      const rows = page.locator('[data-test=check-row]')
      await rows.nth(0).getByRole('button', { name: 'right', exact: true }).click()
      await rows.nth(1).getByRole('button', { name: 'something is missing' }).click()
      await page.getByText('You looked at 2 of').waitFor()
      await page.waitForLoadState('networkidle')
    },
  },
  { name: 'playbook', path: '/playbook', isOwner: true },
  { name: 'staff', path: '/people', isOwner: true },
]

const server = new Server({ LANTERN_DEMO: '1', LANTERN_PAST_YEAR: '1' })
await server.start()
const browser = await chromium.launch(playwright.use?.launchOptions)
try {
  for (const { name, path, isNight, isOwner, before } of pictures) {
    const context = await browser.newContext({
      baseURL: server.address,
      viewport: { width: 1280, height: 800 },
      colorScheme: isNight ? 'dark' : 'light',
      reducedMotion: 'reduce',
      locale: 'en-GB',
      timezoneId: 'Europe/London',
    })
    const page = await context.newPage()
    await context.request.post('/api/session', {
      data: isOwner
        ? { signIn: 'ottilie', password: 'copper-kettle-9' }
        : { signIn: 'bram', password: 'towpath-heron-4' },
    })
    await page.goto(path)
    await page.getByRole('heading', { level: 1 }).waitFor()
    await page.waitForLoadState('networkidle')
    await page.evaluate(() => document.fonts.ready)
    await before?.(page)
    await page.screenshot({ path: join(folder, `${name}.png`) })
    await context.close()
    console.log(`docs/screenshots/${name}.png`)
  }
} finally {
  await browser.close()
  await server.remove()
}
