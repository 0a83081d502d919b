import type { Page } from '@playwright/test'
import { LOST_PHOTOS } from './support/cases'
import { expect, logCase, test } from './support/shop'

interface Recorded {
  worker: Worker
  asked: Record<string, unknown>[]
  told: { id: number; depth: string; full: { plan: { now: string } } }[]
}

/** Exponentials may differ in their last digit from one engine to another; nothing else may. */
const rounded = (plan: unknown) =>
  JSON.parse(JSON.stringify(plan), (_, value: unknown) =>
    typeof value === 'number' ? Number(value.toPrecision(11)) : value,
  ) as unknown

/** Keeps what the page asks its workers and what they answer. */
async function recordWorkers(page: Page) {
  await page.addInitScript(() => {
    const recorded: Recorded[] = []
    Object.assign(globalThis, { recorded })
    const Real = globalThis.Worker
    globalThis.Worker = class extends Real {
      constructor(url: string | URL, options?: WorkerOptions) {
        super(url, options)
        const own: Recorded = { worker: this, asked: [], told: [] }
        recorded.push(own)
        this.addEventListener('message', ({ data }) => own.told.push(data))
      }
      override postMessage(message: Record<string, unknown>) {
        recorded.find((one) => one.worker === this)?.asked.push(message)
        super.postMessage(message)
      }
    }
  })
}

test('the plan made in the browser is the plan that the server keeps, question for question', async ({
  bench: page,
}) => {
  const code = await logCase(page.request, LOST_PHOTOS)
  const kept = await (await page.request.get(`/api/cases/${code}/plan`)).json()
  await recordWorkers(page)
  for (const one of [code, 'SL-0012', 'SL-0009']) {
    const server = one === code ? kept : await (await page.request.get(`/api/cases/${one}/plan`)).json()
    await page.goto(`/cases/${one}`)
    await expect(page.locator('[data-test="route"]').first()).toBeVisible()
    const here = await page.evaluate(async (now) => {
      const recorded = (globalThis as unknown as { recorded: Recorded[] }).recorded
      const slow = recorded.find((one) => one.asked.some((message) => message.depth === 'whole')) ?? recorded.at(-1)!
      const last = recorded.flatMap((one) => one.asked).at(-1)!
      const base = recorded.flatMap((one) => one.asked).find((message) => message.base)!.base
      slow.worker.postMessage({ ...last, id: -1, depth: 'whole', now: Date.parse(now), base })
      for (;;) {
        const answer = slow.told.find((one) => one.id === -1)
        if (answer) return answer.full
        await new Promise((resolve) => setTimeout(resolve, 50))
      }
    }, server.plan.now)
    expect(rounded(here)).toEqual(rounded(server))
  }
})

test('the best question is answered with one key, and the plan follows', async ({ bench: page }) => {
  await page.goto('/cases/SL-0012')
  const question = page.locator('[data-test="question"]')
  await expect(question).toContainText('part of the backup')
  await page.keyboard.press('?')
  await expect(question).toContainText('Was the gallery’s bin switched on')
  const first = page.locator('[data-test="route"]').first()
  await expect(first).toContainText('66%')
  await page.keyboard.press('1')
  await expect(first).toContainText('94%')
  await expect(page.getByRole('complementary', { name: 'Docket' }).getByLabel('Gallery bin')).toHaveValue('on')
  await expect(question).not.toContainText('gallery’s bin')
  const asked = await question.getByRole('heading').textContent()
  await page.keyboard.press('?')
  await expect(question).not.toContainText(asked!)
})

test('every figure is traced to its facts, and a fact is changed in place', async ({ bench: page }) => {
  await page.goto('/cases/SL-0012')
  const route = page.locator('[data-test="route"]').first()
  await route.getByRole('button').first().click()
  const why = route.locator('[data-test="why"]')
  await expect(why).toContainText('Chance that it can be carried out: 66%')
  const product = await why
    .locator('section')
    .first()
    .locator('[data-test="factor"]')
    .evaluateAll((rows) => rows.reduce((so, row) => so * (Number(/× (\d+)%/.exec(row.textContent ?? '')![1]) / 100), 1))
  expect(product).toBeCloseTo(0.66, 1)
  await why.getByLabel('Gallery bin').fill('off')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-test="below"]', { hasText: /closed\s*Gallery bin/ })).toHaveCount(1)
})

test('what if: the plan moves, nothing is saved, and it can be kept or dropped', async ({ bench: page }) => {
  await page.goto('/cases/SL-0012')
  const first = page.locator('[data-test="route"]').first()
  await first.getByRole('button').first().click()
  await page.locator('[data-test="what-if"]').click()
  const supposing = page.locator('[data-test="supposing"]')
  await expect(supposing).toContainText('nothing is saved')
  const bin = page.locator('[data-test="why"]').getByLabel('Gallery bin')
  await bin.fill('off')
  await page.keyboard.press('Enter')
  await expect(supposing).toContainText('Gallery bin: not known → off')
  await expect(supposing).toContainText('expected back')
  await expect(first).not.toContainText('Gallery bin')
  const stored = async () => (await (await page.request.get('/api/cases/SL-0012')).json()).case.devices[0].bins.photos
  expect(await stored()).toBe('unknown')
  await supposing.getByRole('button', { name: /Discard/ }).click()
  await expect(first).toContainText('Gallery bin')
  await first.getByRole('button').first().click()
  await page.locator('[data-test="what-if"]').click()
  await bin.fill('on')
  await page.keyboard.press('Enter')
  await supposing.getByRole('button', { name: /Keep/ }).click()
  await expect.poll(stored).toBe('on')
})

