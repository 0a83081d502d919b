// npm run demo: everything from a bare checkout to the running app with the made-up shop in it.
import { mkdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { requirePort, serve } from './serve.mjs'
import { checkNode, ensureBuild, ensureDriver, ensurePackages, fail, root, say } from './set-up.mjs'

const wanted = process.argv.slice(2)
const strange = wanted.find((argument) => argument !== '--fresh')
if (strange) fail(`npm run demo knows no ${strange}; there is only: npm run demo -- --fresh`)

checkNode()
await ensurePackages()
await ensureDriver()
await ensureBuild()
const port = process.env.LANTERN_PORT || '4747'
await requirePort(port)
const data = process.env.LANTERN_DATA || join(root, 'data/demo')
mkdirSync(data, { recursive: true, mode: 0o700 })
if (wanted.includes('--fresh')) {
  say('Beginning anew: the demo’s data is put away')
  // Only what the demo itself wrote; the folder may hold other things.
  const own = [
    'lantern.sqlite',
    'lantern.sqlite-wal',
    'lantern.sqlite-shm',
    'session-secret',
    'tls',
    'stand-ins',
    'shelf',
    'fetched',
    'server.lock',
    'shop.key',
    'attachments',
    'by-hand',
    'wiped.jsonl',
  ]
  for (const name of own) rmSync(join(data, name), { force: true, recursive: true })
}
say('Starting')
const address = await serve({
  port,
  env: { LANTERN_DATA: data, LANTERN_DEMO: '1', NODE_ENV: 'production' },
})
say(
  `Sluice Lane Repairs is open: ${address}\n  Its people and their passwords stand on the sign-in page. Ctrl C closes it; what was entered stays.`,
)
