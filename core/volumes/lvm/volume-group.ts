import { z } from 'zod'
import { crc32 } from '../../sources/checksums'
import { Reader } from '../../sources/reader'
import type { ByteSource, Extent } from '../../sources/source'
import { readSettings } from './settings-text'

/** A logical volume, with the pieces in which it lies on this member, in order, in bytes of the image. */
export interface LogicalVolume {
  readonly name: string
  /** null where part of it lies elsewhere, or is not simply one piece after the other */
  readonly pieces: readonly Extent[] | null
}

export interface VolumeGroup {
  readonly name: string
  readonly volumes: readonly LogicalVolume[]
}

const SECTOR_BYTES = 512
const AREA_MAGIC = ' LVM2 x[5A%r0N*>'
const MAX_TEXT_BYTES = 1024 * 1024
const MAX_AREAS = 16
const MAX_VOLUMES = 256
/** The checksum of a text begins with this instead of ones. */
const CHECKSUM_BEGIN = 0xf597a6cf

const count = z.int().min(0)
const Segment = z.object({
  start_extent: count,
  extent_count: count,
  type: z.string(),
  stripe_count: count.optional(),
  stripes: z.array(z.union([z.string(), count])).optional(),
})
const Group = z.object({
  extent_size: count,
  physical_volumes: z.record(z.string(), z.object({ id: z.string(), pe_start: count, pe_count: count })),
  logical_volumes: z.record(z.string(), z.record(z.string(), z.unknown())).optional(),
})
type Group = z.infer<typeof Group>

/**
 * The logical volumes of the volume group (LVM2) of which a place of an image is a member; null where nothing about them can be
 * read. Offsets and lengths in bytes. Source: the format as its tools write it: a label in one of the first four sectors, metadata
 * areas with a text that bears a checksum.
 */
export function readVolumeGroup(image: ByteSource, [at, length]: Extent): VolumeGroup | null {
  const reader = new Reader(image)
  const label = [0, 1, 2, 3].map((sector) => at + sector * SECTOR_BYTES).find((place) => reader.is(place, 'LABELONE'))
  if (label === undefined || !reader.is(label + 24, 'LVM2 001')) return null
  const header = label + reader.u32le(label + 20)
  const id = reader.text(header, 32)
  for (const area of metadataAreas(reader, header)) {
    const text = textIn(reader, at + area)
    const settings = text === null ? null : readSettings(text)
    const [name, section] = Object.entries(settings ?? {}).find(([, one]) => typeof one === 'object') ?? []
    const group = Group.safeParse(section)
    if (name !== undefined && group.success) return { name, volumes: volumesOf(group.data, id, [at, length]) }
  }
  return null
}

/** Where the metadata areas begin, from the start of the member: behind the list of data areas. */
function metadataAreas(reader: Reader, header: number): number[] {
  let place = header + 40
  const list = (): number[] => {
    const offsets: number[] = []
    for (; offsets.length < MAX_AREAS && reader.u64le(place) > 0; place += 16) offsets.push(reader.u64le(place))
    place += 16
    return offsets
  }
  list()
  return list()
}

/** The text of a metadata area, which goes round at the end of its area; null where it does not fit its checksum. */
function textIn(reader: Reader, area: number): string | null {
  if (!reader.is(area + 4, AREA_MAGIC)) return null
  const [size, from, bytes] = [reader.u64le(area + 32), reader.u64le(area + 40), reader.u64le(area + 48)]
  if (bytes === 0 || bytes > MAX_TEXT_BYTES || from < SECTOR_BYTES || from >= size) return null
  const first = Math.min(bytes, size - from)
  const text = new Uint8Array(bytes)
  text.set(reader.source.read(area + from, first))
  text.set(reader.source.read(area + SECTOR_BYTES, bytes - first), first)
  if (~crc32(text, ~CHECKSUM_BEGIN >>> 0) >>> 0 !== reader.u32le(area + 56)) return null
  return new TextDecoder().decode(text).split('\0')[0]!
}

function volumesOf({ extent_size, physical_volumes, logical_volumes = {} }: Group, id: string, [at, length]: Extent) {
  const own = Object.entries(physical_volumes).find(([, one]) => one.id.replaceAll('-', '') === id)
  if (!own) return []
  const [name, { pe_start }] = own
  const bytes = extent_size * SECTOR_BYTES
  return Object.entries(logical_volumes)
    .slice(0, MAX_VOLUMES)
    .map(([volume, section]): LogicalVolume => {
      const segments = Object.entries(section)
        .filter(([key]) => /^segment\d+$/.test(key))
        .map(([, one]) => Segment.safeParse(one).data)
        .sort((one, other) => (one?.start_extent ?? 0) - (other?.start_extent ?? 0))
      const pieces: [number, number][] = []
      let next = 0
      for (const segment of segments) {
        const [member, first] = segment?.stripes ?? []
        const isSimple = segment?.type === 'striped' && segment.stripe_count === 1 && segment.stripes?.length === 2
        if (!isSimple || member !== name || typeof first !== 'number' || segment.start_extent !== next)
          return { name: volume, pieces: null }
        const offset = at + pe_start * SECTOR_BYTES + first * bytes
        const last = pieces.at(-1)
        if (last && last[0] + last[1] === offset) last[1] += segment.extent_count * bytes
        else pieces.push([offset, segment.extent_count * bytes])
        next += segment.extent_count
      }
      const isHere = pieces.length > 0 && pieces.every(([offset, long]) => long > 0 && offset < at + length)
      return { name: volume, pieces: isHere ? pieces : null }
    })
}
