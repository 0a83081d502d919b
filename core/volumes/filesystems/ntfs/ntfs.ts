import { Reader } from '../../../sources/reader'
import { bytesSource, HOLE, piecesSource, sliceSource, type ByteSource, type Extent } from '../../../sources/source'
import type { ScanWarning } from '../volume-shape'
import {
  joinedExtents,
  NO_LAYOUTS,
  type FileRecord,
  type FileSystem,
  type Recognise,
  type Traces,
} from '../file-system'
import { UnitMap } from '../unit-map'
import { CompressedSource } from './compressed'
import { ATTRIBUTE, BOOT, FILE_NAME, INDEX, LIST_ENTRY, MFT_RECORD, RECORD, STANDARD, TYPE } from './layout'
import { oldEntries, type OldEntry } from './old-entries'
import { momentOf, putBack, readRecord, utf16, wide, type Attribute, type MftRecord } from './record'
import type { Run } from './runs'

const MOST_DEPTH = 128
const MOST_LIST_BYTES = 1024 * 1024
const BATCH_BYTES = 1024 * 1024
/** The names of one file in the tongue of the oldest programs; the long one is told. */
const SHORT_NAMESPACE = 2

interface Geometry {
  readonly sectorBytes: number
  readonly clusterBytes: number
  readonly recordBytes: number
  /** of a block of a folder */
  readonly folderBlockBytes: number
  readonly mftCluster: number
  readonly mirrorCluster: number
  readonly clusters: number
}

/** NTFS, as its structures are described in the open documentation of its drivers. */
export const recogniseNtfs: Recognise = (image, offset, length) => {
  const volume = sliceSource(image, offset, length)
  const reader = new Reader(volume)
  const first = geometryAt(reader, 0)
  if (first) return new Ntfs(volume, offset, first, false)
  // The copy of the boot sector stands in the last sector of the partition, right behind the volume.
  const backup = geometryAt(reader, Math.floor(length / 512) * 512 - 512)
  return backup ? new Ntfs(volume, offset, backup, true) : null
}

function geometryAt(reader: Reader, at: number): Geometry | null {
  if (!reader.has(at, 512) || !reader.is(at + BOOT.name, BOOT.signature)) return null
  const sectorBytes = reader.u16le(at + BOOT.bytesPerSector)
  const perCluster = reader.u8(at + BOOT.sectorsPerCluster)
  if (![256, 512, 1024, 2048, 4096].includes(sectorBytes) || perCluster === 0) return null
  // Large clusters are told as a power of two with its sign changed.
  const clusterBytes = perCluster > 128 ? sectorBytes * 2 ** (256 - perCluster) : sectorBytes * perCluster
  // A size is told in clusters, or as a power of two with its sign changed.
  const sizeAt = (place: number) => {
    const size = (reader.u8(at + place) << 24) >> 24
    return size > 0 ? size * clusterBytes : 2 ** -size
  }
  const [recordBytes, folderBlockBytes] = [sizeAt(BOOT.recordSize), sizeAt(BOOT.folderBlockSize)]
  if (recordBytes < 256 || recordBytes > 65_536 || clusterBytes > 2 ** 21) return null
  return {
    sectorBytes,
    clusterBytes,
    recordBytes,
    folderBlockBytes: Math.max(512, Math.min(65_536, folderBlockBytes)),
    mftCluster: reader.u64le(at + BOOT.mftCluster),
    mirrorCluster: reader.u64le(at + BOOT.mirrorCluster),
    clusters: Math.min(
      Math.floor((reader.u64le(at + BOOT.sectors) * sectorBytes) / clusterBytes),
      Math.ceil(reader.size / clusterBytes),
    ),
  }
}

/** A name by which a record is known, and in which folder. */
interface Name {
  readonly name: string
  readonly parent: number
  readonly parentSequence: number
}

interface Known {
  readonly name: Name
  readonly sequence: number
  readonly isInUse: boolean
}

interface Folder {
  readonly number: number
  readonly sequence: number
}

interface OldName {
  readonly folder: Folder
  readonly entry: OldEntry
}

