import { FORMATS, formatOfName } from '../formats/registry'
import { findVolumes, type Volume } from '../partitions/volumes'
import type { PatientSource } from '../patient-source'
import type { ScanItem, ScanWarning } from '../scan-report'
import { HOLE, piecesSource, type ByteSource } from '../source'
import { deepScan, mend } from './deep'
import type { MediaItem } from './item'
import { merged, withoutContradictions } from './merge'
import { judge, readRecords, readTraces } from './quick'

export interface ScanOptions {
  readonly pass: 'quick' | 'deep' | 'both'
  /** ids of formats; all where it is null */
  readonly formats: ReadonlySet<string> | null
  readonly only: 'deleted' | 'all'
  /** look for content also where something is in use */
  readonly isWhole: boolean
}

export interface ScanProgress {
  readonly pass: 'quick' | 'deep'
  /** bytes of the image that were looked at, or items that were judged */
  readonly done: number
  readonly of: number
  readonly found: number
}

export interface ScanOutcome {
  readonly volumes: readonly Volume[]
  readonly items: readonly MediaItem[]
  readonly warnings: readonly ScanWarning[]
}

/** Both passes over an image; tells how far it is after each step, so that whoever drives it can show it or stop. */
export function* scanImage(image: PatientSource, options: ScanOptions): Generator<ScanProgress, ScanOutcome> {
  const { volumes, warnings } = findVolumes(image)
  const quick: MediaItem[] = []
  if (options.pass !== 'deep')
    for (const volume of volumes)
      for (const step of quickPass(image, volume)) {
        quick.push(...step.items)
        yield { pass: 'quick', done: step.done, of: step.of, found: quick.length }
      }
  let deep: MediaItem[] = []
  if (options.pass !== 'quick') {
    const traces: number[] = []
    for (const step of deepScan(image, volumes, options)) {
      deep.push(...step.items)
      traces.push(...step.traces)
      yield { pass: 'deep', done: step.at, of: image.size, found: deep.length }
    }
    image.retry()
    if (options.pass === 'both') quick.push(...fromTraces(image, volumes, traces, quick))
    // The records say of more places that they are taken by something whole.
    const replaced = new Map<MediaItem, MediaItem | null>()
    for (const { broken, mended, isKept } of mend(image, volumes, [...provenOf(quick), ...deep], options)) {
      if (mended) replaced.set(broken, mended)
      else if (!isKept) replaced.set(broken, null)
      yield { pass: 'deep', done: image.size, of: image.size, found: deep.length }
    }
    const joined = [...replaced.values()].flatMap((item) => (item ? item.extents.slice(1) : []))
    const isRest = ({ record, extents: [first] }: MediaItem) =>
      record === 'none' && joined.some(([offset, length]) => first![0] >= offset && first![0] < offset + length)
    deep = deep
      .filter((item) => replaced.has(item) || !isRest(item))
      .flatMap((item) => (replaced.has(item) ? (replaced.get(item) ?? []) : item))
  }
  const all = merged(quick, deep)
  withoutContradictions(all)
  const items = all.filter((item) => isWanted(item, options))
  const told = volumes.flatMap(({ shape, fileSystem }) =>
    (fileSystem?.warnings ?? []).map((one) => ({
      ...one,
      where: volumes.length > 1 ? `volume ${shape.index}, ${one.where}` : one.where,
    })),
  )
  const bad = image.unreadable().slice(0, 1000)
  const unreadable = bad.map(([offset, length]) => ({
    where: `byte ${offset}`,
    what: `${length} bytes can not be read`,
  }))
  return { volumes, items, warnings: [...warnings, ...told, ...unreadable] }
}

/** Files of an earlier file system whose content agrees with their names, or whose place was never given away since. */
function fromTraces(
  image: ByteSource,
  volumes: readonly Volume[],
  places: readonly number[],
  known: readonly MediaItem[],
): MediaItem[] {
  const told = new Set(known.map((item) => `${item.extents[0]?.[0]} ${item.bytes}`))
  return volumes.flatMap((volume) => {
    const { shape, fileSystem } = volume
    const own = places.filter((place) => place >= shape.offset && place < shape.offset + shape.bytes)
    if (!fileSystem || own.length === 0) return []
    const { claims, isComplete, latest } = readTraces(fileSystem, own)
    return claims
      .map((claim) => judge(image, volume, claim, isComplete, latest))
      .filter((item) => item.content !== 'overwritten' && (item.mime !== null || item.content !== 'partial'))
      .filter((item) => !told.has(`${item.extents[0]?.[0]} ${item.bytes}`))
      .map((item): MediaItem => ({ ...item, foundBy: ['deep'] }))
  })
}

const provenOf = (items: readonly MediaItem[]) =>
  items.filter(({ record, content, source }) => record === 'deleted' && content === 'intact' && source === null)

const STEP_ITEMS = 200

/** The quick pass over one volume, in steps of some items. */
export function* quickPass(
  image: ByteSource,
  volume: Volume,
): Generator<{ items: MediaItem[]; done: number; of: number }> {
  if (!volume.fileSystem) return
  const { claims, isComplete, latest } = readRecords(volume.fileSystem)
  for (let at = 0; at < claims.length; at += STEP_ITEMS) {
    const step = claims.slice(at, at + STEP_ITEMS)
    const items = step.map((claim) => judge(image, volume, claim, isComplete, latest))
    yield { items, done: Math.min(claims.length, at + STEP_ITEMS), of: claims.length }
  }
}

function isWanted(item: MediaItem, { only, formats }: ScanOptions): boolean {
  if (only === 'deleted' && item.record === 'present') return false
  if (formats === null) return true
  const own = formatOfName(`x.${item.extension}`) ?? (item.path ? formatOfName(item.path) : null)
  return own !== null && formats.has(own.id)
}

/** The ids of formats for words that people use for them (ids and extensions), and the words that are none. */
export function formatsNamed(words: readonly string[]): { formats: Set<string>; unknown: string[] } {
  const formats = new Set<string>()
  const unknown: string[] = []
  for (const word of words) {
    const own = FORMATS.find(({ id }) => id === word.toLowerCase()) ?? formatOfName(`x.${word}`)
    if (own) formats.add(own.id)
    else unknown.push(word)
  }
  return { formats, unknown }
}

/** The content of an item, to be read. */
export function contentOf(image: ByteSource, item: MediaItem): ByteSource {
  return item.source ?? piecesSource(image, item.extents)
}

/** To be asked once all of an item was read: whether the medium gave all of it. What it did not give is not whole. */
export function markUnreadable(image: PatientSource, item: MediaItem): void {
  const isRead = item.extents.every(([offset, length]) => offset === HOLE || image.isReadable(offset, length))
  if (isRead || item.content === 'overwritten') return
  item.content = 'partial'
  item.checks.push('some of its place on the medium can not be read')
}

/** An item as the report tells it. */
export function reported(item: MediaItem, id: string, sha256: string | null): ScanItem {
  const { volume, path, mime, bytes, foundBy, record, content, modified, deleted, checks } = item
  const extents = item.extents
    .filter(([offset, length]) => offset !== HOLE && length > 0)
    .map(([offset, length]): [number, number] => [offset, length])
  return { id, volume, path, mime, bytes, foundBy, record, content, modified, deleted, extents, sha256, checks }
}
