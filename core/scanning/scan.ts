import { FORMATS, formatOfName } from '../files/formats/registry'
import { findVolumes, furtherVolumes, type Volume } from '../volumes/volumes'
import { keptSource } from '../sources/kept-source'
import type { PatientSource } from '../sources/patient-source'
import type { ScanItem } from './scan-report'
import type { ScanWarning } from '../volumes/filesystems/volume-shape'
import { aheadSource, HOLE, piecesSource, type ByteSource, type Extent } from '../sources/source'
import { areasOf } from './areas'
import { contentAt, deepScan } from './deep'
import type { Helpers } from './helpers'
import { knownProofs } from './known-proofs'
import { mend } from './mend'
import type { MediaItem } from './item'
import { merged, namedByLength, Records, withoutContradictions } from './merge'
import { askAbout, judge, readRecords, readTraces, unclaimedOf, type Claim } from './quick'

export interface ScanOptions {
  readonly pass: 'quick' | 'deep' | 'both'
  /** ids of formats; all where it is null */
  readonly formats: ReadonlySet<string> | null
  readonly only: 'deleted' | 'all'
  /** report records of all formats, and select only among content */
  readonly keepsRecords?: boolean
  /** scan for content also where something is in use */
  readonly isWhole: boolean
  /** the state in which an earlier part of the same scan ended */
  readonly resume?: ScanResume
  /** others that follow files beside it */
  readonly helpers?: Helpers
  /** its volumes, where they were looked for already */
  readonly volumes?: ReturnType<typeof findVolumes>
}

/** Progress of a deep scan that cannot be derived again. */
export interface ScanResume {
  /** everything before this offset of the image has been scanned, in bytes */
  readonly at: number
  readonly items: readonly MediaItem[]
  readonly traces: readonly number[]
}

export interface ScanProgress {
  readonly pass: 'quick' | 'deep' | 'join'
  /** records judged, bytes scanned, or broken files tried */
  readonly done: number
  readonly of: number
  readonly found: number
  /** where the image is being read, in bytes; null where it jumps */
  readonly at: number | null
  /** items found in this step, and records whose content is now known better */
  readonly items: readonly MediaItem[]
  /** what a later part of the same scan would need of this step */
  readonly content: readonly MediaItem[]
  readonly traces: readonly number[]
}

export interface ScanOutcome {
  readonly volumes: readonly Volume[]
  readonly items: readonly MediaItem[]
  readonly warnings: readonly ScanWarning[]
}

