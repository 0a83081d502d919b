import { Reader } from '../../../sources/reader'
import { sliceSource, type ByteSource, type Extent } from '../../../sources/source'
import type { ScanWarning } from '../volume-shape'
import { NO_LAYOUTS, type FileRecord, type FileSystem, type FileSystemFormat, type Traces } from '../file-system'
import { UnitMap } from '../unit-map'
import { geometryAt, type Geometry } from './boot'
import { INDEX, MFT_RECORD, RECORD, STANDARD, TYPE } from './layout'
import { namesOf, pathOf, type Folder, type KnownFolder } from './names'
import { oldEntries, type OldEntry } from './old-entries'
import { momentOf, putBack, readRecord, utf16, viewOf, type Attribute, type MftRecord } from './record'
import { RecordTable } from './record-table'
import { streamOf, type OnVolume, type Where } from './streams'

const BATCH_BYTES = 1024 * 1024
const MAX_FOLDER_BYTES = 256 * 1024 * 1024
const MAX_WARNINGS = 1000

/** NTFS, as its structures are described in the open documentation of its drivers. */
export const ntfs: FileSystemFormat = { kinds: ['NTFS'], recognise, startsAt }

function recognise(image: ByteSource, offset: number, length: number): FileSystem | null {
  const volume = sliceSource(image, offset, length)
  const reader = new Reader(volume)
  const first = geometryAt(reader, 0)
  if (first) return new Ntfs(volume, offset, first, false)
  // The backup boot sector is in the last sector of the partition, right behind the volume.
  const backup = geometryAt(reader, Math.floor(length / 512) * 512 - 512)
  return backup ? new Ntfs(volume, offset, backup, true) : null
}

function startsAt(image: Reader, at: number): readonly Extent[] {
  const boot = geometryAt(image, at)
  if (!boot) return []
  const { mftCluster, mirrorCluster, clusterBytes, bytes, sectorBytes } = boot
  return [at, at - bytes + sectorBytes]
    .filter((start) => [mftCluster, mirrorCluster].some((cluster) => image.is(start + cluster * clusterBytes, 'FILE')))
    .map((start): Extent => [start, bytes])
}

interface OldName {
  readonly folder: Folder
  readonly entry: OldEntry
}

const ROOT_FOLDER = [MFT_RECORD.root, { sequence: MFT_RECORD.root, isInUse: true }] as const
const keyOfName = (parent: number, name: string) => `${parent}/${name}`

class Ntfs implements FileSystem {
  readonly kind = 'NTFS'
  readonly label: string | null
  readonly bytes: number
  readonly unitBytes: number
  readonly unitsFrom: number
  readonly allocated: UnitMap
  readonly warnings: ScanWarning[] = []
  private readonly on: OnVolume
  private readonly table: RecordTable
  private readonly folders = new Map<number, KnownFolder>()
  private isSomeRecordReused = false
  private isSomeRecordLost = false

  constructor(
    private readonly volume: ByteSource,
    private readonly offset: number,
    private readonly geometry: Geometry,
    isBackup: boolean,
  ) {
    this.bytes = geometry.bytes
    this.unitBytes = geometry.clusterBytes
    this.unitsFrom = offset
    if (isBackup) this.warn('boot sector', 'is damaged; its backup copy was used')
    this.on = { volume, offset, geometry }
    this.table = new RecordTable(this.on, (where, what) => this.warn(where, what))
    this.label = this.labelOf()
    const bitmap = this.table
      .record(MFT_RECORD.bitmap)
      ?.attributes.find((one) => one.type === TYPE.data && one.name === '')
    const bits = bitmap ? this.table.contentOf(bitmap, bitmap.runs) : null
    this.allocated = new UnitMap(geometry.clusters, bits?.read(0, Math.ceil(geometry.clusters / 8)))
    if (!bits) this.warn('$Bitmap', 'cannot be read: all clusters count as free')
  }

