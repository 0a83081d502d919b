import { lstatSync, statSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import type { ScanWarning } from '../core/volumes/filesystems/volume-shape'
import { openFile, type OpenFile } from './file-source'

/** An image that was split into files of one folder: counted by digits from 0 or 1, or by letters. */
export interface SplitParts {
  readonly paths: readonly string[]
  /** whether others come before it */
  readonly isFurther: boolean
  /** in words, where parts are missing or this is not the first */
  readonly says: string | null
}

const MAX_PARTS = 10_000

/** The parts of a split image, this one first; null where a name is that of no part. */
export function splitParts(path: string): SplitParts | null {
  const name = basename(path)
  const ending = /\.(\d{2,4}|[a-z]{2,3})$/.exec(name)?.[1]
  if (!ending) return null
  const number = numberOf(ending)
  if (number === null) return null
  const stem = name.slice(0, -ending.length)
  const partAt = (at: number) => join(dirname(path), `${stem}${endingOf(at, ending)}`)
  if (number > 1)
    return isFile(partAt(number - 1))
      ? { paths: [path], isFurther: true, says: `${name} is a further part of a split image: scan its first part` }
      : null
  const paths = [path]
  for (let at = number + 1; paths.length < MAX_PARTS && isFile(partAt(at)); at++) paths.push(partAt(at))
  const isAlone = paths.length === 1
  return {
    paths,
    isFurther: false,
    says: isAlone ? `${name} is named as part 1 of a split image; part 2 was not found` : null,
  }
}

/** What is missing of an image that was split, as a warning. */
export function partsSay(path: string): ScanWarning[] {
  const says = splitParts(path)?.says
  return says ? [{ where: basename(path), what: says }] : []
}

/** A symbolic link that is named as a part could lead anywhere. */
const isFile = (path: string) => lstatSync(path, { throwIfNoEntry: false })?.isFile() ?? false

/** Letters count from "aa"; digits are what they say. Null where letters are no first parts but an extension of another kind. */
function numberOf(ending: string): number | null {
  if (/^\d+$/.test(ending)) return Number(ending)
  return /^a+$/.test(ending) ? 0 : null
}

function endingOf(at: number, like: string): string {
  if (/^\d+$/.test(like)) return String(at).padStart(like.length, '0')
  let [left, text] = [at, '']
  for (let place = 0; place < like.length; place++) {
    text = String.fromCharCode(97 + (left % 26)) + text
    left = Math.floor(left / 26)
  }
  return text
}

/** Opens an image, with all of its parts as one where it was split. Throws what the system throws. */
export function openImage(path: string): OpenFile {
  const paths = splitParts(path)?.paths ?? [path]
  if (paths.length === 1 || !statSync(path).isFile()) return openFile(path)
  const parts = paths.map((one) => openFile(one))
  const starts: number[] = []
  let size = 0
  for (const part of parts) {
    starts.push(size)
    size += part.size
  }
  const readInto = (bytes: Uint8Array, offset: number): number => {
    let have = 0
    for (const [index, part] of parts.entries()) {
      const within = offset + have - starts[index]!
      if (within < 0 || within >= part.size) continue
      have += part.readInto!(bytes.subarray(have, have + Math.min(bytes.length - have, part.size - within)), within)
      if (have === bytes.length) break
    }
    return have
  }
  return {
    size,
    read: (offset, length) => {
      const bytes = new Uint8Array(Math.max(0, Math.min(length, size - offset)))
      return bytes.subarray(0, readInto(bytes, offset))
    },
    readInto,
    close: () => {
      for (const part of parts) part.close()
    },
  }
}
