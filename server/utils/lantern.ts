import { randomBytes } from 'node:crypto'
import { existsSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { clockFrom, type Clock } from '../clock'
import { closeToOthers, DataFault, lockDataFolder } from '../db/data-folder'
import { closeDatabase, inspectShop, openInspected, type Database } from '../db/open'
import { WorkerLine } from '../threads/worker-line'
import { HashQueue, type HashOrder } from '../people/hash-queue'
import { Tries } from '../people/tries'
import { readPlaybook } from '../settings'
import { adoptEarlierCases } from '../cases/adopt'
import { fillLedger } from '../cases/ledger-rows'
import { fillSearchIndex } from '../search/index-cases'
import { contentsIn } from '../stand-ins/contents'
import { StandInStore } from '../stand-ins/store'

interface Lantern {
  readonly database: Database
  /** writes the log back, and lets another server use the folder */
  close(): void
  readonly clock: Clock
  readonly tries: Tries
  readonly hashes: HashQueue
  readonly isDemo: boolean
  /** settles when everything that the first answer needs is ready */
  ready: Promise<void>
  readonly isClockSettable: boolean
  /** the simulated devices and accounts; null where the shop has none */
  readonly standIns: StandInStore | null
  /** the token by which the helper of the stand-ins knows this server's bench; new at every start */
  readonly helperToken: string
}

let opened: Lantern | null = null

/** The data folder of the shop. */
export function dataFolder(): string {
  return resolve(process.env.LANTERN_DATA || './data')
}

/** What the routes share: one database, one clock. Opened at the first use, which is the server's start. */
export function useLantern(): Lantern {
  opened ??= open()
  return opened
}

function open(): Lantern {
  const [folder, migrations] = [dataFolder(), migrationsFolder()]
  if (process.env.LANTERN_DATA && !existsSync(folder))
    throw new DataFault(
      `The data folder ${folder} is not there. Mount its disk; or, for a new shop, make the folder first: mkdir -p ${folder}`,
    )
  inspectShop(folder, migrations)
  closeToOthers(folder)
  // During development the server is restarted within one process.
  const lock = import.meta.dev ? null : lockDataFolder(folder)
  const database = openInspected(folder, migrations)
  adoptEarlierCases(database)
  fillSearchIndex(database)
  fillLedger(database)
  const isDemo = process.env.LANTERN_DEMO === '1'
  return {
    database,
    close: () => {
      closeDatabase(database)
      lock?.release()
    },
    clock: clockFrom(process.env.LANTERN_NOW),
    tries: new Tries(),
    hashes: new HashQueue(hashInThread),
    isDemo,
    ready: Promise.resolve(),
    isClockSettable: process.env.LANTERN_CLOCK === 'settable',
    standIns:
      isDemo || process.env.LANTERN_STAND_INS === '1'
        ? new StandInStore(
            database,
            contentsIn(join(dataFolder(), 'stand-ins')),
            () => readPlaybook(database).shop.zone,
          )
        : null,
    helperToken: randomBytes(24).toString('base64url'),
  }
}

let hashing: WorkerLine | null = null

/** Hashes are made in a thread of their own: the platform's thread pool is for files. */
function hashInThread(order: HashOrder): Promise<string | boolean> {
  hashing ??= new WorkerLine('hash-passwords', null, () => (hashing = null))
  return hashing.ask(order)
}

/** The migrations are beside the built server, or in the source tree during development. */
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