const MOST_FOLDER_BYTES = 256 * 1024 * 1024
const ROOT_FOLDER = [MFT_RECORD.root, { sequence: MFT_RECORD.root, isInUse: true }] as const
const keyOfName = (parent: number, name: string) => `${parent}/${name}`

class Ntfs implements FileSystem {
  readonly kind = 'NTFS'
  readonly label: string | null
  readonly unitBytes: number
  readonly unitsFrom: number
  readonly allocated: UnitMap
  readonly warnings: ScanWarning[] = []
  private readonly mft: ByteSource
  private readonly mftExtents: readonly Extent[]
  private readonly folders = new Map<number, Known>()
  private isSomeRecordReused = false
  private isSomeRecordLost = false
  /** how far the table of records was ever written, in bytes */
  private tableWritten = Infinity
  private recent: { from: number; bytes: Uint8Array } | null = null

  constructor(
    private readonly volume: ByteSource,
    private readonly offset: number,
    private readonly geometry: Geometry,
    isBackup: boolean,
  ) {
    this.unitBytes = geometry.clusterBytes
    this.unitsFrom = offset
    if (isBackup) this.warn('boot sector', 'is damaged; the copy of it was read')
    this.mftExtents = this.findMft()
    this.mft = piecesSource(volume, this.mftExtents)
    this.label = this.labelOf()
    const bitmap = this.record(MFT_RECORD.bitmap)?.attributes.find((one) => one.type === TYPE.data && one.name === '')
    const bits = bitmap ? this.contentOf(bitmap, bitmap.runs) : null
    this.allocated = new UnitMap(geometry.clusters, bits?.read(0, Math.ceil(geometry.clusters / 8)))
    if (!bits) this.warn('$Bitmap', 'can not be read: everything counts as free')
  }

  /** Records of an earlier table: only the first ones of it were written over by the new table. */
  readonly traces: Traces = {
    begins: (block, at) =>
      block[at] === 0x46 && block[at + 1] === 0x49 && block[at + 2] === 0x4c && block[at + 3] === 0x45,
    files: (places) => this.filesOfTraces(places),
    layouts: NO_LAYOUTS,
  }

  private *filesOfTraces(places: readonly number[]): Iterable<FileRecord> {
    const { recordBytes, sectorBytes } = this.geometry
    const recordAt = (place: number) => {
      const bytes = new Uint8Array(this.volume.read(place - this.offset, recordBytes))
      const record = bytes.length === recordBytes ? readRecord(bytes, sectorBytes) : null
      // A record knows its own number since the third version of the format.
      const isNumbered = record !== null && viewOf(bytes).getUint16(RECORD.fixupAt, true) >= RECORD.number + 4
      return isNumbered ? { record, number: viewOf(bytes).getUint32(RECORD.number, true) } : null
    }
    const folders = new Map<number, Known>()
    for (const place of places) {
      const own = recordAt(place)
      const [name] = own?.record.isFolder && own.record.base === 0 ? namesOf(own.record.attributes) : []
      if (own && name) folders.set(own.number, { name, sequence: own.record.sequence, isInUse: own.record.isInUse })
    }
    for (const place of places) {
      const own = recordAt(place)
      if (!own || own.record.isFolder || own.record.base !== 0) continue
      const [name] = namesOf(own.record.attributes)
      if (!name || name.name.startsWith('$')) continue
      const where = { place, again: () => recordAt(place)?.record ?? null }
      for (const file of this.filesOf(own.record, own.record.attributes, this.pathOf(name, folders), where))
        yield { ...file, record: 'deleted' }
    }
  }

  hasEveryRecord(): boolean {
    return !this.isSomeRecordReused && !this.isSomeRecordLost
  }
  hasLostRecords(): boolean {
    return this.isSomeRecordLost
  }

