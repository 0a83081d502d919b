// Makes a backup of the shop, or checks its database and history, in a process of its own: both read all of it.
import { constants, setPriority } from 'node:os'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { packShop } from '../../disk/shop-backup/pack'
import { newBackupKey } from '../../disk/shop-backup/seal'
import { verifyCommand } from '../../disk/verify-shop'
import { DATABASE } from '../db/data-folder'
import { logFault } from '../log-fault'
import type { SafeAnswer, SafeOrder } from './orders'

const tell = (answer: SafeAnswer) => process.send?.(answer)

process.umask(0o077)
process.on('message', (message: SafeOrder) => {
  try {
    setPriority(constants.priority.PRIORITY_LOW)
  } catch {
    // Not every system lets a process lower its priority; it works all the same.
  }
  void work(message)
    .then((done) => tell({ done }))
    .catch((error: NodeJS.ErrnoException) => {
      logFault(error)
      tell({ fault: error.code ? null : error.message, code: error.code ?? null })
    })
    // Let the message be sent before exiting.
    .finally(() => setTimeout(() => process.exit(0), 50))
})
process.on('disconnect', () => process.exit(1))
process.on('SIGINT', () => {})

async function work(message: SafeOrder) {
  if (message.order === 'backup') return packShop(message.packing)
  return message.order === 'key' ? newBackupKey(message.passphrase) : check(message.dataFolder)
}

/** Every page of the database, every reference, and every entry of the history. */
function check(dataFolder: string): { isSound: boolean; says: string } {
  const client = new Sqlite(join(dataFolder, DATABASE), { readonly: true, fileMustExist: true })
  let said: string
  let loose: number
  try {
    said = String(client.pragma('integrity_check(1)', { simple: true }))
    loose = (client.pragma('foreign_key_check') as unknown[]).length
  } finally {
    client.close()
  }
  if (said !== 'ok') return { isSound: false, says: `The database is damaged: ${said.slice(0, 160)}` }
  if (loose > 0) return { isSound: false, says: `${loose} rows of the database refer to rows that are not there.` }
  const history = verifyCommand(dataFolder, {})
  if ('fits' in history) return { isSound: true, says: `The database is sound. History: ${history.fits}` }
  return { isSound: false, says: 'broken' in history ? history.broken : history.faults }
}
