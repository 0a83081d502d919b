import { existsSync, readdirSync, readFileSync, readlinkSync, realpathSync, statSync } from 'node:fs'
import { basename, dirname, join, resolve } from 'node:path'

/** Where the system lists its devices and mounts; another place in tests. */
export interface SystemFolders {
  readonly sys: string
  readonly mounts: string
}
const SYSTEM: SystemFolders = { sys: '/sys', mounts: '/proc/self/mountinfo' }

/** The nearest folder that is there, of a path that may be yet to be made. */
export function nearestThere(path: string): string {
  let there = resolve(path)
  while (!existsSync(there) && dirname(there) !== there) there = dirname(there)
  return realpathSync(there)
}

/**
 * Whether a folder is on a source that is being read: inside a mounted image, on the device itself, or on another
 * part of the same physical disk. What the system does not report counts as another disk, but for the device itself.
 */
export function liesOnSource(folder: string, source: string, system: SystemFolders = SYSTEM): boolean {
  const there = nearestThere(folder)
  const real = realpathSync(source)
  const facts = statSync(real)
  if (there === real) return true
  const below = disksBelow(deviceNumberOf(there, system), system)
  if (!facts.isBlockDevice()) return below.images.has(real)
  if (statSync(there).dev === facts.rdev) return true
  const read = disksBelow(numberOf(facts.rdev), system)
  return [...read.disks].some((disk) => below.disks.has(disk)) || [...read.images].some((one) => below.images.has(one))
}

/** "8:1" from a device number of stat (makedev of the C library). */
export const numberOf = (device: number) => {
  const wide = BigInt(device)
  const major = ((wide >> 8n) & 0xfffn) | ((wide >> 32n) & ~0xfffn)
  const minor = (wide & 0xffn) | ((wide >> 12n) & ~0xffn)
  return `${major}:${minor}`
}

/** The device that holds a folder; for file systems with their own device numbers, from the list of mounts. */
function deviceNumberOf(folder: string, { sys, mounts }: SystemFolders): string {
  const own = numberOf(statSync(folder).dev)
  if (existsSync(join(sys, 'dev/block', own)) || !existsSync(mounts)) return own
  const lines = readFileSync(mounts, 'utf8').split('\n')
  for (const line of lines) {
    const [head = '', tail = ''] = line.split(' - ')
    if (head.split(' ')[2] !== own) continue
    const from = tail.split(' ')[1]
    if (from?.startsWith('/') && existsSync(from) && statSync(from).isBlockDevice())
      return numberOf(statSync(from).rdev)
  }
  return own
}

/** The whole disks under a device, and the images under a loop device (sysfs, block/). */
function disksBelow(number: string, system: SystemFolders): { disks: Set<string>; images: Set<string> } {
  const disks = new Set<string>()
  const images = new Set<string>()
  const seen = new Set<string>()
  const visit = (folder: string) => {
    if (seen.has(folder) || !existsSync(folder)) return
    seen.add(folder)
    // The folder of a partition is inside the folder of its disk.
    const whole = existsSync(join(folder, 'partition')) ? dirname(folder) : folder
    const image = join(whole, 'loop/backing_file')
    if (existsSync(image)) images.add(readFileSync(image, 'utf8').trim())
    const parts = join(whole, 'slaves')
    const slaves = existsSync(parts) ? readdirSync(parts) : []
    for (const slave of slaves) visit(realpathSync(join(parts, slave)))
    if (slaves.length === 0) disks.add(basename(whole))
  }
  const link = join(system.sys, 'dev/block', number)
  if (existsSync(link)) visit(resolve(dirname(link), readlinkSync(link)))
  return { disks, images }
}