  *files(): Iterable<FileRecord> {
    const count = Math.floor(this.mft.size / this.geometry.recordBytes)
    const extensions = new Map<number, number[]>()
    let readable = 0
    // Folders and records that go on elsewhere are known only after all records were read once. Nothing of the others is
    // kept from that, so that their number does not matter.
    for (const [number, record] of this.records(count, (goesOn, isFolder) => isFolder && !goesOn)) {
      if (number >= MFT_RECORD.firstOfFiles) readable++
      if (record.base !== 0) {
        if (number >= MFT_RECORD.firstOfFiles) {
          const own = extensions.get(record.base) ?? []
          own.push(number)
          extensions.set(record.base, own)
        }
        continue
      }
      if (record.sequence > (record.isInUse ? 1 : 2) && number >= MFT_RECORD.firstOfFiles)
        this.isSomeRecordReused = true
      const [name] = record.isFolder ? namesOf(record.attributes) : []
      if (name) this.folders.set(number, { name, sequence: record.sequence, isInUse: record.isInUse })
    }
    // Each record of the table was written once, also where no file has it.
    this.isSomeRecordLost = readable < this.recordsOfFiles()
    const old = new Map<string, OldName>()
    for (const [number, { sequence, isInUse }] of [ROOT_FOLDER, ...this.folders])
      if (isInUse) this.gatherOld({ number, sequence }, extensions.get(number) ?? [], old)
    for (const [number, record] of this.records(count, (goesOn, isFolder) => !goesOn && !isFolder)) {
      if (record.base !== 0 || record.isFolder || number < MFT_RECORD.firstOfFiles) continue
      const attributes = this.withList(record, extensions.get(number) ?? [])
      const names = namesOf(attributes)
      const [name] = names
      for (const one of names) old.delete(keyOfName(one.parent, one.name))
      const path = name ? this.pathOf(name) : record.isInUse ? null : `record ${number}`
      if (path === null || path.startsWith('$Extend/')) continue
      yield* this.filesOf(record, attributes, path, {
        place: this.placeOfRecord(number),
        again: () => this.record(number),
      })
    }
    for (const { folder, entry } of old.values()) yield* this.oldFile(folder, entry)
  }

  /** The names that are left in what a folder does not use of its blocks any more. */
  private gatherOld(folder: Folder, extensions: readonly number[], into: Map<string, OldName>): void {
    const { folderBlockBytes } = this.geometry
    const own = this.record(folder.number)
    if (!own) return
    for (const part of this.withList(own, extensions)) {
      if (part.type !== TYPE.folderBlocks || part.content) continue
      const source = this.contentOf(part, part.runs)
      const size = Math.min(source.size, MOST_FOLDER_BYTES)
      for (let at = 0; at < size; at += BATCH_BYTES) {
        const batch = new Uint8Array(source.read(at, Math.min(BATCH_BYTES, size - at)))
        for (let block = 0; block + folderBlockBytes <= batch.length; block += folderBlockBytes)
          for (const entry of this.oldInBlock(batch.subarray(block, block + folderBlockBytes), folder))
            into.set(keyOfName(folder.number, entry.name), { folder, entry })
      }
    }
  }

  private oldInBlock(block: Uint8Array, folder: Folder): Iterable<OldEntry> {
    const view = viewOf(block)
    if (view.getUint32(0) !== INDEX.signature || !putBack(block, view, this.geometry.sectorBytes)) return []
    const used = INDEX.head + view.getUint32(INDEX.usedBytes, true)
    // The mark of the end is the last thing that is used; a name may begin inside of it.
    return oldEntries(block, [Math.max(INDEX.head, used - INDEX.name - 8), block.length], folder)
  }

  private *oldFile(folder: Folder, entry: OldEntry): Iterable<FileRecord> {
    const now = entry.record && this.record(entry.record.number)
    // It was given another name, or is told by its own record.
    const isTold =
      now && (now.sequence === entry.record.sequence || (!now.isInUse && now.sequence === entry.record.sequence + 1))
    if (isTold || entry.isFolder || entry.name.startsWith('$')) return
    yield {
      path: this.pathOf({ name: entry.name, parent: folder.number, parentSequence: folder.sequence }),
      record: 'deleted',
      bytes: entry.bytes,
      created: entry.created,
      modified: entry.modified,
      deleted: null,
      extents: [],
      otherExtents: [],
      isChainRecorded: true,
      content: null,
      fault: 'its name is left in its folder; its record was given to another file',
    }
  }

