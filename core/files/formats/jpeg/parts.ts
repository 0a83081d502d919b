import { Reader } from '../../../sources/reader'
import { sliceSource, type Extent } from '../../../sources/source'
import { movie } from '../boxes'
import type { Walk } from '../format'
import { latin1 } from '../latin1'

/** A part behind a picture, as its metadata list it (XMP; ISO 16684-1). */
interface Item {
  readonly isFilm: boolean
  readonly bytes: number
  readonly padding: number
}

/** What the segments of a picture say of what follows its end of image. */
export interface Announced {
  /** whether they say anything, also what cannot be followed */
  isAny: boolean
  /** other pictures, by the index of a multi-picture file (CIPA DC-007, 5.2); offsets in bytes of the file */
  pictures: readonly Extent[]
  /** in order, the picture itself first */
  items: readonly Item[]
  /** how many bytes before the end of the file a film begins */
  film: number
}

export const nothingAnnounced = (): Announced => ({ isAny: false, pictures: [], items: [], film: 0 })

const INDEX = 'MPF\0'
/** The signature of a segment that describes a gain map (ISO 21496-1). */
const GAIN_MAP = 'urn:iso:std:iso:ts:21496:-1\0'
/** Words of the metadata that announce a film, a second picture or a gain map. */
const DESCRIBED = /GainMap|hdrgm:|MotionPhoto|MicroVideo|Container:(Directory|Item)/

/** Takes what an application segment announces; `at`: where its content begins in the file. */
export function takeAnnounced(segment: Uint8Array, at: number, announced: Announced): void {
  const head = latin1(segment.subarray(0, 32))
  if (head.startsWith(INDEX)) {
    announced.isAny = true
    announced.pictures = picturesIn(segment.subarray(INDEX.length), at + INDEX.length)
  } else if (head.startsWith(GAIN_MAP)) announced.isAny = true
  else if (head.startsWith('http')) {
    const text = latin1(segment)
    if (!DESCRIBED.test(text)) return
    announced.isAny = true
    announced.items = itemsIn(text)
    announced.film = Number(/MicroVideoOffset\s*=\s*["'](\d{1,10})["']/.exec(text)?.[1] ?? 0)
  }
}

const [ENTRIES_TAG, ENTRY_BYTES, MAX_PICTURES] = [0xb002, 16, 64]

/** The entries of the index but that of the first picture; its offsets count from the header of the index. */
function picturesIn(index: Uint8Array, at: number): Extent[] {
  const view = new DataView(index.buffer, index.byteOffset, index.length)
  const isLittle = index[0] === 0x49
  const has = (offset: number, length: number) => offset >= 0 && offset + length <= index.length
  const u32 = (offset: number) => (has(offset, 4) ? view.getUint32(offset, isLittle) : 0)
  const table = u32(4)
  const count = has(table, 2) ? view.getUint16(table, isLittle) : 0
  for (let entry = table + 2; entry < table + 2 + count * 12 && has(entry, 12); entry += 12) {
    if (view.getUint16(entry, isLittle) !== ENTRIES_TAG) continue
    const [bytes, from] = [u32(entry + 4), u32(entry + 8)]
    const pictures = Array.from(
      { length: Math.min(MAX_PICTURES, Math.floor(bytes / ENTRY_BYTES)) },
      (_, picture): Extent => {
        const own = from + picture * ENTRY_BYTES
        return [u32(own + 8) === 0 ? 0 : at + u32(own + 8), u32(own + 4)]
      },
    )
    return pictures.filter(([offset, length]) => offset > 0 && length > 0).sort(([one], [other]) => one - other)
  }
  return []
}

function itemsIn(text: string): Item[] {
  return text
    .split(/<Container:Item\b|<rdf:li\b(?=[^>]*Item:)/)
    .slice(1)
    .map((part) => {
      const said = (name: string) => new RegExp(`Item:${name}\\s*=\\s*["']([^"']*)["']`).exec(part)?.[1] ?? ''
      return {
        isFilm: said('Mime').startsWith('video/'),
        bytes: Number(said('Length')) || 0,
        padding: Number(said('Padding')) || 0,
      }
    })
}

/** All parts of a file followed to the end of the last, or where they contradict what was announced. */
export type Parts =
  | { readonly end: number; readonly unproven: readonly Extent[]; readonly hasFilm: boolean }
  | { readonly fault: string; readonly breaksAt: number }

/**
 * Follows the parts behind a picture's end of image: the pictures of its index, the items of its directory, a film. Null where
 * what is announced cannot be followed. `pictureAt`: follows one picture alone.
 */
export function partsBehind(
  reader: Reader,
  end: number,
  announced: Announced,
  pictureAt: (reader: Reader) => Walk | null,
): Parts | null {
  const { source, unitBytes } = reader
  const unproven: Extent[] = []
  let [at, hasFilm] = [end, false]
  let fault: { fault: string; breaksAt: number } | null = null
  const take = (offset: number, bytes: number, isFilm: boolean): boolean => {
    const part = new Reader(sliceSource(source, offset, isFilm ? bytes : undefined), unitBytes)
    const walk = isFilm ? movie.walk(part) : pictureAt(part)
    const isCut = offset + bytes > reader.size
    if (!walk || walk.whole === 'partial' || isCut) {
      const breaksAt = Math.min(reader.size, offset + (walk?.breaksAt ?? 0))
      fault = { fault: isFilm ? 'its film is broken' : 'a further picture of it is broken', breaksAt }
      return false
    }
    if (offset > at) unproven.push(...unlessZeros(reader, [at, offset - at]))
    const own = offset + walk.bytes
    const next = offset + Math.max(bytes, walk.bytes)
    if (next > own) unproven.push(...unlessZeros(reader, [own, next - own]))
    at = Math.max(at, next)
    hasFilm ||= isFilm
    return true
  }
  for (const [offset, bytes] of announced.pictures) if (offset >= end && !take(offset, bytes, false)) return fault
  const [primary, ...others] = announced.items
  let place = end + (primary?.padding ?? 0)
  for (const { isFilm, bytes, padding } of others) {
    if (bytes > 0 && place + bytes > at && !take(place, bytes, isFilm)) return fault
    place += bytes + padding
  }
  if (announced.film > 0 && !hasFilm && !take(at, announced.film, true)) return fault
  return at === end ? null : { end: at, unproven, hasFilm }
}

const STEP = 1 << 16

/** A range, unless it is only zeros. */
function unlessZeros({ source }: Reader, [offset, length]: Extent): Extent[] {
  for (let done = 0; done < length; done += STEP)
    if (source.read(offset + done, Math.min(STEP, length - done)).some((byte) => byte !== 0)) return [[offset, length]]
  return []
}
