import AxeBuilder from '@axe-core/playwright'
import { test as base, expect, type APIRequestContext, type Page } from '@playwright/test'
import { AGREED } from './cases'
import { passwordOf, type Name } from './people'
import { Server } from './server'

interface Shop {
  /** the built server with the demo's shop, on a database of its own */
  shop: Server
  /** a page on which Bram, a technician, is signed in */
  bench: Page
}

export const test = base.extend<Shop & { shopEnv: Record<string, string> }>({
  shopEnv: [{ LANTERN_DEMO: '1' }, { option: true }],
  shop: async ({ shopEnv }, use) => {
    const server = new Server(shopEnv)
    await server.start()
    await use(server)
    await server.remove()
  },
  baseURL: async ({ shop }, use) => use(shop.address),
  bench: async ({ page }, use) => {
    await signIn(page.request, 'bram')
    await use(page)
  },
})

export async function signIn(request: APIRequestContext, name: Name) {
  const answer = await request.post('/api/session', { data: { signIn: name, password: passwordOf(name) } })
  expect(answer.ok()).toBe(true)
}

/** Logs a case of which the client agreed that it is opened, through the server, for tests that are about what comes after. */
export async function logCase(request: APIRequestContext, facts: Record<string, unknown>): Promise<string> {
  const answer = await request.post('/api/cases', {
    data: { changes: Object.entries({ ...AGREED, ...facts }).map(([fact, is]) => ({ fact, is })) },
  })
  expect(answer.ok()).toBe(true)
  return (await answer.json()).case.code
}

/** Checks this page only, without frames, and reports violations only, which halves the time. */
export const axeOn = (page: Page) => new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] })

/**
 * No rule of WCAG 2.2 AA that can be checked by a program is broken. From the top: what the header half covers while the
 * page is scrolled counts as too small otherwise.
 */
export async function expectAccessible(page: Page) {
  await page.evaluate(() => window.scrollTo(0, 0))
  const { violations } = await axeOn(page).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']).analyze()
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)).toEqual([])
}

/** Clears the holds and starts the next route. */
export async function begin(page: Page) {
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  const toBench = page.getByTestId('to-bench')
  const next = page.getByRole('button', { name: /^(Confirm done|Start)/ }).first()
  while (true) {
    await expect(toBench.or(next).first()).toBeVisible()
    if (await toBench.isVisible()) return toBench.click()
    await page.keyboard.press('s')
    await page.waitForTimeout(300)
  }
}

export { expect }