  private *filesOf(
    record: MftRecord,
    attributes: readonly Attribute[],
    path: string,
    where: Where,
  ): Iterable<FileRecord> {
    const standard = attributes.find(({ type }) => type === TYPE.standard)?.content
    const view = standard && standard.length >= 16 ? viewOf(standard) : null
    const streams = new Map<string, Attribute[]>()
    for (const one of attributes)
      if (one.type === TYPE.data) streams.set(one.name, [...(streams.get(one.name) ?? []), one])
    for (const [name, parts] of streams) {
      // A stream beside the content is told as a file of its own where it is more than a mark.
      if (name !== '' && parts[0]!.bytes < 1024) continue
      const own = this.streamOf(parts, where)
      if (own.isEncrypted) this.warn(path, 'is encrypted by its file system: its content is of no use without the key')
      if (own.fault && record.isInUse) this.warn(path, own.fault)
      yield {
        path: name === '' ? path : `${path}:${name}`,
        record: record.isInUse ? 'present' : 'deleted',
        bytes: own.bytes,
        created: view ? momentOf(view, STANDARD.created) : null,
        modified: view ? momentOf(view, STANDARD.modified) : null,
        deleted: null,
        extents: own.extents,
        otherExtents: [],
        isChainRecorded: true,
        content: own.content,
        fault: own.fault,
      }
    }
  }

  private streamOf(parts: readonly Attribute[], where: Where) {
    const sorted = [...parts].sort((a, b) => a.firstCluster - b.firstCluster)
    const first = sorted[0]!
    const isEncrypted = (first.flags & ATTRIBUTE.encrypted) !== 0
    if (first.content) {
      const at = where.place
      const extents: Extent[] = at !== null && first.bytes > 0 ? [[at + first.contentAt, first.bytes]] : []
      return { bytes: first.bytes, extents, content: kept(where, first), isEncrypted, fault: null }
    }
    let next = 0
    let fault: string | null = null
    const runs: Run[] = []
    for (const part of sorted) {
      if (part.firstCluster !== next) fault = 'some of its list of runs is lost'
      runs.push(...part.runs)
      next = part.firstCluster + part.runs.reduce((sum, run) => sum + run.count, 0)
    }
    const { clusterBytes, clusters } = this.geometry
    if (runs.some((run) => run.cluster !== null && run.cluster + run.count > clusters))
      fault = 'its runs lead out of the volume'
    const inside = runs.filter((run) => run.cluster === null || run.cluster + run.count <= clusters)
    const { bytes } = first
    if (next * clusterBytes < first.bytes) fault ??= 'its list of runs is shorter than the file'
    if ((first.flags & ATTRIBUTE.compressed) !== 0 && first.compressionUnit > 0) {
      const written = inside.filter((run) => run.cluster !== null)
      const extents = joinedExtents(
        written.map((run) => this.extentOf(run)),
        Infinity,
      )
      const content = new CompressedSource(
        { source: this.volume, place: [this.offset, this.volume.size] },
        { clusterBytes, unitClusters: 2 ** Math.min(8, first.compressionUnit) },
        inside,
        bytes,
      )
      return { bytes, extents, content, isEncrypted, fault }
    }
    const valid = Math.min(first.validBytes, bytes)
    const extents = joinedExtents(
      inside.map((run) => this.extentOf(run)),
      valid,
    )
    if (valid < bytes && fault === null) extents.push([HOLE, bytes - valid])
    return { bytes, extents, content: null, isEncrypted, fault }
  }

  private extentOf({ cluster, count }: Run): Extent {
    const { clusterBytes } = this.geometry
    return cluster === null
      ? [HOLE, count * clusterBytes]
      : [this.offset + cluster * clusterBytes, count * clusterBytes]
  }

