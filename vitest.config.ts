import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '~~': fileURLToPath(new URL('.', import.meta.url)) } },
  test: {
    include: ['core/**/*.test.ts', 'disk/**/*.test.ts', 'server/**/*.test.ts', 'cli/**/*.test.ts', 'app/**/*.test.ts'],
    testTimeout: 30_000,
    // Files share what they import: a third of the time went into importing the same again.
    isolate: false,
    reporters: ['default'],
  },
})
