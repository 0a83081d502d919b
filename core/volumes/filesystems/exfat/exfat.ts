import { Reader } from '../../../sources/reader'
import { HOLE, sliceSource, type ByteSource, type Extent } from '../../../sources/source'
import type { ScanWarning } from '../volume-shape'
import {
  joinedExtents,
  lostPath,
  NO_LAYOUTS,
  type FileRecord,
  type FileSystem,
  type FileSystemFormat,
  type Traces,
} from '../file-system'
import { UnitMap } from '../unit-map'
import { readSets, rootFacts, setAt, type EntrySet } from './entries'
import { BOOT, ENTRY } from './layout'

const MAX_DEPTH = 64
const MAX_FOLDER_BYTES = 32 * 1024 * 1024
const MAX_CLUSTERS = 2 ** 32 - 11

interface Geometry {
  /** of the volume, as it says itself */
  readonly bytes: number
  readonly sectorBytes: number
  readonly clusterBytes: number
  readonly tableAt: number
  readonly tableBytes: number
  readonly heapAt: number
  readonly clusters: number
  readonly root: number
}

/** exFAT (exFAT file system specification, 1.00). */
export const exfat: FileSystemFormat = { kinds: ['exFAT'], recognise, startsAt }

function recognise(image: ByteSource, offset: number, length: number): FileSystem | null {
  const volume = sliceSource(image, offset, length)
  const reader = new Reader(volume)
  const first = geometryAt(reader, 0)
  if (first) return new Exfat(volume, offset, first, false)
  for (const sectorBytes of [512, 4096]) {
    const backup = geometryAt(reader, BOOT.backupSector * sectorBytes)
    if (backup) return new Exfat(volume, offset, backup, true)
  }
  return null
}

/** The first entry of the allocation table names the medium (4.1.1). */
const FIRST_ENTRY = 0xfffffff8

function startsAt(image: Reader, at: number): readonly Extent[] {
  const boot = geometryAt(image, at)
  if (!boot) return []
  return [at, at - BOOT.backupSector * boot.sectorBytes]
    .filter((start) => image.u32le(start + boot.tableAt) === FIRST_ENTRY)
    .map((start): Extent => [start, boot.bytes])
}

function geometryAt(reader: Reader, at: number): Geometry | null {
  if (!reader.has(at, 512) || !reader.is(at + BOOT.name, BOOT.signature)) return null
  const sectorShift = reader.u8(at + BOOT.sectorShift)
  const clusterShift = reader.u8(at + BOOT.clusterShift)
  if (sectorShift < 9 || sectorShift > 12 || sectorShift + clusterShift > 25) return null
  const sectorBytes = 2 ** sectorShift
  const heapAt = reader.u32le(at + BOOT.heapSector) * sectorBytes
  const clusterBytes = 2 ** (sectorShift + clusterShift)
  const clusters = Math.min(
    reader.u32le(at + BOOT.clusters),
    MAX_CLUSTERS,
    Math.ceil((reader.size - heapAt) / clusterBytes),
  )
  if (clusters < 1 || heapAt === 0) return null
  return {
    bytes: reader.u64le(at + BOOT.volumeSectors) * sectorBytes,
    sectorBytes,
    clusterBytes,
    heapAt,
    clusters,
    tableAt: reader.u32le(at + BOOT.tableSector) * sectorBytes,
    tableBytes: reader.u32le(at + BOOT.tableSectors) * sectorBytes,
    root: reader.u32le(at + BOOT.rootCluster),
  }
}

interface Folder {
  readonly path: string
  readonly clusters: readonly number[]
  readonly isDeleted: boolean
  readonly depth: number
}

class Exfat implements FileSystem {
  readonly kind = 'exFAT'
  readonly label: string | null
  readonly bytes: number
  readonly unitBytes: number
  readonly unitsFrom: number
  readonly allocated: UnitMap
  readonly warnings: ScanWarning[] = []
  private readonly table: Reader
  private readonly root: readonly number[]