  /** Records of an earlier table: the new table overwrote only the first of them. */
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
      // Since version 3 of the format, a record contains its own number.
      const isNumbered = record !== null && viewOf(bytes).getUint16(RECORD.fixupAt, true) >= RECORD.number + 4
      return isNumbered ? { record, number: viewOf(bytes).getUint32(RECORD.number, true) } : null
    }
    const folders = new Map<number, KnownFolder>()
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
      for (const file of this.filesOf(own.record, own.record.attributes, pathOf(name, folders), where))
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
    const extensions = new Map<number, number[]>()
    let readable = 0
    // Directories and records that extend others are known only after all records were read once. Nothing of the others
    // is kept from that, so their number does not matter.
    for (const [number, record] of this.table.records((goesOn, isFolder) => isFolder && !goesOn)) {
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
    // Every record of the table was written once, even if no file has ever used it.
    this.isSomeRecordLost = readable < this.table.recordsOfFiles()
    const old = new Map<string, OldName>()
    for (const [number, { sequence, isInUse }] of [ROOT_FOLDER, ...this.folders])
      if (isInUse) this.gatherOld({ number, sequence }, extensions.get(number) ?? [], old)
    for (const [number, record] of this.table.records((goesOn, isFolder) => !goesOn && !isFolder)) {
      if (record.base !== 0 || record.isFolder || number < MFT_RECORD.firstOfFiles) continue
      const attributes = this.table.attributesOf(record, extensions.get(number) ?? [])
      const names = namesOf(attributes)
      const [name] = names
      for (const one of names) old.delete(keyOfName(one.parent, one.name))
      const path = name ? pathOf(name, this.folders) : record.isInUse ? null : `record ${number}`
      if (path === null || path.startsWith('$Extend/')) continue
      yield* this.filesOf(record, attributes, path, {
        place: this.table.placeOf(number),
        again: () => this.table.record(number),
      })
    }
    for (const { folder, entry } of old.values()) yield* this.oldFile(folder, entry)
  }

  /** The old names in the unused parts of a directory's index blocks. */
  private gatherOld(folder: Folder, extensions: readonly number[], into: Map<string, OldName>): void {
    const { folderBlockBytes } = this.geometry
    const own = this.table.record(folder.number)
    if (!own) return
    for (const part of this.table.attributesOf(own, extensions)) {
      if (part.type !== TYPE.folderBlocks || part.content) continue
      const source = this.table.contentOf(part, part.runs)
      const size = Math.min(source.size, MAX_FOLDER_BYTES)
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
    // The end entry is the last that is in use; an old name may begin inside it.
    return oldEntries(block, [Math.max(INDEX.head, used - INDEX.name - 8), block.length], folder)
  }

  private *oldFile(folder: Folder, entry: OldEntry): Iterable<FileRecord> {
    const now = entry.record && this.table.record(entry.record.number)
    // It was renamed, or its own record reports it.
    const isTold =
      now && (now.sequence === entry.record.sequence || (!now.isInUse && now.sequence === entry.record.sequence + 1))
    if (isTold || entry.isFolder || entry.name.startsWith('$')) return
    yield {
      path: pathOf({ name: entry.name, parent: folder.number, parentSequence: folder.sequence }, this.folders),
      record: 'deleted',
      bytes: entry.bytes,
      created: entry.created,
      modified: entry.modified,
      deleted: null,
      extents: [],
      otherExtents: [],
      isChainRecorded: true,
      content: null,
      fault: 'only its name is left in its directory; its record was reused by another file',
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
      // An alternate data stream is reported as a file of its own where it is more than a marker.
      if (name !== '' && parts[0]!.bytes < 1024) continue
      const own = streamOf(parts, where, this.on)
      if (own.isEncrypted) this.warn(path, 'is encrypted by the file system: its content is useless without the key')
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

  private labelOf(): string | null {
    const content = this.table
      .record(MFT_RECORD.volume)
      ?.attributes.find(({ type }) => type === TYPE.volumeName)?.content
    const label = content ? utf16(viewOf(content), 0, content.length >> 1) : ''
    return label === '' ? null : label
  }

  private warn(where: string, what: string): void {
    if (this.warnings.length < MAX_WARNINGS) this.warnings.push({ where, what })
  }
}