  /** The attributes of a record, with those that lie in other records since it was full. */
  private withList(record: MftRecord, extensions: readonly number[]): readonly Attribute[] {
    const list = record.attributes.find(({ type }) => type === TYPE.list)
    if (!list) return record.attributes
    if (extensions.length > 0)
      return [...record.attributes, ...extensions.flatMap((other) => this.record(other)?.attributes ?? [])]
    const bytes = list.content ?? this.contentOf(list, list.runs).read(0, Math.min(list.bytes, MOST_LIST_BYTES))
    const all = [...record.attributes]
    for (const other of recordsInList(bytes)) {
      const part = this.record(other)
      if (part && part.base !== 0) all.push(...part.attributes)
    }
    return all
  }

  private contentOf(attribute: Attribute, runs: readonly Run[]): ByteSource {
    if (attribute.content) return bytesSource(attribute.content)
    const { clusterBytes, clusters } = this.geometry
    const inside = runs.filter((run) => run.cluster === null || run.cluster + run.count <= clusters)
    return piecesSource(
      this.volume,
      joinedExtents(
        inside.map(({ cluster, count }): Extent => [
          cluster === null ? HOLE : cluster * clusterBytes,
          count * clusterBytes,
        ]),
        attribute.bytes,
      ),
    )
  }

  /** Where the table of all records lies: its first record says it, or the copy of that in the mirror. */
  private findMft(): readonly Extent[] {
    const { mftCluster, mirrorCluster, clusterBytes, recordBytes, sectorBytes } = this.geometry
    for (const [at, where] of [
      [mftCluster * clusterBytes, '$MFT'],
      [mirrorCluster * clusterBytes, '$MFTMirr'],
    ] as const) {
      if (!Number.isSafeInteger(at)) continue
      const record = readRecord(new Uint8Array(this.volume.read(at, recordBytes)), sectorBytes)
      const data = record?.attributes.filter(({ type, name }) => type === TYPE.data && name === '') ?? []
      if (data.length === 0) {
        this.warn(where, 'its first record is damaged')
        continue
      }
      this.tableWritten = data[0]!.validBytes
      return this.mftParts(record!, data)
    }
    this.warn('$MFT', 'was not found: no file can be told by its record')
    return []
  }

  /** How many records for files the table must have: as far as it was ever written. */
  private recordsOfFiles(): number {
    return Math.floor(this.tableWritten / this.geometry.recordBytes) - MFT_RECORD.firstOfFiles
  }

  /** The table itself may be in so many pieces that their list lies in further records of it. */
  private mftParts(record: MftRecord, data: readonly Attribute[]): readonly Extent[] {
    const { clusterBytes, recordBytes, sectorBytes, clusters } = this.geometry
    const extentsOf = (parts: readonly Attribute[]) =>
      joinedExtents(
        [...parts]
          .sort((a, b) => a.firstCluster - b.firstCluster)
          .flatMap((part) => part.runs)
          .filter((run) => run.cluster !== null && run.cluster + run.count <= clusters)
          .map(({ cluster, count }): Extent => [cluster! * clusterBytes, count * clusterBytes]),
        data[0]!.bytes,
      )
    const list = record.attributes.find(({ type }) => type === TYPE.list)
    if (!list) return extentsOf(data)
    const parts = [...data]
    const bytes = list.content ?? this.contentOf(list, list.runs).read(0, Math.min(list.bytes, MOST_LIST_BYTES))
    for (const number of recordsInList(bytes)) {
      if (number === 0) continue
      const known = piecesSource(this.volume, extentsOf(parts))
      const other = readRecord(new Uint8Array(known.read(number * recordBytes, recordBytes)), sectorBytes)
      parts.push(...(other?.attributes.filter(({ type, name }) => type === TYPE.data && name === '') ?? []))
    }
    return extentsOf(parts)
  }

  private *records(
    count: number,
    isWanted: (goesOn: boolean, isFolder: boolean) => boolean,
  ): Iterable<[number, MftRecord]> {
    const { recordBytes, sectorBytes } = this.geometry
    const perBatch = Math.max(1, Math.floor(BATCH_BYTES / recordBytes))
    for (let from = 0; from < count; from += perBatch) {
      const batch = new Uint8Array(this.mft.read(from * recordBytes, Math.min(perBatch, count - from) * recordBytes))
      for (let at = 0; at + recordBytes <= batch.length; at += recordBytes) {
        const record = readRecord(batch.subarray(at, at + recordBytes), sectorBytes, isWanted)
        if (record) yield [from + at / recordBytes, record]
      }
    }
  }