  constructor(
    private readonly volume: ByteSource,
    offset: number,
    private readonly geometry: Geometry,
    isBackup: boolean,
  ) {
    this.bytes = geometry.bytes
    this.unitBytes = geometry.clusterBytes
    this.unitsFrom = offset + geometry.heapAt
    this.table = new Reader(sliceSource(volume, geometry.tableAt, geometry.tableBytes))
    if (isBackup) this.warn('boot sector', 'is damaged; its backup copy was used')
    this.root = this.chain(geometry.root, 'root folder')
    const { bitmap, label } = rootFacts(this.bytesOf(this.root))
    this.label = label
    this.allocated = new UnitMap(geometry.clusters, bitmap ? this.bitmapBytes(bitmap.cluster, bitmap.bytes) : undefined)
    if (!bitmap) this.warn('root folder', 'the allocation bitmap is missing: all clusters count as free')
  }

  /** Clusters of directories that nothing refers to any more: each entry set has a checksum of its own. */
  readonly traces: Traces = {
    begins: (block, at) =>
      (block[at]! & 0x7f) === ENTRY.file &&
      (block[at + ENTRY.bytes]! & 0x7f) === ENTRY.stream &&
      setAt(block, at) !== null,
    files: (places) => this.filesOfTraces(places),
    layouts: NO_LAYOUTS,
  }

  private *filesOfTraces(places: readonly number[]): Iterable<FileRecord> {
    const folders = places
      .filter((place) => (place - this.unitsFrom) % this.unitBytes === 0)
      .map((place) => (place - this.unitsFrom) / this.unitBytes + 2)
      .map((cluster) => ({ cluster, sets: [...readSets(this.bytesOf([cluster]))] }))
    const parents = new Map<number, { name: string; cluster: number }>()
    for (const { cluster, sets } of folders)
      for (const set of sets) if (set.isFolder) parents.set(set.cluster, { name: set.name, cluster })
    for (const { cluster, sets } of folders)
      for (const set of sets) if (!set.isFolder) yield this.fileOf(set, lostPath(parents, cluster, set.name), true)
  }

  hasEveryRecord(): boolean {
    return false
  }
  hasLostRecords(): boolean {
    return false
  }

