import { mkdir, statfs } from 'node:fs/promises'
import { inArray, sql } from 'drizzle-orm'
import type { ShelfPlace } from '../../core/bench/shelf-place'
import { shelfItems } from '../db/tables'
import { refused } from '../failure'
import { requireShelfRoot, shelfPlace, shelfRoot } from './place'

/** Bytes of the disk that are never used: the database needs them to record what happens. */
const SPARE_BYTES = 64 << 20

/** Space reserved for a job: nobody else gets it before it is written or released. */
export class Promised {
  private left: number

  constructor(bytes: number) {
    this.left = bytes
    promises.add(this)
  }

  get bytes(): number {
    return this.left
  }

  /** Reserves more, or releases what has been written. */
  change(by: number): void {
    this.left = Math.max(0, this.left + by)
  }

  release(): void {
    promises.delete(this)
  }
}

const promises = new Set<Promised>()

/** Free bytes of the data folder's disk, without those reserved. */
export async function diskRoom(): Promise<number> {
  await mkdir(dataFolder(), { recursive: true, mode: 0o700 })
  return roomIn(dataFolder())
}

async function roomIn(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder)
  return Math.max(0, Math.floor(bavail * bsize - SPARE_BYTES - promisedBytes()))
}

/** Bytes that may still be put on shelves: free on their disk, and within the shop's own limit; none while it is not connected. */
export async function shelfRoom(): Promise<number> {
  const root = await shelfRoot(useLantern().database)
  if (root === null) return 0
  return Math.max(0, Math.min(await roomIn(root), allowedRoom()))
}

function allowedRoom(): number {
  const { database } = useLantern()
  const { maxGigabytes } = shelfPlace(database)
  const allowed = Math.min(Number(process.env.LANTERN_SHELF_BYTES || Infinity), (maxGigabytes ?? Infinity) * 1e9)
  return Number.isFinite(allowed) ? allowed - shelvedBytes() - promisedBytes() : Infinity
}

/** What is on all shelves together, in bytes. */
const shelvedBytes = (): number =>
  useLantern()
    .database.select({ bytes: sql<number>`coalesce(sum(${shelfItems.bytes}), 0)` })
    .from(shelfItems)
    .where(inArray(shelfItems.state, ['copied', 'verified']))
    .get()!.bytes

const promisedBytes = () => [...promises].reduce((sum, { bytes }) => sum + bytes, 0)

/**
 * Reserves space for a job; throws a Failure where there is not enough. Requests are handled one after the other, so
 * that the same space is never reserved twice.
 */
export function promiseRoom(
  bytes: number,
  words: (room: number) => string,
  where: 'shelf' | 'data' = 'shelf',
): Promise<Promised> {
  const next = asking.then(async () => {
    if (where === 'shelf') await requireShelfRoot()
    const room = where === 'shelf' ? await shelfRoom() : Math.min(await diskRoom(), allowedRoom())
    if (bytes > room) throw refused(words(room))
    return new Promised(bytes)
  })
  asking = next.catch(() => {})
  return next
}

let asking: Promise<unknown> = Promise.resolve()

/** Where shelves of new cases are, and the room there, for their owner. */
export async function shelfPlaceAnswer(): Promise<ShelfPlace> {
  const { database } = useLantern()
  const { folder, maxGigabytes } = shelfPlace(database)
  const root = await shelfRoot(database)
  return {
    folder,
    maxGigabytes,
    inDataFolder: dataFolder(),
    free: root === null ? null : await roomIn(root),
    used: shelvedBytes(),
  }
}