test('a route is moved by keyboard with a reason, and its price stays in sight', async ({ bench: page }) => {
  await page.goto('/cases/SL-0012')
  const rows = page.locator('[data-test="route"]')
  const second = await rows.nth(1).getAttribute('data-option')
  await rows.nth(1).getByRole('button').first().focus()
  await page.keyboard.press('Alt+ArrowUp')
  await expect(rows.first()).toHaveAttribute('data-option', second!)
  await page.locator('[data-test="move-reason"]').fill('The client is at the account right now.')
  await page.keyboard.press('Enter')
  const note = page.locator('[data-test="override"]')
  await expect(note).toContainText('The client is at the account right now.')
  await expect(note).toContainText('less than the best order')
  await page.reload()
  await expect(rows.first()).toHaveAttribute('data-option', second!)
  await expect(page.locator('[data-test="history"]')).toContainText('changed the order')
  await note.getByRole('button', { name: 'Restore best order' }).click()
  await expect(rows.nth(1)).toHaveAttribute('data-option', second!)
  await expect(note).toHaveCount(0)
})

test('a route is moved by dragging its number', async ({ bench: page }) => {
  await page.goto('/cases/SL-0012')
  const rows = page.locator('[data-test="route"]')
  const third = await rows.nth(2).getAttribute('data-option')
  const from = (await rows.nth(2).locator('.number').boundingBox())!
  const to = (await rows.first().locator('.number').boundingBox())!
  await page.mouse.move(from.x + 8, from.y + 8)
  await page.mouse.down()
  await page.mouse.move(from.x + 8, from.y - 30, { steps: 5 })
  await page.mouse.move(to.x + 8, to.y - 6, { steps: 12 })
  await page.mouse.up()
  await expect(page.locator('[data-test="moving"]')).toBeVisible()
  await expect(rows.first()).toHaveAttribute('data-option', third!)
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(rows.nth(2)).toHaveAttribute('data-option', third!)
})

test('a maker that the shop knows gives first guesses while a case is logged', async ({ bench: page }) => {
  const code = await logCase(page.request, { 'devices.d1': { kind: 'phone' }, 'wanted.w1': { type: 'photos' } })
  await page.goto(`/log/${code}`)
  await page.getByLabel('Maker and model').fill('Ostrel Mini')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('combobox', { name: 'Platform family' })).toHaveValue('closed platform')
})

test('the reach map gives its figures by keyboard, and as a table', async ({ bench: page }) => {
  await page.goto('/cases/SL-0012')
  await page.locator('[data-test="route"]').first().getByRole('button').first().focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.locator('[data-test="readout"]')).toContainText(/Gallery bin.* reaches 100%, likely 66%/)
  const table = page.locator('[data-test="reach-table"]')
  await expect(table.getByRole('rowheader', { name: 'All together' })).toHaveCount(1)
  await expect(table.locator('caption')).toContainText('lost: 15 to 18 Nov')
})

test('tags hang on the closing line in order of time and never cover each other', async ({ bench: page }) => {
  await page.goto('/')
  const tags = page.locator('[data-test="tag"]')
  await expect(tags.first()).toBeVisible()
  const boxes = await tags.evaluateAll((all) =>
    all.map((one) => {
      const { left, right, top, bottom } = one.getBoundingClientRect()
      return { left, right, top, bottom }
    }),
  )
  for (const [index, one] of boxes.entries())
    for (const other of boxes.slice(index + 1))
      expect(
        one.right <= other.left || other.right <= one.left || one.bottom <= other.top || other.bottom <= one.top,
      ).toBe(true)
  await tags.first().focus()
  await page.keyboard.press('ArrowRight')
  await expect(tags.nth(1)).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/cases\//)
})

test('more than forty cases hang in groups, and a group leads to its cases', async ({ bench: page }) => {
  test.setTimeout(240_000)
  for (let index = 0; index < 40; index++)
    await logCase(page.request, {
      'client.name': `Client ${index}`,
      'devices.d1': { kind: 'phone', platform: 'closed-phone', lock: 'unlocked', condition: 'working' },
      'wanted.w1': { type: 'photos', count: 20 },
      'loss.how': 'deleted-in-bulk',
      'loss.when': { from: '2026-11-10T09:00:00Z', to: '2026-11-10T10:00:00Z' },
    })
  // Plans of new cases are made in the background.
  const hanging = async () => {
    const { cases } = await (await page.request.get('/api/cases')).json()
    return cases.filter((one: { closes: (string | null)[] }) => one.closes[0] !== null).length
  }
  await expect.poll(hanging, { timeout: 60_000 }).toBeGreaterThan(40)
  await page.goto('/')
  const tags = page.locator('[data-test="tag"]')
  await expect(tags.filter({ hasText: 'cases' }).first()).toBeVisible()
  expect(await tags.count()).toBeLessThanOrEqual(20)
  const several = tags.filter({ hasText: 'cases' }).first()
  const count = Number(/(\d+) cases/.exec((await several.textContent())!)![1])
  await several.click()
  await expect(page.locator('[data-test="together"]')).toContainText(`${count} of`)
  await expect(page.locator('tbody tr')).toHaveCount(count)
  await page.keyboard.press('Escape')
  await expect(page.locator('[data-test="together"]')).toHaveCount(0)
})
