import { existsSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { clockFrom, type Clock } from '../clock'
import { openDatabase, type Database } from '../db/open'
import { tryCounter } from '../people/tries'

interface Lantern {
  readonly database: Database
  readonly clock: Clock
  readonly tries: ReturnType<typeof tryCounter>
  readonly isDemo: boolean
  /** settles when what has to be there before the first answer is there */
  ready: Promise<void>
  readonly isClockSettable: boolean
}

let opened: Lantern | null = null

/** The folder in which everything of the shop lies. */
export function dataFolder(): string {
  return resolve(process.env.LANTERN_DATA || './data')
}

/** What the routes share: one database, one clock. Opened at the first use, which is the server's start. */
export function useLantern(): Lantern {
  opened ??= {
    database: openDatabase(dataFolder(), migrationsFolder()),
    clock: clockFrom(process.env.LANTERN_NOW),
    tries: tryCounter(),
    isDemo: process.env.LANTERN_DEMO === '1',
    ready: Promise.resolve(),
    isClockSettable: process.env.LANTERN_CLOCK === 'settable',
  }
  return opened
}

/** The migrations lie beside the built server, or in the source tree while developing. */
function migrationsFolder(): string {
  const candidates = [
    join(dirname(process.argv[1] ?? ''), 'migrations'),
    resolve('.output/server/migrations'),
    resolve('server/db/migrations'),
  ]
  const found = candidates.find((folder) => existsSync(join(folder, 'meta/_journal.json')))
  if (!found) throw new Error('The database migrations are missing; build the app again.')
  return found
}
