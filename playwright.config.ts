import { existsSync } from 'node:fs'
import { defineConfig } from '@playwright/test'

const CHROMIUM = ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) => existsSync(path))

export default defineConfig({
  testDir: 'tests',
  testMatch: '*.spec.ts',
  globalSetup: './tests/support/filled-shop.ts',
  // Only for what hangs: other rows of work share the machine, and scans give way to them.
  timeout: 150_000,
  expect: { timeout: 30_000 },
  workers: 2,
  fullyParallel: true,
  forbidOnly: !!process.env.CI,
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    testIdAttribute: 'data-test',
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: CHROMIUM,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
