import { Reader } from '../sources/reader'
import type { ByteSource, Extent } from '../sources/source'
import type { FileSystem } from './filesystems/file-system'
import type { Verdict, VolumeShape } from './filesystems/volume-shape'
import type { OpenedVolume } from './luks/opened'
import type { VolumeGroup } from './lvm/volume-group'
import { MARKS, type Mark } from './marks'

export interface Said {
  readonly verdict: Verdict
  readonly says: string
  readonly lock?: VolumeShape['lock']
}

/** How many places of a volume are looked at where nothing is recognised, and how many bytes of each. */
const PLACES = 256
const PLACE_BYTES = 4096

/** What is known of a volume, by its file system, by a mark, or by what its bytes look like. Sizes in bytes. */
export function verdictOf(image: ByteSource, extent: Extent, fileSystem: FileSystem | null, mark: Mark | null): Said {
  if (fileSystem) return ofFileSystem(fileSystem, extent[1])
  return mark ? ofMark(mark) : byLooks(image, extent)
}

/** What is known of a volume by its mark alone. */
const ofMark = ({ verdict, name, hasLock }: Mark): Said => ({
  verdict,
  says: `${name}: ${hasLock ? LOCKED : NEXT[verdict]}`,
  lock: hasLock ? 'closed' : null,
})

/** What is known of a member of a volume group. */
export function ofGroup({ name, volumes }: VolumeGroup): Said {
  const others = volumes.filter(({ pieces }) => pieces?.length !== 1)
  const here = `${volumes.length} logical ${volumes.length === 1 ? 'volume' : 'volumes'}`
  const rest =
    others.length === 0
      ? ''
      : ` Not read, since they lie in several pieces, in part elsewhere, or in another form: ${others.map((one) => one.name).join(', ')}. A deep scan still finds files whose format proves itself.`
  return { verdict: 'known', says: `A member of a volume group (LVM) “${name}” with ${here}.${rest}` }
}

/** The same, of a volume that was opened. */
export const onceOpened = ({ kind }: OpenedVolume, said: Said): Said => ({
  ...said,
  lock: 'opened',
  says: `Opened with its passphrase (${kind}), read only. ${said.says}`,
})

/** The kind of volume whose mark is at a place; null where there is none. */
export function markAt(image: ByteSource, [offset, length]: Extent): Mark | null {
  const reader = new Reader(image)
  return MARKS.find(({ isAt }) => isAt(reader, offset, offset + length)) ?? null
}

/** Said of a place without a file system in which so many volumes were found. */
export const lostIn = (count: number): Said => ({
  verdict: 'unknown',
  says: `No file system begins here; ${count === 1 ? 'a lost volume was' : `${count} lost volumes were`} found in it.`,
})

const LOCKED = 'it opens with its passphrase; without it, a scan finds nothing in it.'
const NEXT = {
  known: 'its records are not read here. A deep scan still finds files whose format proves itself.',
  encrypted: 'a scan finds nothing in it. Ask for the passphrase or the recovery key.',
  container: 'unpack it or convert it to a raw image first, and scan that.',
} as const

function ofFileSystem({ kind, bytes, warnings }: FileSystem, length: number): Said {
  if (bytes > length + SPARE_BYTES)
    return {
      verdict: 'cut',
      says: `${kind}, ${shareOf(bytes / length)} as long as what is here of it: the image ends after ${length} of ${bytes} bytes.`,
    }
  const [first] = warnings
  return first
    ? { verdict: 'damaged', says: `${kind}, with faults: ${first.where} ${first.what}.` }
    : { verdict: 'read', says: `${kind}, its records are read.` }
}

/** Some tools leave out the copy of the boot sector behind a volume. */
const SPARE_BYTES = 4096

const WORDS = ['', '', 'twice', 'three times', 'four times', 'five times']
/** How much longer, in words where it is a small whole number. */
function shareOf(times: number): string {
  const whole = Math.round(times)
  if (Math.abs(times - whole) < 0.02 && WORDS[whole]) return WORDS[whole]
  return `${times < 10 ? times.toFixed(times < 1.095 ? 2 : 1) : whole} times`
}

/** All zeros, noise from end to end, or neither, at places spread over the volume. */
function byLooks(image: ByteSource, [offset, length]: Extent): Said {
  const all = new Float64Array(256)
  let [zero, full, noisy, looked] = [0, 0, 0, 0]
  const step = Math.max(PLACE_BYTES, Math.floor(length / PLACES / 512) * 512)
  for (let at = 0; at < length; at += step) {
    const bytes = image.read(offset + at, Math.min(PLACE_BYTES, length - at))
    if (bytes.length === 0) break
    looked++
    if (bytes.every((byte) => byte === 0)) zero++
    else if (bytes.every((byte) => byte === 0xff)) full++
    else if (bytes.length === PLACE_BYTES && chiSquare(countsOf(bytes)) < MAX_CHI_SQUARE) {
      noisy++
      for (const byte of bytes) all[byte]!++
    }
  }
  if (zero === looked || full === looked)
    return {
      verdict: 'empty',
      says: `Only ${zero === looked ? 'zeros' : 'ones'} at all ${looked} places that were looked at: never written, or erased.`,
    }
  // A table or the head of a volume may stand before it, and blocks that were never written between.
  if (noisy >= MIN_NOISY && noisy >= (looked - zero - full) * 0.98 && chiSquare(all) < MAX_CHI_SQUARE)
    return {
      verdict: 'encrypted',
      says: 'Noise from end to end, and no mark: encrypted, or overwritten at random. A scan finds nothing in it. Ask how the device was locked.',
    }
  return { verdict: 'unknown', says: 'No file system was recognised.' }
}

const MIN_NOISY = 16

function countsOf(bytes: Uint8Array): Float64Array {
  const counts = new Float64Array(256)
  for (const byte of bytes) counts[byte]!++
  return counts
}

/** How far the counts of 256 values are from being equal (255 degrees of freedom). Packed data and films are, over a megabyte. */
function chiSquare(counts: Float64Array): number {
  const expected = counts.reduce((sum, count) => sum + count, 0) / 256
  return counts.reduce((sum, count) => sum + (count - expected) ** 2 / expected, 0)
}

/** Exceeded by noise in one of a hundred thousand places. */
const MAX_CHI_SQUARE = 375
