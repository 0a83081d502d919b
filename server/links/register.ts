import { createHash } from 'node:crypto'
import { closeSync, existsSync, fstatSync, openSync, readSync } from 'node:fs'
import { lstat, mkdir, open, readdir, realpath, stat } from 'node:fs/promises'
import { basename, dirname, join, resolve } from 'node:path'
import { DAY_MS } from '../../core/cases/shape/moment'
import { MEDIA_DAY } from '../../stand-ins/media/dates'
import { standInMedia } from '../../stand-ins/media/things'
import { keepSetting, readSetting } from '../db/setting'
import type { Medium } from './medium'
import { withOpened } from './opened-media'
import { splitParts } from '../../disk/split-parts'

const PATHS = 'media-paths'
const MADE = 'media-made'
const MAX_IMAGES = 500

/** The folder into which images are placed or uploaded. */
export async function mediaFolder(): Promise<string> {
  const folder = join(dataFolder(), 'media')
  await mkdir(folder, { recursive: true, mode: 0o700 })
  return folder
}

/** Every medium: the images in the media folder, the paths that the owner has named, and the stand-ins. */
export async function everyMedium(): Promise<Medium[]> {
  return [...(await placedMedia()), ...(await namedMedia()), ...standIns()].map(withOpened)
}

export async function mediumById(id: string): Promise<Medium | null> {
  if (!id.startsWith('medium-')) return null
  return (await everyMedium()).find((one) => one.id === id) ?? null
}

async function placedMedia(): Promise<Medium[]> {
  const folder = await mediaFolder()
  const found: Medium[] = []
  for (const name of (await readdir(folder)).sort().slice(0, MAX_IMAGES)) {
    const path = join(folder, name)
    // A symbolic link could lead anywhere: paths outside this folder are named by the owner.
    const facts = name.startsWith('.') ? null : await lstat(path).catch(() => null)
    // A further part of a split image is read with its first.
    if (facts?.isFile() && facts.size > 0 && !splitParts(path)?.isFurther) found.push(await mediumAt(path, name, null))
  }
  return found
}

async function namedMedia(): Promise<Medium[]> {
  const found: Medium[] = []
  for (const path of namedPaths()) {
    // The owner allowed the file or device itself: a symbolic link that replaced it could lead anywhere.
    const real = await realpath(path).catch(() => null)
    if (real === path) found.push(await mediumAt(path, basename(path), path))
  }
  return found
}

/** Regions hashed to fingerprint a device: the partition table, and where first volumes usually begin; in bytes. */
const TELLING: readonly (readonly [from: number, length: number])[] = [
  [0, 65_536],
  [1 << 20, 4096],
  [4 << 20, 4096],
]

/** A card reader is the same device whatever card is in it: the first bytes distinguish the cards. */
async function stampOfDevice(path: string): Promise<string> {
  const hash = createHash('sha256')
  try {
    const device = await open(path, 'r')
    try {
      for (const [from, length] of TELLING) {
        const { buffer, bytesRead } = await device.read(Buffer.alloc(length), 0, length, from)
        hash.update(buffer.subarray(0, bytesRead))
      }
    } finally {
      await device.close()
    }
  } catch {
    return 'unreadable device'
  }
  return `device ${hash.digest('hex')}`
}

async function mediumAt(path: string, title: string, named: string | null): Promise<Medium> {
  const facts = await stat(path)
  const real = await realpath(path)
  const parts = splitParts(real)?.paths.slice(1) ?? []
  const further = await Promise.all(parts.map((part) => stat(part)))
  const all = [facts, ...further]
  const split = parts.length === 0 ? '' : `, in ${all.length} parts`
  return {
    id: `medium-${createHash('sha256').update(real).digest('hex').slice(0, 12)}`,
    title: (facts.isBlockDevice() ? `Device ${title}` : `${title}${split}`).slice(0, 160),
    path: named,
    bytes: facts.isBlockDevice() ? 0 : all.reduce((sum, { size }) => sum + size, 0),
    isDevice: facts.isBlockDevice(),
    isStandIn: false,
    place: { path: real, packed: null, faults: null, opened: [] },
    stamp: facts.isBlockDevice()
      ? await stampOfDevice(real)
      : all.map(({ size, mtimeMs }) => `${size} ${mtimeMs}`).join(', '),
    closed: null,
  }
}

/** The paths that the owner has allowed. */
export function namedPaths(): string[] {
  return JSON.parse(readSetting(useLantern().database, PATHS) ?? '[]') as string[]
}

export function namePaths(paths: readonly string[]): void {
  keepSetting(useLantern().database, PATHS, JSON.stringify(paths))
}

/** Stores the day to which the dates of the stand-in media are relative. */
export function makeStandInMedia(now: number): void {
  keepSetting(useLantern().database, MADE, String(now))
}

function standIns(): Medium[] {
  const lantern = useLantern()
  if (!lantern.standIns) return []
  const made = readSetting(lantern.database, MADE)
  const days = Math.round((Number(made ?? lantern.clock.now()) - MEDIA_DAY) / DAY_MS)
  return standInMedia.map(({ id, title, image, faults }) => {
    const from = join(imagesFolder(), `${image}.img.gz`)
    const path = join(dataFolder(), 'stand-ins', 'media', `${id}.img`)
    return {
      id,
      title,
      path: null,
      bytes: unpackedBytes(from),
      isDevice: false,
      isStandIn: true,
      place: { path, packed: { from, days }, faults, opened: [] },
      stamp: `stand-in ${days}`,
      closed: null,
    }
  })
}

/** The images are beside the built server, or in the source tree during development. */
function imagesFolder(): string {
  const folder = [join(dirname(process.argv[1] ?? ''), 'media'), resolve('stand-ins/media/images')].find((one) =>
    existsSync(one),
  )
  if (!folder) throw new Error('The stand-in media are missing; build the app again.')
  return folder
}

const sizes = new Map<string, number>()

/** The unpacked size is in the last four bytes (RFC 1952, section 2.3.1). */
function unpackedBytes(path: string): number {
  const known = sizes.get(path)
  if (known !== undefined) return known
  const file = openSync(path, 'r')
  try {
    const tail = Buffer.alloc(4)
    readSync(file, tail, 0, 4, fstatSync(file).size - 4)
    sizes.set(path, tail.readUInt32LE(0))
    return tail.readUInt32LE(0)
  } finally {
    closeSync(file)
  }
}
