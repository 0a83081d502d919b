import { Reader } from '../../../sources/reader'
import { sliceSource, type ByteSource, type Extent } from '../../../sources/source'
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
import { BACKUP_SECTOR, findBoot, readBoot, type FatGeometry } from './boot'
import { readEntries, type FolderEntry } from './folder'
import { ATTRIBUTE } from './layout'
import { FatTable } from './table'

const MAX_DEPTH = 64
const MAX_FOLDER_BYTES = 65_536 * 32
/** Larger files, in clusters, are not laid out with every possible location. */
const MAX_GUESSES = 16

/** FAT12, FAT16 and FAT32 with long names (ECMA-107; the FAT32 extension of it). */
export const fat: FileSystemFormat = { kinds: ['FAT12', 'FAT16', 'FAT32'], recognise, startsAt }

function recognise(image: ByteSource, offset: number, length: number): FileSystem | null {
  const volume = sliceSource(image, offset, length)
  const reader = new Reader(volume)
  const found = findBoot(reader)
  return found ? new Fat(volume, offset, found.geometry, found.isBackup) : null
}

/** A boot sector without its jump is another's data (3.1 of the extension). */
function startsAt(image: Reader, at: number): readonly Extent[] {
  const jump = image.u8(at)
  const boot = jump === 0xeb || jump === 0xe9 ? readBoot(image, at) : null
  if (!boot) return []
  const copy = boot.bits === 32 ? [at - BACKUP_SECTOR * boot.sectorBytes] : []
  // Each table begins with the byte of the medium, and ones.
  const isTable = (place: number) => image.u8(place) >= 0xf0 && image.u8(place + 1) === 0xff
  return [at, ...copy]
    .filter((start) => boot.tables.some((table) => isTable(start + boot.tableAt + table * boot.tableBytes)))
    .map((start): Extent => [start, boot.bytes])
}

const OTHER_COPY = 'its chain is damaged in one copy of the allocation table; the other copy was used'

interface Folder {
  readonly path: string
  readonly clusters: readonly number[]
  readonly isDeleted: boolean
  readonly depth: number
}

class Fat implements FileSystem {
  readonly kind: string
  readonly label: string | null
  readonly bytes: number
  readonly unitBytes: number
  readonly unitsFrom: number
  readonly allocated: UnitMap
  readonly warnings: ScanWarning[] = []
  private readonly table: FatTable
  private readonly otherTables: readonly FatTable[]

  constructor(
    private readonly volume: ByteSource,
    private readonly offset: number,
    private readonly geometry: FatGeometry,
    isBackup: boolean,
  ) {
    this.kind = `FAT${geometry.bits}`
    this.label = geometry.label
    this.bytes = geometry.bytes
    this.unitBytes = geometry.clusterBytes
    this.unitsFrom = offset + geometry.dataAt
    const [first = 0, ...others] = geometry.tables
    this.table = new FatTable(volume, geometry, first)
    this.otherTables = others.map((copy) => new FatTable(volume, geometry, copy))
    if (isBackup) this.warn('boot sector', 'is damaged; its backup copy was used')
    this.allocated = new UnitMap(geometry.clusters)
    // Clusters that any copy of the table has in use are not free.
    for (const table of [this.table, ...this.otherTables])
      for (let unit = 0; unit < geometry.clusters; unit++) if (table.entry(unit + 2) !== 0) this.allocated.add(unit)
  }

  /** Clusters of directories that nothing refers to any more: they begin with the entries "." and "..". */
  readonly traces: Traces = {
    begins: (block, at) =>
      block[at] === 0x2e && block[at + 11] === ATTRIBUTE.folder && isFolderStart(block.subarray(at, at + 64)),
    files: (places) => this.filesOfTraces(places),
    layouts: NO_LAYOUTS,
  }

  private *filesOfTraces(places: readonly number[]): Iterable<FileRecord> {
    const folders = places
      .filter((place) => (place - this.unitsFrom) % this.unitBytes === 0)
      .map((place) => (place - this.unitsFrom) / this.unitBytes + 2)
      .map((cluster) => ({ cluster, entries: [...readEntries(this.bytesOf(this.freedFolder(cluster)))] }))
    const parents = new Map<number, { name: string; cluster: number }>()
    for (const { cluster, entries } of folders)
      for (const entry of entries) if (entry.isFolder) parents.set(entry.cluster, { name: entry.name, cluster })
    for (const { cluster, entries } of folders)
      for (const entry of entries)
        if (!entry.isFolder) yield this.deletedFile(entry, lostPath(parents, cluster, entry.name))
  }

