// npm run backup -- FOLDER [--shelves]: a backup of the shop now, also while it is open, into a folder below FOLDER.
import { existsSync, statSync } from 'node:fs'
import { join, resolve } from 'node:path'
import Sqlite from 'better-sqlite3'
import { MIN_PASSPHRASE } from '../core/safekeeping/backup'
import { DATABASE } from '../disk/database-file'
import { packShop } from '../disk/shop-backup/pack'
import { newBackupKey, type BackupKey } from '../disk/shop-backup/seal'
import { addMissingWipes } from '../disk/wipe-ledger'
import { typedSecret } from './typed-secret'

const UNUSABLE = 2
const words = process.argv.slice(2)
const hasFiles = words.includes('--shelves')
const [place, ...rest] = words.filter((word) => word !== '--shelves')

/** What the shop says of its backups: its name, and the key that the owner’s passphrase opens; null where there is none yet. */
function ofShop(dataFolder: string): { shop: string; shopId: string | null; key: BackupKey | null } {
  const client = new Sqlite(join(dataFolder, DATABASE), { readonly: true, fileMustExist: true })
  try {
    const read = (key: string) => {
      const value = client.prepare('select value from settings where key = ?').pluck().get(key) as string | undefined
      return value ?? null
    }
    const json = (key: string) => JSON.parse(read(key) ?? 'null')
    return { shop: json('playbook')?.shop?.name ?? 'Our shop', shopId: read('shop-id'), key: json('backup') }
  } finally {
    client.close()
  }
}

async function askedKey(): Promise<BackupKey> {
  const passphrase = await typedSecret(`Passphrase for this backup, at least ${MIN_PASSPHRASE} characters: `)
  if (passphrase.length < MIN_PASSPHRASE)
    throw new Error(`The passphrase is shorter than ${MIN_PASSPHRASE} characters. Nothing was written.`)
  if (process.stdin.isTTY && (await typedSecret('Once more: ')) !== passphrase)
    throw new Error('That was not the same passphrase. Nothing was written.')
  return newBackupKey(passphrase)
}

try {
  process.umask(0o077)
  if (!place || rest.length > 0) throw new Error('Say where: npm run backup -- FOLDER [--shelves]')
  const dataFolder = resolve(process.env.LANTERN_DATA || './data')
  if (!existsSync(join(dataFolder, DATABASE))) throw new Error(`${dataFolder} holds no shop. Name it: LANTERN_DATA=…`)
  if (!statSync(place, { throwIfNoEntry: false })?.isDirectory())
    throw new Error(`${place} is not a folder. Connect its disk, or make it first.`)
  const { shop, shopId, key } = ofShop(dataFolder)
  const into = resolve(place)
  const packed = await packShop({
    dataFolder,
    place: into,
    key: key ?? (await askedKey()),
    shop,
    shopId,
    hasFiles,
    now: Date.now(),
  })
  addMissingWipes(dataFolder, into)
  process.stdout.write(`${join(into, packed.name)}\n`)
  process.stderr.write(
    `${(packed.bytes / 1e6).toFixed(1)} MB, encrypted to ${key ? 'the passphrase of the shop’s backups' : 'that passphrase'}${hasFiles ? ', with all files' : '; shelves, media and fetched backups are not in it (--shelves takes them along)'}.\n`,
  )
} catch (error) {
  process.stderr.write(`${(error as Error).message}\n`)
  process.exitCode = UNUSABLE
}
