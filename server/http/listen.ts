// The entry of the built server: opens its doors, and closes everything in order when it is asked to end.
import '#nitro-internal-pollyfills'
import { toNodeListener } from 'h3'
import { openDoors } from './open-doors'
import { logFault } from '../log-fault'

const GRACE_MS = 3000
const LONGEST_END_MS = 30_000

// A request that fails must not end the jobs of the others.
for (const kind of ['unhandledRejection', 'uncaughtException'] as const)
  process.on(kind, (error: unknown) => logFault(error, `[${kind}]`))
const nitroApp = useNitroApp()
// A shop that was just put back from a backup is only settled (plugins/2.wipes.ts), and does not open.
const doors =
  process.env.LANTERN_SETTLE === '1'
    ? null
    : openDoors(toNodeListener(nitroApp.h3App)).catch((error: Error) => {
        console.error(`✖ ${error.message}`)
        process.exit(1)
      })

let isEnding = false
async function end(): Promise<void> {
  if (isEnding) return
  isEnding = true
  setTimeout(() => process.exit(1), LONGEST_END_MS).unref()
  await (await doors)?.close(GRACE_MS)
  await nitroApp.hooks.callHook('close')
  process.exit(0)
}
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => void end())

export default {}
