import { axeOn, expect, signIn, test } from './support/shop'

const PAGES = [
  '/',
  '/log',
  '/log/SL-0012',
  '/cases/SL-0012',
  '/cases/SL-0005',
  '/cases/SL-0014',
  '/bench',
  '/people',
  '/playbook',
  '/?find=zzz',
  '/?find=weir',
  '/bring-in',
  '/afterwards',
  '/account',
  '/compare?case=SL-0012',
]

/** Between them they have every colour. */
const MAX_COLOURED = ['/', '/cases/SL-0012', '/bench/SL-0008', '/playbook']

for (const colorScheme of ['light', 'dark'] as const) {
  test(`every page passes axe by ${colorScheme === 'light' ? 'day' : 'night'}`, async ({ page }) => {
    test.setTimeout(240_000)
    await page.emulateMedia({ colorScheme, reducedMotion: 'reduce' })
    const check = async (where: string) => {
      // By night nothing but the colours differs.
      const axe = axeOn(page)
      const { violations } = await (
        colorScheme === 'dark'
          ? axe.withRules(['color-contrast'])
          : axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
      ).analyze()
      expect(
        violations.map(
          (one) =>
            `${where}: ${one.id}: ${one.nodes
              .map((node) => node.target.join(' '))
              .slice(0, 3)
              .join(', ')}`,
        ),
      ).toEqual([])
    }
    await page.goto('/sign-in')
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await check('/sign-in')
    await signIn(page.request, 'ottilie')
    for (const path of colorScheme === 'light' ? PAGES : MAX_COLOURED) {
      await page.goto(path)
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
      await check(path)
    }
    await page.goto('/log/SL-0012')
    await page.getByLabel('Platform family').focus()
    await check('a word that is asked')
    await page.getByRole('button', { name: /Read back/ }).click()
    await expect(page.getByRole('heading', { name: 'Read back to the client' })).toBeVisible()
    await check('reading back')
  })
}

test('nothing overflows the page at 900 wide or on a phone', async ({ bench: page }) => {
  for (const width of [1280, 900, 400]) {
    await page.setViewportSize({ width, height: 800 })
    for (const path of ['/', '/log/SL-0012', '/cases/SL-0012', '/compare?case=SL-0012']) {
      await page.goto(path)
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
      const over = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      )
      expect(over, `${path} at ${width}`).toBeLessThanOrEqual(0)
    }
  }
})

test('single keys act only outside of typing, and can be switched off', async ({ bench: page }) => {
  await page.goto('/?find=n')
  await page.getByRole('searchbox').press('n')
  await expect(page).toHaveURL(/find=nn/)
  await page.goto('/')
  await page.getByRole('button', { name: /settings and signing out/ }).click()
  await page.getByRole('menuitem', { name: 'Turn single-key shortcuts off' }).click()
  await page.locator('body').press('n')
  await expect(page).toHaveURL(/\/$/)
  await page.getByRole('button', { name: /settings and signing out/ }).click()
  await page.getByRole('menuitem', { name: 'Turn single-key shortcuts on' }).click()
})

test('Escape closes what is open first, and only then goes back', async ({ bench: page }) => {
  await page.goto('/cases/SL-0012')
  await page.locator('[data-test="move"]').click()
  await expect(page.getByRole('heading', { name: /Move it to another state/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { name: /Move it to another state/ })).toHaveCount(0)
  await page.getByRole('button', { name: /settings and signing out/ }).click()
  await expect(page.getByRole('menu')).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('menuitem')).toHaveCount(0)
  await expect(page).toHaveURL(/\/cases\/SL-0012$/)
  await page.locator('body').press('Escape')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('before this time tomorrow')
})
