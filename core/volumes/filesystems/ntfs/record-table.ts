import { bytesSource, HOLE, piecesSource, type ByteSource, type Extent } from '../../../sources/source'
import { joinedExtents } from '../file-system'
import { LIST_ENTRY, MFT_RECORD, TYPE } from './layout'
import { readRecord, viewOf, wide, type Attribute, type MftRecord } from './record'
import type { Run } from './runs'
import type { OnVolume } from './streams'

const MAX_LIST_BYTES = 1024 * 1024
const BATCH_BYTES = 1024 * 1024

/** The master file table of a volume: its records by number, however fragmented it is. */
export class RecordTable {
  private readonly table: ByteSource
  private readonly extents: readonly Extent[]
  /** the initialised length of the table, in bytes */
  private tableWritten = Infinity
  private recent: { from: number; bytes: Uint8Array } | null = null

  constructor(
    private readonly on: OnVolume,
    private readonly warn: (where: string, what: string) => void,
  ) {
    this.extents = this.find()
    this.table = piecesSource(on.volume, this.extents)
  }

  /** The attributes of a record, with those in its extension records. */
  attributesOf(record: MftRecord, extensions: readonly number[]): readonly Attribute[] {
    const list = record.attributes.find(({ type }) => type === TYPE.list)
    if (!list) return record.attributes
    if (extensions.length > 0)
      return [...record.attributes, ...extensions.flatMap((other) => this.record(other)?.attributes ?? [])]
    const bytes = list.content ?? this.contentOf(list, list.runs).read(0, Math.min(list.bytes, MAX_LIST_BYTES))
    const all = [...record.attributes]
    for (const other of recordsInList(bytes)) {
      const part = this.record(other)
      if (part && part.base !== 0) all.push(...part.attributes)
    }
    return all
  }

  contentOf(attribute: Attribute, runs: readonly Run[]): ByteSource {
    if (attribute.content) return bytesSource(attribute.content)
    const { clusterBytes, clusters } = this.on.geometry
    const inside = runs.filter((run) => run.cluster === null || run.cluster + run.count <= clusters)
    return piecesSource(
      this.on.volume,
      joinedExtents(
        inside.map(({ cluster, count }): Extent => [
          cluster === null ? HOLE : cluster * clusterBytes,
          count * clusterBytes,
        ]),
        attribute.bytes,
      ),
    )
  }

  /** The runs of the table: its first record lists them, or the copy of that in the mirror. */
  private find(): readonly Extent[] {
    const { mftCluster, mirrorCluster, clusterBytes, recordBytes, sectorBytes } = this.on.geometry
    for (const [at, where] of [
      [mftCluster * clusterBytes, '$MFT'],
      [mirrorCluster * clusterBytes, '$MFTMirr'],
    ] as const) {
      if (!Number.isSafeInteger(at)) continue
      const record = readRecord(new Uint8Array(this.on.volume.read(at, recordBytes)), sectorBytes)
      const data = record?.attributes.filter(({ type, name }) => type === TYPE.data && name === '') ?? []
      if (data.length === 0) {
        this.warn(where, 'its first record is damaged')
        continue
      }
      this.tableWritten = data[0]!.validBytes
      return this.parts(record!, data)
    }
    this.warn('$MFT', 'was not found: no file can be recovered by its record')
    return []
  }

  /** The number of file records of the table, by its initialised length. */
  recordsOfFiles(): number {
    return Math.floor(this.tableWritten / this.on.geometry.recordBytes) - MFT_RECORD.firstOfFiles
  }

  /** A very fragmented table lists some of its runs in extension records of its own. */
  private parts(record: MftRecord, data: readonly Attribute[]): readonly Extent[] {
    const { clusterBytes, recordBytes, sectorBytes, clusters } = this.on.geometry
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
    const bytes = list.content ?? this.contentOf(list, list.runs).read(0, Math.min(list.bytes, MAX_LIST_BYTES))
    for (const number of recordsInList(bytes)) {
      if (number === 0) continue
      const known = piecesSource(this.on.volume, extentsOf(parts))
      const other = readRecord(new Uint8Array(known.read(number * recordBytes, recordBytes)), sectorBytes)
      parts.push(...(other?.attributes.filter(({ type, name }) => type === TYPE.data && name === '') ?? []))
    }
    return extentsOf(parts)
  }

  *records(isWanted: (goesOn: boolean, isFolder: boolean) => boolean): Iterable<[number, MftRecord]> {
    const { recordBytes, sectorBytes } = this.on.geometry
    const perBatch = Math.max(1, Math.floor(BATCH_BYTES / recordBytes))
    const count = Math.floor(this.table.size / recordBytes)
    for (let from = 0; from < count; from += perBatch) {
      const batch = new Uint8Array(this.table.read(from * recordBytes, Math.min(perBatch, count - from) * recordBytes))
      for (let at = 0; at + recordBytes <= batch.length; at += recordBytes) {
        const record = readRecord(batch.subarray(at, at + recordBytes), sectorBytes, isWanted)
        if (record) yield [from + at / recordBytes, record]
      }
    }
  }

  record(number: number): MftRecord | null {
    const { recordBytes, sectorBytes } = this.on.geometry
    const perBatch = Math.max(1, Math.floor(BATCH_BYTES / recordBytes))
    const from = Math.floor(number / perBatch) * perBatch
    // Records are mostly read in order, so their neighbours are read along with them.
    if (this.recent?.from !== from)
      this.recent = { from, bytes: this.table.read(from * recordBytes, perBatch * recordBytes) }
    const at = (number - from) * recordBytes
    return readRecord(new Uint8Array(this.recent.bytes.subarray(at, at + recordBytes)), sectorBytes)
  }

  placeOf(number: number): number | null {
    let left = number * this.on.geometry.recordBytes
    for (const [offset, length] of this.extents) {
      if (left < length) return this.on.offset + offset + left
      left -= length
    }
    return null
  }
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
