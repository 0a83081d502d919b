import { extensionOf, kindOfName } from '../files/kinds'
import { lengthOf, type FileRecord, type FileSystem } from '../volumes/filesystems/file-system'
import { UnitMap } from '../volumes/filesystems/unit-map'
import type { Volume } from '../volumes/volumes'
import type { Wholeness } from '../files/wholeness'
import { HOLE, piecesSource, type ByteSource, type Extent } from '../sources/source'
import { answered, MIN_ASKED_BYTES, type Helpers } from './helpers'
import { NOT_ITS_NAME, type MediaItem } from './item'
import { prove, type Proof } from './prove'

/** A record with what other records claim of its extents. */
export interface Claim {
  readonly record: FileRecord
  /** units of its extents that are in use now, of how many */
  readonly unitsInUse: number
  readonly units: number
  /** another file with the same claim has some of the same units */
  readonly isContested: boolean
}

/** All records of a volume, with what they claim of each other's extents. No content is read. */
export function readRecords(fileSystem: FileSystem): Records {
  const { claims, latest } = claimsOf(fileSystem, [...fileSystem.files()])
  return { claims, latest, isComplete: fileSystem.hasEveryRecord(), isSomeLost: fileSystem.hasLostRecords() }
}

export interface Records {
  readonly claims: readonly Claim[]
  readonly isComplete: boolean
  /** whether records are missing that an undamaged volume would have */
  readonly isSomeLost: boolean
  /** when something on the volume was last created or changed, by its records */
  readonly latest: string
}

/** The files that traces of an earlier file system describe; they are never known to be complete. */
export function readTraces(fileSystem: FileSystem, places: readonly number[]): Records {
  return { ...claimsOf(fileSystem, [...fileSystem.traces.files(places)]), isComplete: false, isSomeLost: true }
}

function claimsOf(fileSystem: FileSystem, records: readonly FileRecord[]): { claims: Claim[]; latest: string } {
  const { allocated } = fileSystem
  // Present files come first: where a deleted file shares units with one, it is the deleted file that lost them.
  const claimed = { present: twoMaps(allocated.count), deleted: twoMaps(allocated.count) }
  for (const record of records)
    for (const [first, count] of claimedRuns(fileSystem, record)) {
      const { once, twice } = claimed[record.record]
      once.addRun(first, count, twice)
    }
  let latest = ''
  const claims = records.map((record): Claim => {
    for (const time of [record.created, record.modified]) if (time && time > latest) latest = time
    let [units, unitsInUse, isContested] = [0, 0, false]
    for (const [first, count] of claimedRuns(fileSystem, record)) {
      units += count
      // A damaged allocation map does not free what a present file claims.
      if (record.record === 'deleted') unitsInUse += allocated.countOfRun(first, count, claimed.present.once)
      isContested ||= claimed[record.record].twice.hasAnyOf(first, count)
    }
    return { record, units, unitsInUse, isContested }
  })
  return { claims, latest }
}

/**
 * What a volume's map calls in use and no record that can be read claims, in bytes of the image; nothing where no record is missing,
 * since then it holds the records themselves.
 */
export function unclaimedOf(fileSystem: FileSystem, claims: readonly Claim[]): Extent[] {
  if (fileSystem.warnings.length === 0 && !fileSystem.hasLostRecords()) return []
  const { allocated, unitBytes, unitsFrom } = fileSystem
  const known = new UnitMap(allocated.count)
  const unused = new UnitMap(allocated.count)
  for (const [first, count] of allocated.gaps()) known.addRun(first, count, unused)
  for (const { record } of claims)
    if (record.record === 'present')
      for (const [first, count] of claimedRuns(fileSystem, record)) known.addRun(first, count, unused)
  return Array.from(known.gaps(), ([first, count]): Extent => [unitsFrom + first * unitBytes, count * unitBytes])
}

const twoMaps = (count: number) => ({ once: new UnitMap(count), twice: new UnitMap(count) })

type Run = readonly [first: number, count: number]

function claimedRuns(fileSystem: FileSystem, { content, extents }: FileRecord): Iterable<Run> {
  return isKeptInRecord(content, extents, fileSystem.unitBytes) ? [] : runsOf(fileSystem, extents)
}

