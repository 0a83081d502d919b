// npm run restore -- BACKUP FOLDER: puts a backup of the shop back into an empty folder, checks it, and does later wipes again.
import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { resolve } from 'node:path'
import { unpackShop } from '../disk/shop-backup/unpack'
import { verifyCommand } from '../disk/verify-shop'
import { typedSecret } from './typed-secret'

const UNUSABLE = 2
const [backup, target, ...rest] = process.argv.slice(2)

/** Opens the shop once, which does later wipes again before anything else, and closes it. */
function settleWipes(dataFolder: string): Promise<void> {
  const server = resolve(import.meta.dirname, '../.output/server/index.mjs')
  if (!existsSync(server))
    throw new Error(`The app is not built yet. Start the shop on ${dataFolder}: it does later wipes first.`)
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, [server], {
      env: { ...process.env, LANTERN_DATA: dataFolder, LANTERN_SETTLE: '1', LANTERN_DEMO: '', NODE_ENV: 'production' },
      stdio: ['ignore', 'inherit', 'inherit'],
    })
    child.once('error', failed)
    child.once('exit', (code) =>
      code === 0
        ? done()
        : failed(new Error(`Later wipes could not be done. Start the shop on ${dataFolder}: it does them first.`)),
    )
  })
}

try {
  process.umask(0o077)
  if (!backup || !target || rest.length > 0)
    throw new Error('Say which backup, and into which empty folder: npm run restore -- BACKUP FOLDER')
  const passphrase = await typedSecret('Passphrase of the backup: ')
  const manifest = await unpackShop(resolve(backup), target, passphrase)
  const folder = resolve(target)
  process.stderr.write(
    `Restored “${manifest.shop}” as it was at ${manifest.at}${manifest.hasFiles ? ', with all files' : ', without shelves and media'}.\n`,
  )
  const history = verifyCommand(folder, {})
  if (!('fits' in history)) throw new Error('broken' in history ? history.broken : history.faults)
  process.stderr.write(`History: ${history.fits}\n`)
  await settleWipes(folder)
  process.stderr.write('Wipes that were done after the backup are done again.\n')
  process.stdout.write(`Open the shop: LANTERN_DATA=${folder} npm start\n`)
} catch (error) {
  process.stderr.write(`${(error as Error).message}\n`)
  process.exitCode = UNUSABLE
}
