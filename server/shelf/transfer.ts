import { createHash, type Hash } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { mkdir, open, rename, rm, stat, truncate } from 'node:fs/promises'
import { dirname } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { LinkFailure, linkFailure } from '../../core/bench/fault'
import type { ItemBytes } from '../../core/bench/link'
import { checksumOf } from './checksums'
import { onDisk } from '../links/disk-fault'

/** How often an interrupted transfer is resumed by itself. */
const TRIES = 5

/** What is to be transferred: how it is read from an offset on, and what is known of it before. */
export interface Arriving {
  readonly open: (from: number) => Promise<ItemBytes>
  /** its exact length, or null where it is unknown */
  readonly bytes: number | null
  readonly sha256: string | null
}

export interface Arrived {
  readonly bytes: number
  readonly sha256: string
  /** unreadable bytes, replaced by zeros */
  readonly missing: number
}

/**
 * Writes bytes to a path on the shop's disk, whole or not at all: to a file beside it, resumed where the connection
 * drops, checked against the expected length and checksum, flushed, renamed into place, and read back from there.
 * Throws a LinkFailure where the source fails or gives other bytes, a DiskFault where the disk fails. `keepsPart`: a
 * partial file stays for the next attempt, also after the server ends; only for sources that never miss bytes.
 */
export async function transfer(
  arriving: Arriving,
  path: string,
  { keepsPart = false }: { readonly keepsPart?: boolean } = {},
): Promise<Arrived> {
  const part = `${path}.part`
  await onDisk(() => mkdir(dirname(path), { recursive: true, mode: 0o700 }))
  try {
    const { hash, missing } = await arrive(arriving, part, keepsPart)
    const sha256 = hash.digest('hex')
    const bytes = await onDisk(() => flushedSize(part))
    requireExpected(arriving, bytes, sha256)
    await onDisk(() => putInPlace(part, path))
    const back = await onDisk(() => checksumOf(path))
    if (back.sha256 !== sha256 || back.bytes !== bytes) {
      await rm(path, { force: true })
      throw linkFailure('damaged', 'The copy on the shelf does not match the source. Check the shelf’s disk.')
    }
    return { bytes, sha256, missing }
  } catch (error) {
    // What is damaged, and what a full disk needs, does not stay.
    const isResumed = keepsPart && error instanceof LinkFailure && error.fault.fault !== 'damaged'
    if (!isResumed) await rm(part, { force: true }).catch(() => {})
    throw error
  }
}

async function arrive(
  { open: openAt, bytes }: Arriving,
  part: string,
  keepsPart: boolean,
): Promise<{ hash: Hash; missing: number }> {
  let have = keepsPart ? await sizeOf(part) : 0
  if (have === 0 || (bytes !== null && have > bytes)) {
    await onDisk(() => rm(part, { force: true }))
    have = 0
  }
  let missing = 0
  for (let tries = 1; ; tries++) {
    const hash = await onDisk(() => hashOf(part, have))
    const marks: Mark[] = [{ to: have, missing }]
    try {
      const parts = await openAt(have)
      await append(part, noted(parts, hash, marks), { from: have, most: bytes === null ? Infinity : bytes - have })
      return { hash, missing: marks.at(-1)!.missing }
    } catch (error) {
      if (!(error instanceof LinkFailure) || error.fault.fault !== 'interrupted' || tries >= TRIES) throw error
      // Of what was under way, only whole parts count: of those it is known what the medium did not give.
      const written = await sizeOf(part)
      const mark = marks.findLast(({ to }) => to <= written)!
      if (written > mark.to) await onDisk(() => truncate(part, mark.to))
      ;[have, missing] = [mark.to, mark.missing]
    }
  }
}

/** How far a transfer had come after each part, and how many bytes had been missing by then. */
interface Mark {
  readonly to: number
  readonly missing: number
}

async function* noted(parts: ItemBytes, hash: Hash, marks: Mark[]): AsyncIterable<Uint8Array> {
  const before = marks[0]!
  let to = before.to
  for await (const part of parts) {
    hash.update(part)
    to += part.length
    marks.push({ to, missing: before.missing + (parts.missingBytes ?? 0) })
    yield part
  }
}

/** Appends what comes to a file, no more than `most` bytes, and waits until it is on the disk. */
export async function append(
  path: string,
  parts: AsyncIterable<Uint8Array>,
  { from, most }: { readonly from: number; readonly most: number },
): Promise<void> {
  await onDisk(() =>
    pipeline(limited(parts, most), createWriteStream(path, { flags: from > 0 ? 'a' : 'w', mode: 0o600, flush: true })),
  )
}

/** A source that gives more than it said is not believed. */
async function* limited(parts: AsyncIterable<Uint8Array>, most: number): AsyncIterable<Uint8Array> {
  let size = 0
  for await (const part of parts) {
    size += part.length
    if (size > most) throw linkFailure('damaged', 'It is larger than its source says.')
    yield part
  }
}

function requireExpected({ bytes, sha256 }: Arriving, have: number, sum: string): void {
  if (bytes !== null && have !== bytes)
    throw linkFailure('damaged', `Only ${have} of its ${bytes} bytes arrived. Try it again.`)
  if (sha256 !== null && sha256 !== sum)
    throw linkFailure('damaged', 'The file was damaged in transfer: its checksum does not match. Try it again.')
}

async function flushedSize(path: string): Promise<number> {
  const file = await open(path, 'r+')
  try {
    await file.sync()
    return (await file.stat()).size
  } finally {
    await file.close()
  }
}

async function putInPlace(part: string, path: string): Promise<void> {
  await rename(part, path)
  const folder = await open(dirname(path), 'r')
  await folder.sync().catch(() => {})
  await folder.close()
}

async function hashOf(path: string, bytes: number): Promise<Hash> {
  const hash = createHash('sha256')
  if (bytes > 0)
    for await (const chunk of createReadStream(path, { end: bytes - 1 }) as AsyncIterable<Buffer>) hash.update(chunk)
  return hash
}

/** How many bytes a file has; 0 where there is none. */
export const sizeOf = (path: string): Promise<number> =>
  stat(path).then(
    ({ size }) => size,
    () => 0,
  )

/** Bytes that are there already, as they would arrive. */
export async function* atOnce(bytes: Uint8Array, from = 0): AsyncIterable<Uint8Array> {
  if (from < bytes.length) yield bytes.subarray(from)
}