/** the units that ranges of the image touch */
function* runsOf({ unitBytes, unitsFrom }: FileSystem, extents: readonly Extent[]): Iterable<Run> {
  for (const [offset, length] of extents) {
    if (offset === HOLE || length === 0) continue
    const first = Math.floor((offset - unitsFrom) / unitBytes)
    const last = Math.floor((offset + length - 1 - unitsFrom) / unitBytes)
    yield [first, last - first + 1]
  }
}

/** Resident content is where its record is, and is as whole as that. */
const isKeptInRecord = (content: ByteSource | null, extents: readonly Extent[], unitBytes: number) =>
  content !== null &&
  (extents.length === 0 || (extents.length === 1 && content.size === extents[0]![1] && content.size < unitBytes))

/** What the records alone say about the content, before its structure is checked. */
function saidByRecords(
  { record, units, unitsInUse, isContested }: Claim,
  { isComplete, isSomeLost, latest }: JudgedBy,
  beyond: number,
): { content: Wholeness; why: string } {
  const isKept = record.content !== null && units === 0
  const told = lengthOf(record.extents)
  // A damaged record is checked for its damage first: its size may be part of that.
  if (record.fault) return { content: told > 0 || isKept ? 'partial' : 'overwritten', why: record.fault }
  if (record.bytes === 0) return emptySaid(record)
  if (!isKept && told === 0) return { content: 'overwritten', why: 'location is no longer recorded' }
  if (beyond > 0)
    return {
      content: beyond >= told ? 'overwritten' : 'partial',
      why: `${beyond} of ${record.bytes} bytes are beyond the end of the image`,
    }
  if (record.content === null && told !== record.bytes)
    return { content: 'partial', why: `the record locates ${told} of ${record.bytes} bytes` }
  if (record.record === 'present')
    return isContested
      ? { content: 'unverified', why: 'another existing file claims some of the same clusters' }
      : record.isChainRecorded
        ? { content: 'intact', why: 'the record gives its complete location' }
        : {
            content: 'unverified',
            why: 'the cluster chain does not match the file size or the other copy of the table',
          }
  if (isKept) return { content: 'intact', why: 'stored resident in its record' }
  if (unitsInUse > 0)
    return unitsInUse === units
      ? { content: 'overwritten', why: 'all of its clusters have been reallocated' }
      : { content: 'partial', why: `${unitsInUse} of ${units} clusters have been reallocated` }
  if (!record.isChainRecorded)
    return { content: 'unverified', why: 'the cluster chain was cleared; contiguous layout assumed' }
  if (isContested) return { content: 'unverified', why: 'another deleted file claims some of the same clusters' }
  // Data written since without a record could be there, unless nothing was written, or every record can still be seen.
  const isQuietSince = record.deleted !== null && latest <= record.deleted && !isSomeLost
  return isComplete || isQuietSince
    ? {
        content: 'intact',
        why: 'the record gives its complete location, and nothing can have been written there since',
      }
    : {
        content: 'unverified',
        why: 'the record gives its complete location; a file written there since may have been deleted again',
      }
}

/** Some file systems clear the size on deletion, so a size of 0 does not mean empty. */
const emptySaid = (record: FileRecord): { content: Wholeness; why: string } =>
  record.record === 'present' || record.isChainRecorded
    ? { content: 'intact', why: 'file is empty' }
    : { content: 'unverified', why: 'the record has no size; it may have had content when it was deleted' }

type JudgedBy = Pick<Records, 'isComplete' | 'isSomeLost' | 'latest'>

/** How many bytes of some extents lie beyond the end of an image. */
const beyondEnd = (image: ByteSource, extents: readonly Extent[]) =>
  extents.reduce(
    (sum, [offset, length]) =>
      sum + (offset === HOLE ? 0 : Math.min(length, Math.max(0, offset + length - image.size))),
    0,
  )

/** Has the content of a record followed ahead of time. */
export function askAbout(
  helpers: Helpers,
  image: ByteSource,
  { volume, ...by }: { readonly volume: Volume } & JudgedBy,
  claim: Claim,
): void {
  const { record } = claim
  if (record.content || record.bytes < MIN_ASKED_BYTES) return
  if (saidByRecords(claim, by, beyondEnd(image, record.extents)).content === 'overwritten') return
  helpers.ask(questionAbout(record, volume.fileSystem?.unitBytes ?? 512))
}

