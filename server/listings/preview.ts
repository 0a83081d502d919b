import { createReadStream } from 'node:fs'
import QuickLRU from 'quick-lru'
import type { Preview } from '../../core/bench/preview'
import { kindOfMime } from '../../core/files/kinds'
import type { Find } from '../../core/bench/filter'
import { linkFailure } from '../../core/bench/fault'
import type { ItemBytes } from '../../core/bench/link'
import { LimitFault, ProcessPool } from '../threads/process-line'
import type { FileOrder, PixelsTold } from '../threads/messages'
import { linkById } from '../links/links'

const MAX_BYTES = 64 << 20
/** Limits of one preview; past them none is made. */
const LIMITS = { ms: 10_000, bytes: 900 << 20 }
const readers = new ProcessPool('read-file', LIMITS, 2)

/** Has a file read by a process beside the server; its bytes are streamed there, up to the limit. */
export function readFileAs<Result>(order: FileOrder, bytes: AsyncIterable<Uint8Array>): Promise<Result> {
  return readers.ask<Result>(order, limited(bytes))
}

async function* limited(parts: AsyncIterable<Uint8Array>): AsyncIterable<Uint8Array> {
  let size = 0
  for await (const part of parts) {
    size += part.length
    if (size > MAX_BYTES) throw linkFailure('damaged', TOO_LARGE)
    yield part
  }
}

const TOO_LARGE = 'It is too large to preview. Copy it to the shelf.'

const bytesOf = async (linkId: string, find: Find, from = 0): Promise<ItemBytes> =>
  (await linkById(linkId)).read(find.keep, find.id, from)

/** Whether an item is played part by part, so that it may be of any length. */
export const isPlayed = ({ mime, record }: Pick<Find, 'mime' | 'record'>) =>
  !record && ['audio', 'video'].includes(kindOfMime(mime).preview ?? '')

/** The type under which an item's bytes are sent: its own where browsers display it, otherwise plain bytes. */
const servedType = (find: Pick<Find, 'mime' | 'record'>) => {
  const { preview } = kindOfMime(find.mime)
  const isShown = !find.record && preview !== null && ['image', 'audio', 'video', 'pdf'].includes(preview)
  return isShown ? find.mime : 'application/octet-stream'
}

/** The bytes to display for an item: its own, from an offset on, or a picture of it in a type that browsers can draw. */
export async function shownBytes(
  linkId: string,
  find: Find,
  from = 0,
): Promise<{ type: string; bytes: AsyncIterable<Uint8Array> | Uint8Array }> {
  const bytes = await bytesOf(linkId, find, from)
  if (kindOfMime(find.mime).preview !== 'drawn')
    return { type: servedType(find), bytes: isPlayed(find) ? bytes : limited(bytes) }
  return { type: 'image/png', bytes: await readFileAs<Uint8Array>({ ask: 'drawn', name: find.name }, bytes) }
}

/** The preview of an item; never throws, whatever its bytes are. */
export async function previewOf(linkId: string, find: Find): Promise<Preview> {
  if (find.record) return { as: 'record' }
  if (find.bytes > MAX_BYTES && !isPlayed(find)) return { as: 'none', why: TOO_LARGE }
  const { preview } = kindOfMime(find.mime)
  try {
    if (preview === 'audio' || preview === 'video' || preview === 'pdf') return { as: preview }
    const bytes = await bytesOf(linkId, find)
    if (preview !== 'image' && preview !== 'drawn')
      return await readFileAs<Preview>({ ask: 'content', name: find.name }, bytes)
    const { pixels, isDrawn } = await readFileAs<PixelsTold>({ ask: 'pixels', name: find.name }, bytes).catch(notDrawn)
    return isDrawn
      ? { as: 'image' }
      : {
          as: 'none',
          why: `It has ${Math.round(pixels / 1e6)} million pixels, too many to preview. Copy it to the shelf.`,
        }
  } catch (error) {
    if (error instanceof LimitFault) return { as: 'none', why: `${error.message} Copy it to the shelf to open it.` }
    throw error
  }
}

/** A picture truncated before its size is known is left to the browser; one beyond a limit is not. */
function notDrawn(error: unknown): PixelsTold {
  if (error instanceof LimitFault) throw error
  return { pixels: 0, isDrawn: true }
}

const thumbs = new QuickLRU<string, Uint8Array>({ maxSize: 3000 })

/** Forgets every thumbnail: they are drawn again when somebody looks. */
export const forgetThumbs = (): void => thumbs.clear()

/** A thumbnail of a picture, also of a truncated one; null where there is none. */
export async function thumbOf(linkId: string, find: Find): Promise<Uint8Array | null> {
  if (find.type !== 'photos' || find.record || find.bytes > MAX_BYTES) return null
  const key = find.sha256 ?? `${linkId}/${find.keep}/${find.id}`
  const known = thumbs.get(key)
  if (known) return known
  try {
    const made = await readFileAs<Uint8Array>({ ask: 'thumb', name: find.name }, await bytesOf(linkId, find))
    thumbs.set(key, made)
    return made
  } catch {
    return null
  }
}

interface ShelvedFile {
  readonly type: string
  readonly bytes: number
  readonly sha256: string | null
  readonly name: string
}

/** A thumbnail of a picture that was copied to the shelf; null where there is none. */
export async function thumbOfFile(
  path: string,
  { type, bytes, sha256, name }: ShelvedFile,
): Promise<Uint8Array | null> {
  if (type !== 'photos' || bytes > MAX_BYTES) return null
  const known = sha256 === null ? undefined : thumbs.get(sha256)
  if (known) return known
  const made = await drawn({ ask: 'thumb', name }, path)
  if (made && sha256 !== null) thumbs.set(sha256, made)
  return made
}

/** A picture on the shelf as PNG, as large as a screen at most; null where it cannot be drawn. */
export async function pictureOfFile(path: string, { type, bytes, name }: ShelvedFile): Promise<Uint8Array | null> {
  return type !== 'photos' || bytes > MAX_BYTES ? null : drawn({ ask: 'drawn', name }, path)
}

/** Whatever the bytes of a picture are, they are no fault of the page that shows it. */
const drawn = (order: FileOrder, path: string): Promise<Uint8Array | null> =>
  readFileAs<Uint8Array>(order, createReadStream(path)).catch(() => null)
