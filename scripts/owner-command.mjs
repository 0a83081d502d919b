// npm run backup and npm run restore: they work on a fresh machine, so each sets itself up first.
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { checkNode, ensureBuild, ensureDriver, ensurePackages, root } from './set-up.mjs'

const [command, ...words] = process.argv.slice(2)
checkNode()
await ensurePackages()
await ensureDriver()
// A restore opens the shop once, to do later wipes again.
if (command === 'restore') await ensureBuild()
const { status } = spawnSync(process.execPath, ['--import', 'tsx', join(root, 'scripts', `${command}.ts`), ...words], {
  stdio: 'inherit',
})
process.exitCode = status ?? 1