  hasEveryRecord(): boolean {
    return false
  }
  hasLostRecords(): boolean {
    return false
  }

  *files(): Iterable<FileRecord> {
    const seen = new Set<number>()
    const { rootAt, rootBytes, rootCluster } = this.geometry
    const waiting: Folder[] = []
    if (rootBytes > 0) yield* this.filesIn(this.volume.read(rootAt, rootBytes), '', false, 0, waiting)
    else
      waiting.push({ path: '', clusters: this.folderClusters(rootCluster, 'root folder'), isDeleted: false, depth: 0 })
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const first = next.clusters[0]
      if (first === undefined || seen.has(first) || next.depth > MAX_DEPTH) continue
      seen.add(first)
      const bytes = this.bytesOf(next.clusters)
      // A freed cluster is that of a directory only if it begins with the entries "." and "..".
      if (next.isDeleted && !isFolderStart(bytes)) continue
      yield* this.filesIn(bytes, next.path, next.isDeleted, next.depth, waiting)
    }
  }

  private *filesIn(
    bytes: Uint8Array,
    path: string,
    isFolderDeleted: boolean,
    depth: number,
    waiting: Folder[],
  ): Iterable<FileRecord> {
    for (const entry of readEntries(bytes)) {
      const isDeleted = entry.isDeleted || isFolderDeleted
      const own = path === '' ? entry.name : `${path}/${entry.name}`
      if (entry.isFolder) {
        if (!this.table.isCluster(entry.cluster)) continue
        const clusters = isDeleted ? this.freedFolder(entry.cluster) : this.folderClusters(entry.cluster, own)
        waiting.push({ path: own, clusters, isDeleted, depth: depth + 1 })
      } else if (isDeleted) yield this.deletedFile(entry, own)
      else yield this.presentFile(entry, own)
    }
  }

  private presentFile(entry: FolderEntry, path: string): FileRecord {
    const need = Math.ceil(entry.size / this.unitBytes)
    if (need === 0) {
      const fault = this.table.isCluster(entry.cluster)
        ? 'its size was never recorded although clusters are allocated to it'
        : null
      if (fault) this.warn(path, fault)
      return fileRecord(entry, path, 'present', [], [], true, fault)
    }
    const { right, best, isFirstRight } = this.chains(entry.cluster, need)
    const [clusters = best, ...others] = right
    if (right.length === 0)
      this.warn(path, `its cluster chain ${best.length < need ? 'ends early' : 'is longer than the file'}`)
    else if (!isFirstRight) this.warn(path, OTHER_COPY)
    if (others.length > 0) this.warn(path, 'the copies of the allocation table disagree about its location')
    const fault = clusters.length < need ? 'its cluster chain ends early' : null
    const other = others.map((one) => this.extentsOf(one, entry.size))
    // A chain of the wrong length belongs to another file, or to another size.
    const isChainRecorded = others.length === 0 && right.length > 0
    return fileRecord(entry, path, 'present', this.extentsOf(clusters, entry.size), other, isChainRecorded, fault)
  }

  /** The chain from a cluster on in each copy of the table: those with the right length and an end, and the longest. */
  private chains(
    cluster: number,
    need: number,
  ): { right: (readonly number[])[]; best: readonly number[]; isFirstRight: boolean } {
    const right: (readonly number[])[] = []
    let best: readonly number[] = []
    let isFirstRight = false
    for (const table of [this.table, ...this.otherTables]) {
      const { clusters, isWhole } = table.chain(cluster, need + 1)
      if (clusters.length > best.length) best = clusters
      const isNew = !right.some((one) => one.every((known, at) => known === clusters[at]))
      if (isWhole && clusters.length === need && isNew) right.push(clusters)
      if (table === this.table) isFirstRight = right.length > 0
    }
    return { right, best, isFirstRight }
  }

  private deletedFile(entry: FolderEntry, path: string): FileRecord {
    const guesses = this.guesses(entry)
    const [extents = [], ...otherExtents] = guesses
    const isOneCluster = entry.size <= this.unitBytes
    const isLost = extents.length === 0 && (entry.size > 0 || this.table.isCluster(entry.cluster))
    const fault = !isLost
      ? null
      : entry.size > 0
        ? 'its first cluster is outside the volume'
        : 'its size was never recorded although a cluster was allocated to it'
    return fileRecord(entry, path, 'deleted', extents, otherExtents, isOneCluster && guesses.length <= 1, fault)
  }

  /**
   * Where a deleted file may be, likeliest first: contiguous, or around what is in use now. Some systems clear the
   * upper half of the first cluster's number; then each upper half is tried.
   */
  private guesses(entry: FolderEntry): Extent[][] {
    if (entry.size === 0) return []
    const need = Math.ceil(entry.size / this.unitBytes)
    const all: Extent[][] = []
    const starts = [entry.cluster]
    if (this.geometry.bits === 32 && entry.cluster < 65_536)
      for (let high = 1; high * 65_536 < this.geometry.clusters && high <= MAX_GUESSES; high++)
        starts.push(high * 65_536 + entry.cluster)
    for (const start of starts) {
      if (!this.table.isCluster(start) || start < 2) continue
      const room = (this.geometry.clusters + 2 - start) * this.unitBytes
      const whole: Extent[] = [[this.unitsFrom + (start - 2) * this.unitBytes, Math.min(entry.size, room)]]
      const free = this.freeFrom(start, need)
      if (free && free.length > 1) {
        const around = joinedExtents(free, entry.size)
        all.push(around)
      }
      all.push(whole)
    }
    return all
  }

  /** The next free ranges from a cluster on, enough for this many clusters. */
  private freeFrom(start: number, need: number): Extent[] | null {
    const extents: [number, number][] = []
    let left = need
    const end = Math.min(this.geometry.clusters, start + need * 4 + 1024)
    for (let unit = start - 2; left > 0 && unit < end; unit++) {
      if (this.allocated.has(unit)) continue
      left--
      const offset = this.unitsFrom + unit * this.unitBytes
      const last = extents.at(-1)
      if (last && last[0] + last[1] === offset) last[1] += this.unitBytes
      else extents.push([offset, this.unitBytes])
    }
    return left === 0 && !this.allocated.has(start - 2) ? extents : null
  }

  private extentsOf(clusters: readonly number[], bytes: number): Extent[] {
    return joinedExtents(
      clusters.map((cluster): Extent => [this.unitsFrom + (cluster - 2) * this.unitBytes, this.unitBytes]),
      bytes,
    )
  }

  private folderClusters(cluster: number, where: string): readonly number[] {
    const most = Math.ceil(MAX_FOLDER_BYTES / this.unitBytes)
    const chains = [this.table, ...this.otherTables].map((table) => table.chain(cluster, most))
    const found =
      chains.find(({ isWhole }) => isWhole) ?? chains.sort((a, b) => b.clusters.length - a.clusters.length)[0]!
    if (!found.isWhole) this.warn(where, 'the cluster chain of the directory ends early or is circular')
    else if (found !== chains[0]) this.warn(where, OTHER_COPY)
    return found.clusters
  }

  /**
   * A deleted directory has no chain left: its first cluster, and those after it while they are free and contain
   * entries.
   */
  private freedFolder(cluster: number): readonly number[] {
    const clusters = [cluster]
    for (let next = cluster + 1; this.table.isCluster(next) && clusters.length < 64; next++) {
      if (this.allocated.has(next - 2)) break
      const [first] = readEntries(this.bytesOf([next]).subarray(0, 4096))
      if (!first || !looksSound(first)) break
      clusters.push(next)
    }
    return this.allocated.has(cluster - 2) ? [] : clusters
  }

  private bytesOf(clusters: readonly number[]): Uint8Array {
    const bytes = new Uint8Array(clusters.length * this.unitBytes)
    for (const [at, cluster] of clusters.entries())
      bytes.set(
        this.volume.read(this.geometry.dataAt + (cluster - 2) * this.unitBytes, this.unitBytes),
        at * this.unitBytes,
      )
    return bytes
  }

  private warn(where: string, what: string): void {
    if (this.warnings.length < 1000) this.warnings.push({ where, what })
  }
}

function fileRecord(
  { size, created, modified }: FolderEntry,
  path: string,
  record: 'present' | 'deleted',
  extents: readonly Extent[],
  otherExtents: readonly (readonly Extent[])[],
  isChainRecorded: boolean,
  fault: string | null,
): FileRecord {
  return {
    path,
    record,
    bytes: size,
    created,
    modified,
    deleted: null,
    extents,
    otherExtents,
    isChainRecorded,
    content: null,
    fault,
  }
}

function isFolderStart(bytes: Uint8Array): boolean {
  const name = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 11))
  return name(0) === '.          ' && name(32) === '..         '
}

const looksSound = (entry: FolderEntry) =>
  entry.modified !== null && ![...entry.name].some((character) => character < ' ')