const questionAbout = (record: FileRecord, unitBytes: number) => ({
  asks: 'proof' as const,
  extents: record.extents,
  name: nameOf(record),
  unitBytes,
})

const nameOf = ({ path }: FileRecord) => path.slice(path.lastIndexOf('/') + 1)

/** Converts a record to an item: what the records say, and what the structure of the content says to that. */
export function judge(
  image: ByteSource,
  { volume, helpers, ...by }: { readonly volume: Volume; readonly helpers?: Helpers } & JudgedBy,
  claim: Claim,
  key: string,
): MediaItem {
  const { record } = claim
  const said = saidByRecords(claim, by, beyondEnd(image, record.extents))
  const name = nameOf(record)
  const unitBytes = volume.fileSystem?.unitBytes ?? 512
  let extents = record.extents
  let proof: Proof | null = null
  if (record.bytes > 0 && said.content !== 'overwritten') {
    proof = record.content
      ? prove(record.content, name, unitBytes)
      : answered(helpers, image, questionAbout(record, unitBytes))
    if (proof.verdict !== 'proves')
      for (const other of record.otherExtents) {
        const tried = prove(piecesSource(image, other), name, unitBytes)
        if (!isBetter(tried, proof, lengthOf(other) === record.bytes)) continue
        proof = tried
        extents = other
        if (proof.verdict === 'proves') break
      }
  }
  const isOwnPlace = extents === record.extents
  // Units that another file has now are not this file's, whatever they decode to; the same goes for assumed extents.
  const isGiven =
    beyondEnd(image, extents) > 0 ||
    (isOwnPlace
      ? claim.unitsInUse > 0 || (record.record === 'present' && record.fault !== null)
      : record.record === 'deleted' && isInUse(volume.fileSystem, extents))
  const content = proof ? decided(said.content, proof, record, isGiven) : said.content
  const kind = proof?.walk ?? null
  return {
    key,
    volume: volume.shape.index,
    path: record.path,
    record: record.record,
    created: record.created,
    modified: record.modified,
    deleted: record.deleted,
    bytes: record.bytes,
    mime: kind?.mime ?? null,
    extension: kind?.extension ?? extensionOf(name),
    type: kind?.type ?? kindOfName(name).type,
    foundBy: ['quick'],
    content,
    checks: [
      ...(proof?.verdict === 'proves' ? [] : [said.why]),
      ...(kind?.checks ?? []),
      // Proof comes before what merely supports it.
      ...(proof?.verdict === 'proves' ? [said.why] : []),
      ...((proof?.verdict === 'contradicts' && !kind) || proof?.isOtherType ? [NOT_ITS_NAME] : []),
    ],
    extents,
    source: record.content,
  }
}

function isInUse(fileSystem: FileSystem | null, extents: readonly Extent[]): boolean {
  if (!fileSystem) return false
  for (const [first, count] of runsOf(fileSystem, extents)) if (fileSystem.allocated.hasAnyOf(first, count)) return true
  return false
}

const RANK = { proves: 3, agrees: 2, silent: 1, contradicts: 0 } as const

function isBetter(tried: Proof, than: Proof, isWhole: boolean): boolean {
  if (RANK[tried.verdict] !== RANK[than.verdict]) return RANK[tried.verdict] > RANK[than.verdict] && isWhole
  return (tried.walk?.breaksAt ?? 0) > (than.walk?.breaksAt ?? 0) && isWhole
}

function decided(said: Wholeness, proof: Proof, record: FileRecord, isGiven: boolean): Wholeness {
  // A whole picture named as a text is whole, but that does not show that it is this file.
  if (proof.verdict === 'proves' && record.record === 'deleted' && proof.isOtherType && said !== 'intact')
    return isGiven ? said : 'unverified'
  if (proof.verdict === 'proves') return isGiven ? said : 'intact'
  if (record.record === 'present') return said === 'intact' && proof.verdict === 'contradicts' ? 'unverified' : said
  if (proof.isNothing && proof.verdict !== 'agrees') return 'overwritten'
  if (proof.verdict === 'contradicts') return proof.walk === null ? 'overwritten' : 'partial'
  return said
}
