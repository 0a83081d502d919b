import type { Reader } from '../../sources/reader'
import { partial, unverified, type Format, type Walk } from './format'

type Kind = Pick<Walk, 'mime' | 'extension' | 'type'>
const TIFF: Kind = { mime: 'image/tiff', extension: 'tif', type: 'photos' }
const RAW: Kind = { mime: 'image/x-dng', extension: 'dng', type: 'photos' }
/** bytes of one value, by its type */
const WIDTHS = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8] as const
const TAG = {
  stripOffsets: 273,
  stripBytes: 279,
  tileOffsets: 324,
  tileBytes: 325,
  subfolders: 330,
  exif: 34_665,
  place: 34_853,
  rawVersion: 50_706,
  jpegAt: 513,
  jpegBytes: 514,
} as const
const NO_TAGS = 'invalid image file directory'
const MAX_FOLDERS = 200
const MAX_VALUES = 100_000

/**
 * TIFF, and camera raw in it: directories of tags and the strips that they refer to must be inside the file (TIFF 6.0,
 * section 2).
 */
export const tiff: Format = {
  id: 'tiff',
  extensions: ['tif', 'tiff', 'dng', 'nef', 'cr2', 'arw', 'orf', 'pef', 'srw', 'rw2'],
  signatures: [
    [0, 'II*\0'],
    [0, 'MM\0*'],
  ],
  walk(reader) {
    const isLittle = reader.is(0, 'II*\0')
    if (!isLittle && !reader.is(0, 'MM\0*')) return null
    const read = {
      u16: (at: number) => (isLittle ? reader.u16le(at) : reader.u16be(at)),
      u32: (at: number) => (isLittle ? reader.u32le(at) : reader.u32be(at)),
    }
    let end = 8
    let hasPicture = false
    let isRaw = reader.is(8, 'CR')
    let fault: string | null = null
    const waiting = [read.u32(4)]
    const seen = new Set<number>()
    const reach = (to: number) => {
      if (to > reader.size) fault ??= 'file is truncated'
      end = Math.max(end, Math.min(to, reader.size))
    }
    for (let at = waiting.shift(); at !== undefined && seen.size < MAX_FOLDERS; at = waiting.shift()) {
      if (at === 0 || seen.has(at)) continue
      seen.add(at)
      const count = read.u16(at)
      const isFolder = at >= 8 && count > 0 && count < 1000
      if (!isFolder && seen.size === 1) {
        // Writers mostly put the tags behind the picture: in a fragmented file they are not where they should be.
        const mayBeElsewhere = at > 8 && at % 2 === 0 && reader.has(at, 2)
        return mayBeElsewhere ? partial(TIFF, { provenTo: 8, breaksAt: 8, why: NO_TAGS }) : null
      }
      if (!isFolder || !reader.has(at, 2 + count * 12 + 4)) {
        fault ??= isFolder ? 'file is truncated' : NO_TAGS
        continue
      }
      reach(at + 2 + count * 12 + 4)
      const values = new Map<number, number[]>()
      for (let index = 0; index < count; index++) {
        const tag = tagAt(reader, read, at + 2 + index * 12)
        if (!tag) {
          fault ??= 'invalid tag'
          continue
        }
        if (tag.end > 0) reach(tag.end)
        values.set(tag.tag, tag.values)
      }
      const [offsets, sizes] = [
        values.get(TAG.stripOffsets) ?? values.get(TAG.tileOffsets),
        values.get(TAG.stripBytes) ?? values.get(TAG.tileBytes),
      ]
      if (offsets && sizes && offsets.length === sizes.length) {
        hasPicture = true
        for (const [index, offset] of offsets.entries()) reach(offset + sizes[index]!)
      }
      const jpeg = [values.get(TAG.jpegAt)?.[0], values.get(TAG.jpegBytes)?.[0]]
      if (jpeg[0] && jpeg[1]) reach(jpeg[0] + jpeg[1])
      isRaw ||= values.has(TAG.rawVersion)
      for (const tag of [TAG.subfolders, TAG.exif, TAG.place]) waiting.push(...(values.get(tag) ?? []))
      waiting.push(read.u32(at + 2 + count * 12))
    }
    const kind = isRaw ? RAW : TIFF
    if (fault) return partial(kind, { provenTo: 8, breaksAt: end, why: fault })
    if (!hasPicture) return null
    return unverified(kind, end, 'tags and all referenced strips are inside the file')
  },
}

interface Numbers {
  u16(at: number): number
  u32(at: number): number
}

/** A tag with its values, and where they end if they are stored elsewhere; null where it is invalid. */
function tagAt(reader: Reader, read: Numbers, at: number): { tag: number; values: number[]; end: number } | null {
  const [tag, type, count] = [read.u16(at), read.u16(at + 2), read.u32(at + 4)]
  const width = WIDTHS[type] ?? 0
  if (width === 0 || count * width > 2 ** 31) return null
  const bytes = count * width
  const from = bytes <= 4 ? at + 8 : read.u32(at + 8)
  const values: number[] = []
  if ((type === 3 || type === 4 || type === 13) && count <= MAX_VALUES && reader.has(from, bytes))
    for (let index = 0; index < count; index++)
      values.push(type === 3 ? read.u16(from + index * 2) : read.u32(from + index * 4))
  return { tag, values, end: bytes <= 4 ? 0 : from + bytes }
}
