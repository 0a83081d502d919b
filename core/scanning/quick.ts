import { extensionOf, kindOfName } from '../files/kinds'
import { lengthOf, type FileRecord, type FileSystem } from '../volumes/filesystems/file-system'
import { UnitMap } from '../volumes/filesystems/unit-map'
import type { Volume } from '../volumes/volumes'
import type { Wholeness } from '../files/wholeness'
import { HOLE, piecesSource, type ByteSource, type Extent } from '../sources/source'
import { NOT_ITS_NAME, type MediaItem } from './item'
import { prove, type Proof } from './prove'

/** A record with what the other records leave of it. */
export interface Claim {
  readonly record: FileRecord
  /** units of its extents that are in use by now, of how many */
  readonly unitsInUse: number
  readonly units: number
  /** another file of the same standing claims some of the same units */
  readonly isContested: boolean
}

/** Everything that the records of a volume tell, with what they claim of each other's places. No content is read. */
export function readRecords(fileSystem: FileSystem): Records {
  const { claims, latest } = claimsOf(fileSystem, [...fileSystem.files()])
  return { claims, latest, isComplete: fileSystem.hasEveryRecord(), isSomeLost: fileSystem.hasLostRecords() }
}

export interface Records {
  readonly claims: readonly Claim[]
  readonly isComplete: boolean
  /** whether records are missing that a sound volume would have */
  readonly isSomeLost: boolean
  /** when something on the volume was last made or changed, as far as the records tell */
  readonly latest: string
}

/** What traces of an earlier file system tell: nothing of it is known to be all. */
export function readTraces(fileSystem: FileSystem, places: readonly number[]): Records {
  return { ...claimsOf(fileSystem, [...fileSystem.traces.files(places)]), isComplete: false, isSomeLost: true }
}

function claimsOf(fileSystem: FileSystem, records: readonly FileRecord[]): { claims: Claim[]; latest: string } {
  const { allocated } = fileSystem
  // By standing: a deleted file may lie where a present one lies now, and is the one that lost its place then.
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
      // A damaged map of what is in use does not free what a present file claims.
      if (record.record === 'deleted') unitsInUse += allocated.countOfRun(first, count, claimed.present.once)
      isContested ||= claimed[record.record].twice.hasAnyOf(first, count)
    }
    return { record, units, unitsInUse, isContested }
  })
  return { claims, latest }
}

const twoMaps = (count: number) => ({ once: new UnitMap(count), twice: new UnitMap(count) })

type Run = readonly [first: number, count: number]

function claimedRuns(fileSystem: FileSystem, { content, extents }: FileRecord): Iterable<Run> {
  return isKeptInRecord(content, extents, fileSystem.unitBytes) ? [] : runsOf(fileSystem, extents)
}

/** the runs of units in which stretches of the image lie */
function* runsOf({ unitBytes, unitsFrom }: FileSystem, extents: readonly Extent[]): Iterable<Run> {
  for (const [offset, length] of extents) {
    if (offset === HOLE || length === 0) continue
    const first = Math.floor((offset - unitsFrom) / unitBytes)
    const last = Math.floor((offset + length - 1 - unitsFrom) / unitBytes)
    yield [first, last - first + 1]
  }
}

/** Content that is kept inside of a record lies where the record does, and is as whole as that. */
const isKeptInRecord = (content: ByteSource | null, extents: readonly Extent[], unitBytes: number) =>
  content !== null &&
  (extents.length === 0 || (extents.length === 1 && content.size === extents[0]![1] && content.size < unitBytes))

/** What the records alone say of the content, before its structure was held against it. */
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
  // What was written since and left no record could lie there, unless nothing was, or every record is still to be seen.
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

/** A record as an item: what the records say, and what the structure of the content says to that. */
export function judge(
  image: ByteSource,
  { volume, ...by }: { readonly volume: Volume } & JudgedBy,
  claim: Claim,
  key: string,
): MediaItem {
  const { record } = claim
  const said = saidByRecords(claim, by, beyondEnd(image, record.extents))
  const name = record.path.slice(record.path.lastIndexOf('/') + 1)
  const unitBytes = volume.fileSystem?.unitBytes ?? 512
  let extents = record.extents
  let proof: Proof | null = null
  if (record.bytes > 0 && said.content !== 'overwritten') {
    proof = prove(record.content ?? piecesSource(image, extents), name, unitBytes)
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
  // What is another's by now is not this file's, whatever it decodes to; a guess at other places is held to that too.
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
      // What proves it goes before what merely speaks for it.
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
  // A whole picture under the name of a text is whole; that it is this file is not said by it.
  if (proof.verdict === 'proves' && record.record === 'deleted' && proof.isOtherType && said !== 'intact')
    return isGiven ? said : 'unverified'
  if (proof.verdict === 'proves') return isGiven ? said : 'intact'
  if (record.record === 'present') return said === 'intact' && proof.verdict === 'contradicts' ? 'unverified' : said
  if (proof.isNothing && proof.verdict !== 'agrees') return 'overwritten'
  if (proof.verdict === 'contradicts') return proof.walk === null ? 'overwritten' : 'partial'
  return said
}