  *files(): Iterable<FileRecord> {
    const seen = new Set<number>()
    const waiting: Folder[] = [{ path: '', clusters: this.root, isDeleted: false, depth: 0 }]
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const first = next.clusters[0]
      if (first === undefined || seen.has(first) || next.depth > MAX_DEPTH) continue
      seen.add(first)
      for (const set of readSets(this.bytesOf(next.clusters))) {
        const path = next.path === '' ? set.name : `${next.path}/${set.name}`
        const isDeleted = set.isDeleted || next.isDeleted
        if (set.isFolder) {
          const clusters = this.folderClusters(set, isDeleted, path)
          waiting.push({ path, clusters, isDeleted, depth: next.depth + 1 })
        } else yield this.fileOf(set, path, isDeleted)
      }
    }
  }

  private fileOf(set: EntrySet, path: string, isDeleted: boolean): FileRecord {
    const need = Math.ceil(set.bytes / this.unitBytes)
    const told = (
      extents: readonly Extent[],
      otherExtents: readonly (readonly Extent[])[],
      isChainRecorded: boolean,
      fault: string | null,
    ): FileRecord => ({
      path,
      record: isDeleted ? 'deleted' : 'present',
      bytes: set.bytes,
      created: set.created,
      modified: set.modified,
      deleted: null,
      extents,
      otherExtents,
      isChainRecorded,
      content: null,
      fault,
    })
    const isInside = this.isCluster(set.cluster) && set.cluster + need - 2 <= this.geometry.clusters
    const straight = isInside ? this.straightExtents(set) : []
    if (need === 0 || set.isContiguous || (isDeleted && need === 1)) {
      const fault = need > 0 && straight.length === 0 ? 'it is outside the volume' : null
      if (fault && !isDeleted) this.warn(path, fault)
      return told(straight, [], true, fault)
    }
    const clusters = this.chain(set.cluster, path, need + 1, isDeleted)
    const isWhole = clusters.length === need
    if (!isDeleted) {
      if (!isWhole) this.warn(path, `its cluster chain ${clusters.length < need ? 'ends early' : 'is too long'}`)
      const fault = clusters.length < need ? 'its cluster chain ends early' : null
      return told(this.extentsOf(clusters, set), [], true, fault)
    }
    // The chain may have been cleared or reused since; the structure of the file has to decide between the readings.
    const guesses = [isWhole ? this.extentsOf(clusters, set) : null, this.freeFrom(set, need), straight]
    const [extents = [], ...otherExtents] = guesses.filter((one) => one !== null && one.length > 0) as Extent[][]
    const fault = extents.length === 0 ? 'it is outside the volume' : null
    return told(extents, otherExtents, false, fault)
  }

  private freeFrom(set: EntrySet, need: number): Extent[] | null {
    const clusters: number[] = []
    const end = Math.min(this.geometry.clusters, set.cluster + need * 4 + 1024)
    for (let unit = set.cluster - 2; unit >= 0 && unit < end && clusters.length < need; unit++)
      if (!this.allocated.has(unit)) clusters.push(unit + 2)
    return clusters.length === need && clusters[0] === set.cluster ? this.extentsOf(clusters, set) : null
  }

  private straightExtents({ cluster, bytes, validBytes }: EntrySet): Extent[] {
    const written: Extent[] = [[this.unitsFrom + (cluster - 2) * this.unitBytes, Math.min(bytes, validBytes)]]
    return validBytes < bytes ? [...written, [HOLE, bytes - validBytes]] : written
  }

  /** What is behind the valid data length reads as zeros, whatever the clusters contain (7.6.5). */
  private extentsOf(clusters: readonly number[], { bytes, validBytes }: EntrySet): Extent[] {
    const written = joinedExtents(
      clusters.map((cluster): Extent => [this.unitsFrom + (cluster - 2) * this.unitBytes, this.unitBytes]),
      Math.min(bytes, validBytes),
    )
    return validBytes < bytes ? [...written, [HOLE, bytes - validBytes]] : written
  }

  private folderClusters(set: EntrySet, isDeleted: boolean, path: string): readonly number[] {
    if (!this.isCluster(set.cluster)) return []
    const need = Math.min(Math.ceil(set.bytes / this.unitBytes), Math.ceil(MAX_FOLDER_BYTES / this.unitBytes))
    const straight = range(set.cluster, need).filter((cluster) => this.isCluster(cluster))
    if (set.isContiguous || isDeleted) return isDeleted && this.allocated.has(set.cluster - 2) ? [] : straight
    return this.chain(set.cluster, path)
  }

  /** A chain in the table; cut where it leaves the volume or loops. */
  private chain(start: number, where: string, most = this.mostOfFolder(), isQuiet = false): number[] {
    const clusters: number[] = []
    let cluster = start
    while (this.isCluster(cluster) && clusters.length < most) {
      clusters.push(cluster)
      cluster = this.table.u32le(cluster * 4)
    }
    if (!isQuiet && cluster < 0xfffffff8) this.warn(where, 'its cluster chain ends early or is circular')
    return clusters
  }

  private mostOfFolder(): number {
    return Math.min(this.geometry.clusters, Math.ceil(MAX_FOLDER_BYTES / this.unitBytes)) + 1
  }

  private isCluster(cluster: number): boolean {
    return cluster >= 2 && cluster < this.geometry.clusters + 2
  }

  private bitmapBytes(cluster: number, bytes: number): Uint8Array {
    const most = Math.min(bytes, Math.ceil(this.geometry.clusters / 8))
    return this.bytesOf(this.chain(cluster, 'allocation bitmap', Math.ceil(most / this.unitBytes), true), most)
  }

  private bytesOf(clusters: readonly number[], most = MAX_FOLDER_BYTES): Uint8Array {
    const bytes = new Uint8Array(Math.min(most, clusters.length * this.unitBytes))
    for (const [at, cluster] of clusters.entries()) {
      const from = at * this.unitBytes
      if (from >= bytes.length) break
      const part = Math.min(this.unitBytes, bytes.length - from)
      bytes.set(this.volume.read(this.geometry.heapAt + (cluster - 2) * this.unitBytes, part), from)
    }
    return bytes
  }

  private warn(where: string, what: string): void {
    if (this.warnings.length < 1000) this.warnings.push({ where, what })
  }
}

const range = (first: number, count: number) => Array.from({ length: Math.max(0, count) }, (_, at) => first + at)