/** Both passes over an image; yields its progress after each step, so that the caller can show it or stop. */
export function* scanImage(image: PatientSource, options: ScanOptions): Generator<ScanProgress, ScanOutcome> {
  const { volumes: found, warnings } = options.volumes ?? findVolumes(image)
  const nothing = { at: null, items: [], content: [], traces: [] }
  const isTold = (item: MediaItem) => isWanted(item, options)
  const quick: MediaItem[] = []
  const claims = new Map<Volume, readonly Claim[]>()
  if (options.pass !== 'deep')
    for (const volume of found) {
      const steps = quickPass(image, volume, options.helpers)
      let step = steps.next()
      for (; !step.done; step = steps.next()) {
        const { done, of, items } = step.value
        quick.push(...items)
        yield { ...nothing, pass: 'quick', done, of, found: quick.length, items: items.filter(isTold) }
      }
      claims.set(volume, step.value)
    }
  // Known once the records were read: a deep scan alone reads them for it.
  let volumes = options.pass === 'quick' ? found : found.map((one) => withUnclaimed(one, claims.get(one)))
  let deep: MediaItem[] = [...(options.resume?.items ?? [])]
  const untried: MediaItem[] = []
  if (options.pass !== 'quick') {
    const traces: number[] = [...(options.resume?.traces ?? [])]
    const records = new Records(quick)
    for (const item of deep) records.take(item)
    const reckoned = reckon(areasOf(image, volumes, options.isWhole))
    for (const step of deepScan(image, volumes, {
      ...options,
      from: options.resume?.at ?? 0,
      found: options.resume?.items ?? [],
    })) {
      const { at, items: content } = step
      deep.push(...content)
      traces.push(...step.traces)
      const items = content.map((item) => records.take(item) ?? item).filter(isTold)
      const [done, of] = reckoned(at)
      yield { pass: 'deep', done, of, found: quick.length + deep.length, at, items, content, traces: step.traces }
    }
    lookAgain(image, { volumes, quick, deep, options }, image.retry())
    if (options.pass === 'both') {
      const known = knownProofs(deep, options.helpers)
      const further = furtherVolumes(image, volumes, traces)
      for (const volume of further)
        for (const { items, done, of } of quickPass(image, volume, known)) {
          quick.push(...items)
          yield { ...nothing, pass: 'quick', done, of, found: quick.length + deep.length, items: items.filter(isTold) }
        }
      volumes = [...volumes, ...further]
      quick.push(...fromTraces(image, { volumes, places: traces, helpers: known }, quick))
    }
    // The records show that more places belong to something whole.
    const replaced = new Map<MediaItem, MediaItem | null>()
    const broken = deep.filter(({ content }) => content === 'partial').length
    let tried = 0
    // Joining tries the same places for each cut; a slow medium is not read for each of them.
    for (const step of mend(keptSource(image, JOIN_CACHE_BYTES), volumes, [...provenOf(quick), ...deep], {
      ...options,
      traces,
      claimed: claimedBy(quick),
    })) {
      if (step?.mended) replaced.set(step.broken, step.mended)
      else if (step && !step.isKept) replaced.set(step.broken, null)
      if (step?.isUntried) untried.push(step.broken)
      // A file that merely parses may be joined anew, like a broken one, and most are tried again after all others.
      const of = Math.max(2 * broken, ++tried)
      yield { ...nothing, pass: 'join', done: tried, of, found: quick.length + deep.length }
    }
    for (const item of untried) item.checks.push(NOT_ALL_TRIED)
    const joined = [...replaced.values()].flatMap((item) =>
      item
        ? item.extents.map(([offset, length], index) => {
            const { content } = item
            return { offset, end: offset + length, content, isFirst: index === 0 }
          })
        : [],
    )
    // What begins inside a fragment was no file, unless it is better proved than the whole.
    const isRest = ({ record, content, mime, extents: [first] }: MediaItem) =>
      record === 'none' &&
      joined.some(
        (piece) =>
          first![0] >= piece.offset + Number(piece.isFirst) &&
          first![0] < piece.end &&
          (piece.content === 'intact' || content === 'partial' || mime === 'text/plain'),
      )
    deep = deep
      .filter((item) => replaced.has(item) || !isRest(item))
      .flatMap((item) => (replaced.has(item) ? (replaced.get(item) ?? []) : item))
  }
  const both = namedByLength(merged(quick, deep))
  withoutContradictions(both)
  const items = both.filter((item) => isWanted(item, options))
  const told = volumes.flatMap(({ shape, fileSystem }) =>
    (fileSystem?.warnings ?? []).map((one) => ({
      ...one,
      where: volumes.length > 1 ? `volume ${shape.index}, ${one.where}` : one.where,
    })),
  )
  const bad = image.unreadable().slice(0, 1000)
  const unreadable = bad.map(([offset, length]) => ({
    where: `byte ${offset}`,
    what: `${length} bytes cannot be read`,
  }))
  const joining = untried.length === 0 ? [] : [{ where: 'joining', what: notAllTried(untried.length) }]
  // Records that are read twice warn twice.
  const all = new Map(
    [...warnings, ...told, ...unreadable, ...joining].map((one) => [`${one.where}: ${one.what}`, one]),
  )
  return { volumes, items, warnings: [...all.values()] }
}

function withUnclaimed(volume: Volume, claims?: readonly Claim[]): Volume {
  const { fileSystem } = volume
  if (!fileSystem) return volume
  return { ...volume, unclaimed: unclaimedOf(fileSystem, claims ?? readRecords(fileSystem).claims) }
}

/** Judges again what is in places that failed at first and were read when tried again. */
function lookAgain(
  image: PatientSource,
  {
    volumes,
    quick,
    deep,
    options,
  }: { volumes: readonly Volume[]; quick: MediaItem[]; deep: MediaItem[]; options: ScanOptions },
  came: readonly Extent[],
): void {
  if (came.length === 0) return
  const isTouched = ({ extents }: MediaItem) =>
    extents.some(([from, length]) => came.some(([at, bytes]) => at < from + length && at + bytes > from))
  const placeOf = new Map(quick.map((item, at) => [item.key, at]))
  for (const volume of volumes.filter(({ shape }) => options.pass !== 'deep' && came.some(([at]) => isOn(shape, at))))
    for (const { items } of quickPass(image, volume))
      for (const item of items.filter(isTouched)) quick[placeOf.get(item.key) ?? quick.length] = item
  const isInside = (at: number) =>
    deep.some(({ content, extents: [first] }) => content !== 'partial' && at > first![0] && at < first![0] + first![1])
  const broken = deep
    .filter((item) => item.content === 'partial' && isTouched(item))
    .map(({ extents }) => extents[0]![0])
  const begins = came.map(([at]) => at).filter((at) => !isInside(at))
  for (const item of contentAt(image, volumes, options, [...new Set([...broken, ...begins])])) {
    const known = deep.findIndex(({ key }) => key === item.key)
    if (known < 0) deep.push(item)
    else deep[known] = item
  }
}

const isOn = ({ offset, bytes }: Volume['shape'], at: number) => at >= offset && at < offset + bytes

