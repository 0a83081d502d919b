import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

/** A test without an assertion, or whose loops run over nothing, fails. */
const strict = { requireAssertions: true }
const alias = { '~~': fileURLToPath(new URL('.', import.meta.url)) }

export default defineConfig({
  test: {
    reporters: ['default'],
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'unit',
          expect: strict,
          include: ['{core,disk,server,cli,app,stand-ins}/**/*.test.ts'],
          // Only what hangs: other rows of work share the machine.
          testTimeout: 180_000,
          // Files share what they import: a third of the time went into importing the same again.
          isolate: false,
        },
      },
      {
        resolve: { alias },
        test: {
          // Speaks HTTP to the built server: one server for each file, so that two of them keep two cores busy.
          name: 'http',
          expect: strict,
          include: ['tests/http/**/*.test.ts'],
          globalSetup: 'tests/support/filled-shop.ts',
          testTimeout: 120_000,
          hookTimeout: 60_000,
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
          isolate: false,
        },
      },
    ],
  },
})
