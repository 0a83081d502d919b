import { writeFile } from 'node:fs/promises'
import { monitorEventLoopDelay } from 'node:perf_hooks'

const EVERY_MS = 500
const AFTER_MS = 5000

/**
 * Writes the longest stalls of the server's own thread to a file for load tests, where one is named (LANTERN_STALLS).
 */
export default defineNitroPlugin((nitro) => {
  const file = process.env.LANTERN_STALLS
  if (!file) return
  const delays = monitorEventLoopDelay({ resolution: 10 })
  // The start itself, and the plans of a new demo, are not counted.
  setTimeout(() => delays.enable(), AFTER_MS).unref()
  const timer = setInterval(() => {
    const told = { longestMs: delays.max / 1e6, p99Ms: delays.percentile(99) / 1e6 }
    void writeFile(file, JSON.stringify(told)).catch(() => {})
  }, EVERY_MS)
  timer.unref()
  nitro.hooks.hook('close', () => clearInterval(timer))
})
