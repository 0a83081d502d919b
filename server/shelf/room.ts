import { mkdir, statfs } from 'node:fs/promises'
import { inArray, sql } from 'drizzle-orm'
import { shelfItems } from '../db/tables'
import { refused } from '../failure'

/** The disk is never filled to its last byte: the database needs room to write down what happens. */
const SPARE_BYTES = 64 << 20

/** Room that was promised to a job: nobody else gets it before it is written or given back. */
export class Promised {
  private left: number

  constructor(bytes: number) {
    this.left = bytes
    promises.add(this)
  }

  get bytes(): number {
    return this.left
  }

  /** More is asked for, or some of it lies on the disk by now. */
  change(by: number): void {
    this.left = Math.max(0, this.left + by)
  }

  release(): void {
    promises.delete(this)
  }
}

const promises = new Set<Promised>()

/** Bytes that the disk still has, beside what is promised to others. */
export async function diskRoom(): Promise<number> {
  const folder = dataFolder()
  await mkdir(folder, { recursive: true, mode: 0o700 })
  const { bavail, bsize } = await statfs(folder)
  return Math.max(0, Math.floor(bavail * bsize - SPARE_BYTES - promisedBytes()))
}

/** Bytes that may still be put on shelves: what the disk has, and no more than the shop allows. */
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
 * Promises room to a job; refused where there is not enough. Whoever asks at the same time is asked one after the other, so
 * that the same room is never promised twice.
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
