import { statfs } from 'node:fs/promises'
import { statSync } from 'node:fs'
import { join } from 'node:path'
import { and, eq, inArray, max, ne, sql } from 'drizzle-orm'
import type { Health } from '../../core/safekeeping/backup'
import { DATABASE } from '../db/data-folder'
import { shopId } from '../db/shop-id'
import { cases, passes, shelfItems, shelfJobs } from '../db/tables'
import { readPlaybook } from '../settings'
import { shelfPlace, shelfRoot } from '../shelf/place'
import { backupsIn, isBackingUp, isChecking } from './backups'
import { backupSettings, backupState, lastCheck } from './settings'

/** Everything that an owner has to know about the health of the shop. */
export async function healthOf(): Promise<Health> {
  const { database } = useLantern()
  const settings = backupSettings(database)
  const { last, failed } = backupState(database)
  const kept = settings ? await backupsIn(settings.folder, shopId(database)) : []
  const shelves = shelfPlace(database).folder
  const rooms = [
    await roomOf('Data folder', dataFolder()),
    shelves && (await roomOf('Shelves', shelves)),
    settings && (await roomOf('Backups', settings.folder)),
  ]
  return {
    rooms: rooms.flatMap((room) => room || []),
    isShelfAway: (await shelfRoot(database)) === null,
    backup: {
      folder: settings?.folder ?? null,
      hasFiles: settings?.hasFiles ?? false,
      hasPassphrase: settings !== null,
      isRunning: isBackingUp(),
      last,
      failed,
      kept,
      keepDays: readPlaybook(database).shop.papers.backupDays,
    },
    check: lastCheck(database),
    isChecking: isChecking(),
    jobs: jobsOf(),
    only: onlyHere(kept.find(({ hasFiles }) => hasFiles)?.at ?? null),
    databaseBytes: statSync(join(dataFolder(), DATABASE)).size,
  }
}

async function roomOf(what: string, folder: string): Promise<Health['rooms'][number] | null> {
  const room = await statfs(folder).catch(() => null)
  return room && { what, free: room.bavail * room.bsize, total: room.blocks * room.bsize }
}

function jobsOf(): Health['jobs'] {
  const { database } = useLantern()
  const scans = database
    .select({ code: cases.code, state: passes.state, says: passes.says })
    .from(passes)
    .innerJoin(cases, eq(cases.id, passes.caseId))
    .where(inArray(passes.state, ['running', 'queued', 'failed']))
    .all()
    .map(({ code, state, says }) => ({
      what: 'scan',
      code,
      says,
      state: state === 'running' || state === 'failed' ? state : ('waiting' as const),
    }))
  const copies = database
    .select({ code: cases.code, state: shelfJobs.state, says: shelfJobs.says })
    .from(shelfJobs)
    .innerJoin(cases, eq(cases.id, shelfJobs.caseId))
    .where(inArray(shelfJobs.state, ['running', 'stopped']))
    .all()
    .map(({ code, state, says }) => ({
      what: 'copying to the shelf',
      code,
      says,
      state: state === 'running' ? ('running' as const) : ('failed' as const),
    }))
  return [...scans, ...copies]
}

/** Open cases with files on the shelf that no backup has. `since`: when the newest backup with files was made; null for none. */
function onlyHere(since: string | null): Health['only'] {
  const { database } = useLantern()
  return database
    .select({
      code: cases.code,
      files: sql<number>`count(*)`,
      bytes: sql<number>`coalesce(sum(${shelfItems.bytes}), 0)`,
      newest: max(shelfItems.at),
    })
    .from(shelfItems)
    .innerJoin(cases, eq(cases.id, shelfItems.caseId))
    .where(and(ne(cases.state, 'closed'), inArray(shelfItems.state, ['copied', 'verified'])))
    .groupBy(cases.code)
    .all()
    .filter(({ newest }) => since === null || newest === null || newest > since)
    .map(({ code, files, bytes }) => ({ code, files, bytes }))
}