/** How many bytes of sorted areas are before an offset, and how many there are in all. */
function reckon(areas: readonly Extent[]): (at: number) => [done: number, of: number] {
  const of = areas.reduce((sum, [, length]) => sum + length, 0)
  let [area, before] = [0, 0]
  return (at) => {
    while (area < areas.length && areas[area]![0] + areas[area]![1] <= at) before += areas[area++]![1]
    const here = areas[area]
    return [before + (here && here[0] < at ? at - here[0] : 0), of]
  }
}

/** Files of an earlier file system whose content agrees with their names, or whose place was never reused. */
function fromTraces(
  image: ByteSource,
  { volumes, places, helpers }: { volumes: readonly Volume[]; places: readonly number[]; helpers: Helpers },
  known: readonly MediaItem[],
): MediaItem[] {
  const told = new Set(known.map((item) => `${item.extents[0]?.[0]} ${item.bytes}`))
  return volumes.flatMap((volume) => {
    const { shape, fileSystem } = volume
    const own = places.filter((place) => place >= shape.offset && place < shape.offset + shape.bytes)
    if (!fileSystem || own.length === 0) return []
    const { claims, ...by } = readTraces(fileSystem, own)
    return claims
      .map((claim, at) => judge(image, { volume, helpers, ...by }, claim, `t${shape.index}-${at}`))
      .filter((item) => item.content !== 'overwritten' && (item.mime !== null || item.content !== 'partial'))
      .filter((item) => !told.has(`${item.extents[0]?.[0]} ${item.bytes}`))
      .map((item): MediaItem => ({ ...item, foundBy: ['deep'] }))
  })
}

const provenOf = (items: readonly MediaItem[]) =>
  items.filter(({ record, content, source }) => record === 'deleted' && content === 'intact' && source === null)

/** Extents that deleted files claim, as far as nothing is known about them yet. */
const claimedBy = (items: readonly MediaItem[]) =>
  items
    .filter(({ record, content, source }) => record === 'deleted' && content === 'unverified' && source === null)
    .flatMap(({ extents }) => extents.filter(([offset]) => offset !== HOLE))

const NOT_ALL_TRIED = 'not every place was searched for the rest of it'
const notAllTried = (files: number) =>
  `${files === 1 ? '1 broken file was' : `${files} broken files were`} not tried at every place; the search has a limit`

/** What joining keeps of the medium in memory, in bytes. */
const JOIN_CACHE_BYTES = 64 << 20

const STEP_ITEMS = 200

/** The quick pass over one volume, in steps of some items; returns the claims of its records. */
export function* quickPass(
  image: ByteSource,
  volume: Volume,
  helpers?: Helpers,
): Generator<{ items: MediaItem[]; done: number; of: number }, readonly Claim[]> {
  if (!volume.fileSystem) return []
  const { claims, ...told } = readRecords(volume.fileSystem)
  const near = aheadSource(image)
  for (let at = 0; at < claims.length; at += STEP_ITEMS) {
    const step = claims.slice(at, at + STEP_ITEMS)
    if (helpers) for (const claim of step) askAbout(helpers, near, { volume, ...told }, claim)
    const items = step.map((claim, index) =>
      judge(near, { volume, helpers, ...told }, claim, `r${volume.shape.index}-${at + index}`),
    )
    yield { items, done: Math.min(claims.length, at + STEP_ITEMS), of: claims.length }
  }
  return claims
}

function isWanted(item: MediaItem, { only, formats, keepsRecords }: ScanOptions): boolean {
  if (only === 'deleted' && item.record === 'present') return false
  if (formats === null || (keepsRecords && item.record !== 'none')) return true
  const own = formatOfName(`x.${item.extension}`) ?? (item.path ? formatOfName(item.path) : null)
  return own !== null && formats.has(own.id)
}

/** The ids of formats for what people type (ids and extensions), and the words that are neither. */
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

/** Called once all of an item was read: marks it as not whole where the medium did not give all of it. */
export function markUnreadable(image: PatientSource, item: MediaItem): void {
  const isRead = item.extents.every(([offset, length]) => offset === HOLE || image.isReadable(offset, length))
  if (isRead || item.content === 'overwritten' || item.checks.includes(NOT_ALL_READ)) return
  item.content = 'partial'
  item.checks.push(NOT_ALL_READ)
}

const NOT_ALL_READ = 'some of its sectors cannot be read'

/** Converts an item to its entry in the JSON report. */
export function reported(item: MediaItem, id: string, sha256: string | null): ScanItem {
  const { volume, path, mime, bytes, foundBy, record, content, modified, deleted, checks } = item
  const extents = item.extents
    .filter(([offset, length]) => offset !== HOLE && length > 0)
    .map(([offset, length]): [number, number] => [offset, length])
  return { id, volume, path, mime, bytes, foundBy, record, content, modified, deleted, extents, sha256, checks }
}