  private record(number: number): MftRecord | null {
    const { recordBytes, sectorBytes } = this.geometry
    const perBatch = Math.max(1, Math.floor(BATCH_BYTES / recordBytes))
    const from = Math.floor(number / perBatch) * perBatch
    // Records are mostly asked for in order: their neighbours are read along with them.
    if (this.recent?.from !== from)
      this.recent = { from, bytes: this.mft.read(from * recordBytes, perBatch * recordBytes) }
    const at = (number - from) * recordBytes
    return readRecord(new Uint8Array(this.recent.bytes.subarray(at, at + recordBytes)), sectorBytes)
  }

  private placeOfRecord(number: number): number | null {
    let left = number * this.geometry.recordBytes
    for (const [offset, length] of this.mftExtents) {
      if (left < length) return this.offset + offset + left
      left -= length
    }
    return null
  }

  /** The folders down to a file. Where a folder's record was given to another since, the path begins there anew. */
  private pathOf(name: Name, folders: ReadonlyMap<number, Known> = this.folders): string {
    const names = [name.name]
    let { parent, parentSequence } = name
    for (let depth = 0; parent !== MFT_RECORD.root; depth++) {
      const folder = folders.get(parent)
      const isSame =
        folder && (folder.sequence === parentSequence || (!folder.isInUse && folder.sequence === parentSequence + 1))
      if (!isSame || depth > MOST_DEPTH) {
        names.unshift('lost folder')
        break
      }
      names.unshift(folder.name.name)
      parentSequence = folder.name.parentSequence
      parent = folder.name.parent
    }
    return names.join('/')
  }

  private labelOf(): string | null {
    const content = this.record(MFT_RECORD.volume)?.attributes.find(({ type }) => type === TYPE.volumeName)?.content
    const label = content ? utf16(viewOf(content), 0, content.length >> 1) : ''
    return label === '' ? null : label
  }

  private warn(where: string, what: string): void {
    if (this.warnings.length < 1000) this.warnings.push({ where, what })
  }
}

/** Where a record lies, and how it is read once more. */
interface Where {
  /** in bytes of the image */
  readonly place: number | null
  readonly again: () => MftRecord | null
}

/** Content that is kept in a record, read from there when it is wanted. */
function kept({ again }: Where, { id, bytes }: Attribute): ByteSource {
  return {
    size: bytes,
    read: (offset, length) => {
      const own = again()?.attributes.find((one) => one.id === id && one.type === TYPE.data)
      return own?.content?.subarray(offset, Math.min(bytes, offset + length)) ?? new Uint8Array(0)
    },
  }
}

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.length)

/** The names of a record, the long one first. */
function namesOf(attributes: readonly Attribute[]): Name[] {
  const names: (Name & { namespace: number })[] = []
  for (const { type, content } of attributes) {
    if (type !== TYPE.fileName || !content || content.length < FILE_NAME.name) continue
    const view = viewOf(content)
    names.push({
      name: utf16(view, FILE_NAME.name, content[FILE_NAME.length]!),
      parent: view.getUint32(FILE_NAME.parent, true) + view.getUint16(FILE_NAME.parent + 4, true) * 2 ** 32,
      parentSequence: view.getUint16(FILE_NAME.parent + 6, true),
      namespace: content[FILE_NAME.namespace]!,
    })
  }
  return names.sort((a, b) => Number(a.namespace === SHORT_NAMESPACE) - Number(b.namespace === SHORT_NAMESPACE))
}

function* recordsInList(bytes: Uint8Array): Iterable<number> {
  const view = viewOf(bytes)
  const seen = new Set<number>()
  for (let at = 0; at + LIST_ENTRY.least <= bytes.length;) {
    const length = view.getUint16(at + LIST_ENTRY.length, true)
    if (length < LIST_ENTRY.least) return
    const number = wide(view, at + LIST_ENTRY.record) % 2 ** 48
    if (!seen.has(number)) {
      seen.add(number)
      yield number
    }
    at += length
  }
}
