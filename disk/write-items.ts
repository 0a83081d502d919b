import { createHash } from 'node:crypto'
import {
  closeSync,
  existsSync,
  fsyncSync,
  futimesSync,
  linkSync,
  lstatSync,
  mkdirSync,
  openSync,
  readSync,
  renameSync,
  rmSync,
  statfsSync,
  unlinkSync,
  writeSync,
} from 'node:fs'
import { dirname, join } from 'node:path'
import type { ByteSource } from '../core/sources/source'

const STEP_BYTES = 1024 * 1024

/** The checksum of what a source holds, in hexadecimal. */
export function sha256Of(source: ByteSource): string {
  const hash = createHash('sha256')
  for (let at = 0; at < source.size; at += STEP_BYTES)
    hash.update(source.read(at, Math.min(STEP_BYTES, source.size - at)))
  return hash.digest('hex')
}

/** Bytes that can still be written where a path is, or will be. */
export function roomAt(path: string): number {
  let there = path
  while (!existsSync(there) && dirname(there) !== there) there = dirname(there)
  const { bavail, bsize } = statfsSync(there)
  return bavail * bsize
}

/**
 * Writes what a source holds to a new file below a folder, reads it back from there, and gives it its own time (ISO): answers the
 * checksum of what was read back and whether it is that of the source, as long as it should be. Until all of it is there it
 * stands under another name. Never writes over a file that is there, nor through a link that leads out of the folder.
 */
export function writeItem(
  folder: string,
  path: string,
  source: ByteSource,
  modified: string | null,
): { sha256: string; bytes: number; isVerified: boolean } {
  const full = join(folder, path)
  makeFolders(folder, path)
  const part = `${full}${PART}`
  rmSync(part, { force: true })
  const descriptor = openSync(part, 'wx+')
  try {
    const hash = createHash('sha256')
    let at = 0
    while (at < source.size) {
      const bytes = source.read(at, Math.min(STEP_BYTES, source.size - at))
      if (bytes.length === 0) break
      hash.update(bytes)
      for (let done = 0; done < bytes.length;)
        done += writeSync(descriptor, bytes, done, bytes.length - done, at + done)
      at += bytes.length
    }
    const time = modified === null ? NaN : Date.parse(modified) / 1000
    if (Number.isFinite(time)) futimesSync(descriptor, time, time)
    fsyncSync(descriptor)
    const { sha256, bytes } = readBack(descriptor)
    const isVerified = bytes === at && at === source.size && sha256 === hash.digest('hex')
    giveName(part, full)
    return { sha256, bytes, isVerified }
  } catch (error) {
    // Half of a file under its name would pass for the file.
    rmSync(part, { force: true })
    throw error
  } finally {
    closeSync(descriptor)
  }
}

/** Makes the folders of a path, one by one: a link in place of one of them may lead anywhere. */
function makeFolders(folder: string, path: string): void {
  mkdirSync(folder, { recursive: true })
  let there = folder
  for (const name of path.split('/').slice(0, -1)) {
    there = join(there, name)
    const facts = lstatSync(there, { throwIfNoEntry: false })
    if (!facts) mkdirSync(there)
    else if (!facts.isDirectory())
      throw Object.assign(new Error(`${name} is no folder`), { code: 'ENOTDIR', path: there })
  }
}

/** The ending of what is not yet all there. */
const PART = '.part'

/** Some file systems know no second name for a file; there a name that is taken is looked for first. */
function giveName(part: string, full: string): void {
  try {
    linkSync(part, full)
    unlinkSync(part)
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST' || existsSync(full)) throw error
    renameSync(part, full)
  }
}

function readBack(descriptor: number): { sha256: string; bytes: number } {
  const hash = createHash('sha256')
  const part = Buffer.alloc(STEP_BYTES)
  for (let at = 0; ;) {
    const have = readSync(descriptor, part, 0, part.length, at)
    if (have === 0) return { sha256: hash.digest('hex'), bytes: at }
    hash.update(part.subarray(0, have))
    at += have
  }
}
