import { lengthOf, type FileRecord, type FileSystem } from '../filesystems/file-system'
import { UnitMap } from '../filesystems/unit-map'
import type { Volume } from '../partitions/volumes'
import type { ContentState } from '../scan-report'
import { HOLE, piecesSource, type ByteSource, type Extent } from '../source'
import { NOT_ITS_NAME, type MediaItem } from './item'
import { prove, type Proof } from './prove'
import { typeOfName } from './type-of-name'

/** A record with what the other records leave of it. */
export interface Claim {
  readonly record: FileRecord
  /** units of its extents that are in use by now, of how many */
  readonly unitsInUse: number
  readonly units: number
  /** another deleted file claims some of the same units */
  readonly isContested: boolean
}

/** Everything that the records of a volume tell, with what they claim of each other's places. No content is read. */
export function readRecords(fileSystem: FileSystem): Records {
  const { claims, latest } = claimsOf(fileSystem, [...fileSystem.files()])
  return { claims, latest, isComplete: fileSystem.hasEveryRecord() }
}

export interface Records {
  readonly claims: readonly Claim[]
  readonly isComplete: boolean
  /** when something on the volume was last made or changed, as far as the records tell */
  readonly latest: string
}

/** What traces of an earlier file system tell: nothing of it is known to be all. */
export function readTraces(fileSystem: FileSystem, places: readonly number[]): Records {
  return { ...claimsOf(fileSystem, [...fileSystem.traces.files(places)]), isComplete: false }
}

function claimsOf(fileSystem: FileSystem, records: readonly FileRecord[]): { claims: Claim[]; latest: string } {
  const { unitBytes, allocated } = fileSystem
  const once = new UnitMap(allocated.count)
  const twice = new UnitMap(allocated.count)
  for (const { record, extents, content } of records)
    if (record === 'deleted' && !isKeptInRecord(content, extents, unitBytes))
      for (const unit of unitsOf(fileSystem, extents)) (once.has(unit) ? twice : once).add(unit)
  let latest = ''
  const claims = records.map((record): Claim => {
    for (const time of [record.created, record.modified]) if (time && time > latest) latest = time
    let [units, unitsInUse, isContested] = [0, 0, false]
    if (record.record === 'deleted' && !isKeptInRecord(record.content, record.extents, unitBytes))
      for (const unit of unitsOf(fileSystem, record.extents)) {
        units++
        if (allocated.has(unit)) unitsInUse++
        isContested ||= twice.has(unit)
      }
    return { record, units, unitsInUse, isContested }
  })
  return { claims, latest }
}

/** the units in which stretches of the image lie */
function* unitsOf({ unitBytes, unitsFrom }: FileSystem, extents: readonly Extent[]): Iterable<number> {
  for (const [offset, length] of extents) {
    if (offset === HOLE || length === 0) continue
    const first = Math.floor((offset - unitsFrom) / unitBytes)
    const last = Math.floor((offset + length - 1 - unitsFrom) / unitBytes)
    for (let unit = first; unit <= last; unit++) yield unit
  }
}

/** Content that is kept inside of a record lies where the record does, and is as whole as that. */
const isKeptInRecord = (content: ByteSource | null, extents: readonly Extent[], unitBytes: number) =>
  content !== null &&
  (extents.length === 0 || (extents.length === 1 && content.size === extents[0]![1] && content.size < unitBytes))

/** What the records alone say of the content, before its structure was held against it. */
function saidByRecords(claim: Claim, isComplete: boolean, latest: string): { content: ContentState; why: string } {
  const { record, units, unitsInUse, isContested } = claim
  const isKept = record.content !== null && units === 0
  if (record.bytes === 0) return { content: 'intact', why: 'it is empty' }
  if (!isKept && record.extents.length === 0)
    return { content: 'overwritten', why: record.fault ?? 'where it lies is not told any more' }
  if (record.fault) return { content: 'partial', why: record.fault }
  if (record.record === 'present') return { content: 'intact', why: 'its record gives all of it' }
  if (isKept) return { content: 'intact', why: 'it is kept inside of its own record' }
  if (unitsInUse > 0)
    return unitsInUse === units
      ? { content: 'overwritten', why: 'all of its place is in use by others now' }
      : { content: 'partial', why: `${unitsInUse} of ${units} clusters are in use by others now` }
  if (!record.isChainRecorded)
    return { content: 'unverified', why: 'its chain of clusters was cleared; the order is assumed' }
  if (isContested) return { content: 'unverified', why: 'another deleted file claims some of the same place' }
  // What was written since and left no record could lie there, unless nothing was, or every record is still to be seen.
  const isQuietSince = record.deleted !== null && latest <= record.deleted
  return isComplete || isQuietSince
    ? { content: 'intact', why: 'its record gives all of it, and nothing can have been written there since' }
    : {
        content: 'unverified',
        why: 'its record gives all of it; something may have been written there since and be gone',
      }
}

/** A record as an item: what the records say, and what the structure of the content says to that. */
export function judge(
  image: ByteSource,
  { volume, isComplete, latest }: { readonly volume: Volume; readonly isComplete: boolean; readonly latest: string },
  claim: Claim,
  key: string,
): MediaItem {
  const { record } = claim
  const said = saidByRecords(claim, isComplete, latest)
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
  // What is another's by now is not this file's, whatever it decodes to; a guess at other places is held to that too.
  const isGiven = extents === record.extents ? claim.unitsInUse > 0 : isInUse(volume.fileSystem, extents)
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
    type: kind?.type ?? typeOfName(name),
    foundBy: ['quick'],
    content,
    checks: [
      ...(proof?.verdict === 'proves' ? [] : [said.why]),
      ...(kind?.checks ?? []),
      // What proves it goes before what merely speaks for it.
      ...(proof?.verdict === 'proves' ? [said.why] : []),
      ...(proof?.verdict === 'contradicts' && !kind ? [NOT_ITS_NAME] : []),
    ],
    extents,
    source: record.content,
  }
}

function isInUse(fileSystem: FileSystem | null, extents: readonly Extent[]): boolean {
  if (!fileSystem) return false
  for (const unit of unitsOf(fileSystem, extents)) if (fileSystem.allocated.has(unit)) return true
  return false
}

const RANK = { proves: 3, agrees: 2, silent: 1, contradicts: 0 } as const

function isBetter(tried: Proof, than: Proof, isWhole: boolean): boolean {
  if (RANK[tried.verdict] !== RANK[than.verdict]) return RANK[tried.verdict] > RANK[than.verdict] && isWhole
  return (tried.walk?.breaksAt ?? 0) > (than.walk?.breaksAt ?? 0) && isWhole
}

function decided(said: ContentState, proof: Proof, record: FileRecord, isGiven: boolean): ContentState {
  if (proof.verdict === 'proves') return isGiven ? said : 'intact'
  if (record.record === 'present') return said === 'intact' && proof.verdict === 'contradicts' ? 'unverified' : said
  if (proof.isNothing && proof.verdict !== 'agrees') return 'overwritten'
  if (proof.verdict === 'contradicts') return proof.walk === null ? 'overwritten' : 'partial'
  return said
}

function extensionOf(name: string): string {
  const dot = name.lastIndexOf('.')
  return dot > 0
    ? name
        .slice(dot + 1)
        .toLowerCase()
        .slice(0, 12)
    : ''
}
