import { recordMade, recordTitle, typeOfRecord, type AppRecord } from '../../core/records/record'
import { kindOfName } from '../../core/files/kinds'
import type { DemoTimes } from '../shop/times'
import { item, recordBytes, type Contents, type StoredItem } from '../helper/things'
import { chances } from './chance'
import { appName, databaseOf, type AppKind } from './databases'
import { picture } from './picture'
import { sound } from './sound'

/** What the makers of stand-ins need. */
export interface Making {
  readonly time: DemoTimes
  readonly contents: Contents
  /** one of a few short clips, by number */
  readonly clip: (number: number) => Uint8Array
}

interface Span {
  /** days from today */
  readonly from: number
  readonly to: number
}

interface Series extends Span {
  readonly seed: number
  readonly count: number
  readonly camera: string
  readonly place?: string[]
  readonly name?: string
}

const iso = (ms: number) => new Date(ms).toISOString()

/** Moments spread over the days of a span, by daylight. */
function moments(making: Making, { seed, count, from, to }: Span & { seed: number; count: number }): number[] {
  const chance = chances(seed)
  const days = Math.max(1, to - from + 1)
  return Array.from({ length: count }, (_, at) =>
    making.time.at(from + Math.floor((at * days) / count), 8 + Math.floor(chance() * 9), Math.floor(chance() * 60)),
  ).sort((one, other) => one - other)
}

/** A series of pictures, made over some days. */
export function pictures(making: Making, series: Series): Promise<StoredItem[]> {
  const times = moments(making, series)
  return Promise.all(
    times.map(async (made, at) => {
      const bytes = await picture(series.seed * 1000 + at, new Date(made), series.camera)
      const number = String(series.seed * 100 + at).padStart(4, '0')
      return item({
        id: `p${series.seed}-${at}`,
        name: `${series.name ?? 'IMG'}_${number}.jpg`,
        place: series.place ?? ['Camera'],
        type: 'photos',
        mime: 'image/jpeg',
        bytes: bytes.length,
        made: iso(made),
        content: making.contents.put(bytes),
      })
    }),
  )
}

/** The same picture, breaking off in the middle. */
export function brokenOff(making: Making, one: StoredItem): StoredItem {
  const bytes = making.contents.get(one.content!)
  const part = bytes.slice(0, Math.floor(bytes.length * 0.6))
  return { ...one, bytes: part.length, content: making.contents.put(part), whole: 'partial' }
}

/** Short clips, each a file of its own. */
export function clips(making: Making, series: Series): StoredItem[] {
  return moments(making, series).map((made, at) => {
    const clip = making.clip(at)
    // A free box at the end (ISO/IEC 14496-12, 8.1.2) makes each a file of its own.
    const mark = new TextEncoder().encode(`____free${series.seed}.${at}`)
    new DataView(mark.buffer).setUint32(0, mark.length)
    const bytes = new Uint8Array([...clip, ...mark])
    return item({
      id: `v${series.seed}-${at}`,
      name: `${series.name ?? 'CLIP'}_${String(series.seed * 100 + at).padStart(4, '0')}.mp4`,
      place: series.place ?? ['Camera'],
      type: 'videos',
      mime: 'video/mp4',
      bytes: bytes.length,
      made: iso(made),
      content: making.contents.put(bytes),
    })
  })
}

/** Sound recordings. */
export function sounds(making: Making, series: Omit<Series, 'camera'>): StoredItem[] {
  return moments(making, series).map((made, at) => {
    const bytes = sound(series.seed * 1000 + at)
    return item({
      id: `a${series.seed}-${at}`,
      name: `${series.name ?? 'REC'}_${String(series.seed * 100 + at).padStart(4, '0')}.wav`,
      place: series.place ?? ['Recordings'],
      type: 'audio',
      mime: 'audio/wav',
      bytes: bytes.length,
      made: iso(made),
      content: making.contents.put(bytes),
    })
  })
}

/** A file with these bytes; its type follows from its name. */
export function file(
  making: Making,
  id: string,
  path: string,
  bytes: Uint8Array | string,
  facts: Partial<StoredItem> = {},
): StoredItem {
  const content = typeof bytes === 'string' ? new TextEncoder().encode(bytes) : bytes
  const parts = path.split('/')
  const { type, mime } = kindOfName(path)
  return item({
    id,
    name: parts.at(-1)!,
    place: parts.slice(0, -1),
    type,
    mime,
    bytes: content.length,
    content: making.contents.put(content),
    ...facts,
  })
}

/** Records as items of a list of their own. */
export function recordItems(prefix: string, records: readonly AppRecord[], place: string[] = []): StoredItem[] {
  return records.map((record, at) =>
    item({
      id: `${prefix}${at}`,
      name: recordTitle(record),
      place,
      type: typeOfRecord(record.kind),
      mime: 'application/json',
      bytes: recordBytes(record).length,
      made: recordMade(record),
      record,
    }),
  )
}

/** An app's database as one item. */
export function database(
  making: Making,
  kind: AppKind,
  live: readonly AppRecord[],
  deleted: readonly AppRecord[] = [],
): StoredItem {
  const bytes = databaseOf(kind, live, deleted)
  return item({
    id: `${kind}s`,
    name: `${kind}s.sqlite`,
    place: [appName(kind)],
    type: typeOfRecord(kind),
    mime: 'application/vnd.sqlite3',
    bytes: bytes.length,
    opensAs: 'rows',
    content: making.contents.put(bytes),
  })
}

/** Items in a bin, deleted so many days ago. */
export function binned(items: readonly StoredItem[], deletedAt: number): StoredItem[] {
  return items.map((one) => ({ ...one, deleted: iso(deletedAt), presence: 'deleted' as const }))
}
