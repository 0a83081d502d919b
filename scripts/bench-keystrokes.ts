import { chromium, type Page } from '@playwright/test'
import playwright from '../playwright.config'
import { Server } from '../tests/support/server'

/**
 * From the key that answers a fact in the log to the next picture with the new order, in the browser, for
 * all cases of the demo's shop. Prints milliseconds; nothing is asserted.
 */
const ANSWERS = [
  ['How many', '41'],
  ['Can spend', '90'],
  ['How many', '230'],
  ['Can spend', '400'],
  ['How many', '1200'],
  ['Can spend', '30'],
  ['How many', '310'],
  ['Can spend', '95'],
] as const
const BETWEEN_MS = 900

declare global {
  interface Window {
    waits: number[]
  }
}

/** Notes for each answering key how long it took until a plan came and was drawn. */
function watchOrders() {
  window.waits = []
  let pressed: number | null = null
  addEventListener('keydown', ({ key }) => key === 'Tab' && (pressed = performance.now()), true)
  const Plain = Worker
  window.Worker = class extends Plain {
    constructor(address: string | URL, options?: WorkerOptions) {
      super(address, options)
      this.addEventListener('message', ({ data }: MessageEvent<{ depth?: string }>) => {
        if (data.depth !== 'order' || pressed === null) return
        const since = pressed
        pressed = null
        requestAnimationFrame(() => setTimeout(() => window.waits.push(performance.now() - since)))
      })
    }
  }
}

async function waitsOn(page: Page, code: string): Promise<number[]> {
  await page.goto(`/log/${code}`)
  await page.getByRole('heading', { level: 1 }).waitFor()
  await page.waitForLoadState('networkidle')
  await page.waitForTimeout(BETWEEN_MS * 2)
  for (const [label, words] of ANSWERS) {
    const word = page.getByRole('textbox', { name: label, exact: true }).first()
    if ((await word.count()) === 0) continue
    await word.focus()
    await page.keyboard.type(words)
    await page.keyboard.press('Tab')
    await page.waitForTimeout(BETWEEN_MS)
  }
  return page.evaluate(() => window.waits)
}

const server = new Server({ LANTERN_DEMO: '1' })
await server.start()
const browser = await chromium.launch(playwright.use?.launchOptions)
try {
  const context = await browser.newContext({ baseURL: server.address, viewport: { width: 1280, height: 800 } })
  await context.addInitScript(watchOrders)
  await context.request.post('/api/session', { data: { signIn: 'bram', password: 'towpath-heron-4' } })
  const { cases } = (await (await context.request.get('/api/cases')).json()) as { cases: { code: string }[] }
  const all: number[] = []
  for (const { code } of cases) {
    const page = await context.newPage()
    const waits = await waitsOn(page, code)
    await page.close()
    all.push(...waits)
    console.log(code, waits.map((wait) => Math.round(wait)).join(' '))
  }
  all.sort((one, other) => one - other)
  const at = (part: number) => Math.round(all[Math.floor((all.length - 1) * part)]!)
  console.log(`${all.length} answers: median ${at(0.5)} ms, 95th percentile ${at(0.95)} ms, longest ${at(1)} ms`)
} finally {
  await browser.close()
  await server.remove()
}
