import { createReadStream, createWriteStream, existsSync } from 'node:fs'
import { mkdir, readdir, readFile, rename, rm, rmdir } from 'node:fs/promises'
import { dirname, join, resolve } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { ReadableStream } from 'node:stream/web'
import { Decrypter } from 'age-encryption'
import { extract } from 'tar-stream'
import { cleanName } from '../../core/archives/entry-name'
import { BACKUP_FILES, ShopBackup } from '../../core/safekeeping/backup'
import { DATABASE } from '../database-file'
import { addMissingWipes } from '../wipe-ledger'
import { ALWAYS, BY_CHOICE } from './contents'
import { LAST_ENTRY } from './pack'
import { openBackupKey } from './seal'

const ROOMS: readonly string[] = [DATABASE, ...ALWAYS, ...BY_CHOICE]

/** What a backup says of itself; throws where the folder holds none. */
export async function readBackup(folder: string): Promise<ShopBackup> {
  const text = await readFile(join(folder, BACKUP_FILES.manifest), 'utf8').catch(() => {
    throw new Error(`${folder} holds no backup of a shop: it has no ${BACKUP_FILES.manifest}.`)
  })
  try {
    return ShopBackup.parse(JSON.parse(text))
  } catch {
    throw new Error(`${folder} holds no backup of a shop that this version can read.`)
  }
}

/**
 * Puts a backup back into a folder that is empty or not there, which has its name only when everything is in it. Wipes that were done
 * after the backup, as the place of the backups knows them, are in its list of wipes: the shop does them again before it opens.
 * Throws an Error in words for people; then nothing is left behind.
 */
export async function unpackShop(backup: string, target: string, passphrase: string): Promise<ShopBackup> {
  const manifest = await readBackup(backup)
  const into = resolve(target)
  if (existsSync(into) && (await readdir(into)).length > 0)
    throw new Error(`${target} is not empty. Name a folder that is empty or not there: a shop is never written over.`)
  const identity = await openBackupKey(await readFile(join(backup, BACKUP_FILES.key)), passphrase)
  const unfinished = `${into}.unfinished`
  await rm(unfinished, { recursive: true, force: true })
  await mkdir(unfinished, { recursive: true, mode: 0o700 })
  try {
    await unpackContent(join(backup, BACKUP_FILES.content), unfinished, identity)
    addMissingWipes(dirname(resolve(backup)), unfinished)
    if (existsSync(into)) await rmdir(into)
    await rename(unfinished, into)
  } catch (error) {
    await rm(unfinished, { recursive: true, force: true })
    throw error
  }
  return manifest
}

async function unpackContent(path: string, folder: string, identity: string): Promise<void> {
  const decrypter = new Decrypter()
  decrypter.addIdentity(identity)
  const damaged = new Error('The backup is damaged or was cut: its content does not decrypt. Use another one.')
  const archive = extract()
  const sealed = Readable.toWeb(createReadStream(path)) as unknown as globalThis.ReadableStream
  const content = await decrypter.decrypt(sealed).catch(() => {
    throw damaged
  })
  const feeding = pipeline(Readable.fromWeb(content as unknown as ReadableStream), archive).then(
    () => null,
    (error: NodeJS.ErrnoException) => error,
  )
  let isComplete = false
  let fault: unknown = null
  try {
    for await (const entry of archive) {
      const { name, type } = entry.header
      if (name === LAST_ENTRY) isComplete = true
      const clean = cleanName(name)
      // The archive is encrypted, but whoever knows the public key could have made one.
      if (type === 'file' && clean !== null && ROOMS.includes(clean.split('/')[0]!)) {
        const to = join(folder, clean)
        await mkdir(dirname(to), { recursive: true, mode: 0o700 })
        await pipeline(entry, createWriteStream(to, { mode: 0o600, flags: 'wx', flush: true }))
      } else {
        entry.resume()
      }
    }
  } catch (error) {
    fault = error
  }
  const cut = await feeding
  const ofDisk = [fault, cut].find((one) =>
    ['ENOSPC', 'EACCES', 'EDQUOT', 'EROFS'].includes((one as { code?: string })?.code ?? ''),
  )
  if (ofDisk) throw ofDisk
  if (fault || cut || !isComplete) throw damaged
}
