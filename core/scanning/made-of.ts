import exifr from 'exifr'
import { Reader } from '../sources/reader'
import { sliceSource, type ByteSource } from '../sources/source'

/** How much of a picture is read for the data that its camera wrote into it, in bytes. */
export const PHOTO_DATA_BYTES = 131_072
/** Movies count seconds from the beginning of 1904 (ISO/IEC 14496-12, 8.2.2). */
const MOVIE_EPOCH_MS = Date.UTC(1904, 0, 1)
const MAX_BOXES = 200
const PICTURES = /^image\/(jpeg|tiff|hei[cf]|avif|png)|^image\/x-.*raw/
const MOVIES = /^(video|audio)\/(mp4|quicktime|3gpp|x-m4a)/

/**
 * When something was created, by its own metadata: from the camera's in a picture (Exif 2.3, DateTimeOriginal) or from
 * a movie header. An instant; null where there is none or it is impossible.
 */
export async function madeOf(content: ByteSource, mime: string | null): Promise<string | null> {
  if (mime !== null && PICTURES.test(mime)) return photoMade(content.read(0, Math.min(PHOTO_DATA_BYTES, content.size)))
  return mime !== null && MOVIES.test(mime) ? movieMade(content) : null
}

/** The same for the beginning of a picture. */
export async function photoMade(head: Uint8Array): Promise<string | null> {
  try {
    const data = (await exifr.parse(head, ['DateTimeOriginal', 'CreateDate'])) as
      { DateTimeOriginal?: Date; CreateDate?: Date } | undefined
    const made = data?.DateTimeOriginal ?? data?.CreateDate
    return made instanceof Date ? instantOf(made.getTime()) : null
  } catch {
    return null
  }
}

function movieMade(content: ByteSource): string | null {
  const movie = boxNamed(content, 'moov')
  const head = movie && boxNamed(movie, 'mvhd')
  if (!head || head.size < 12) return null
  const reader = new Reader(head)
  const seconds = reader.u8(0) === 1 ? reader.u64be(4) : reader.u32be(4)
  return seconds === 0 ? null : instantOf(MOVIE_EPOCH_MS + seconds * 1000)
}

/** The content of the first box with a name among neighbours; null where there is none. */
function boxNamed(content: ByteSource, name: string): ByteSource | null {
  const reader = new Reader(content)
  for (let at = 0, count = 0; at + 8 <= content.size && count < MAX_BOXES; count++) {
    const short = reader.u32be(at)
    const headBytes = short === 1 ? 16 : 8
    const length = short === 1 ? reader.u64be(at + 8) : short === 0 ? content.size - at : short
    if (length < headBytes || !Number.isFinite(length)) return null
    if (reader.text(at + 4, 4) === name) return sliceSource(content, at + headBytes, length - headBytes)
    at += length
  }
  return null
}

/** Years before any camera come from a clock that was never set, or from a missing date. */
function instantOf(ms: number): string | null {
  if (!Number.isFinite(ms) || ms < Date.UTC(1980, 0, 2) || ms >= Date.UTC(2108, 0, 1)) return null
  return new Date(ms).toISOString()
}
