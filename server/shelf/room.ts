import { mkdir, statfs } from 'node:fs/promises'
import { inArray, sql } from 'drizzle-orm'
import { shelfItems } from '../db/tables'
import { refused } from '../failure'

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

/** Free bytes of the disk, without those reserved. */
export async function diskRoom(): Promise<number> {
  const folder = dataFolder()
  await mkdir(folder, { recursive: true, mode: 0o700 })
  const { bavail, bsize } = await statfs(folder)
  return Math.max(0, Math.floor(bavail * bsize - SPARE_BYTES - promisedBytes()))
}

/** Bytes that may still be put on shelves: free on the disk, and within the shop's own limit. */
export async function shelfRoom(): Promise<number> {
  const onDisk = await diskRoom()
  return Math.max(0, Math.min(onDisk, allowedRoom()))
}

function allowedRoom(): number {
  const allowed = Number(process.env.LANTERN_SHELF_BYTES || Infinity)
  if (!Number.isFinite(allowed)) return Infinity
  const used = useLantern()
    .database.select({ bytes: sql<number>`coalesce(sum(${shelfItems.bytes}), 0)` })
    .from(shelfItems)
    .where(inArray(shelfItems.state, ['copied', 'verified']))
    .get()!.bytes
  return allowed - used - promisedBytes()
}

const promisedBytes = () => [...promises].reduce((sum, { bytes }) => sum + bytes, 0)

/**
 * Reserves space for a job; throws a Failure where there is not enough. Requests are handled one after the other, so
 * that the same space is never reserved twice.
 */
export function promiseRoom(bytes: number, words: (room: number) => string): Promise<Promised> {
  const next = asking.then(async () => {
    const room = await shelfRoom()
    if (bytes > room) throw refused(words(room))
    return new Promised(bytes)
  })
  asking = next.catch(() => {})
  return next
}

let asking: Promise<unknown> = Promise.resolve()
