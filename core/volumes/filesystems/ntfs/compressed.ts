import type { ByteSource, Extent } from '../../../sources/source'
import type { Run } from './runs'

/** Bytes that are compressed on their own. */
const CHUNK_BYTES = 4096

/** The content of a compressed file: compression units, each compressed, plain or a hole. */
export class CompressedSource implements ByteSource {
  private readonly clusters: (number | null)[]
  private kept: { unit: number; bytes: Uint8Array } | null = null
  private readonly volume: ByteSource
  /** the offset of the volume in the image, in bytes */
  readonly place: Extent
  readonly clusterBytes: number
  readonly unitClusters: number

  constructor(
    volume: { readonly source: ByteSource; readonly place: Extent },
    { clusterBytes, unitClusters }: { readonly clusterBytes: number; readonly unitClusters: number },
    readonly runs: readonly Run[],
    readonly size: number,
  ) {
    this.volume = volume.source
    this.place = volume.place
    this.clusterBytes = clusterBytes
    this.unitClusters = unitClusters
    const need = Math.ceil(size / (clusterBytes * unitClusters)) * unitClusters
    this.clusters = []
    for (const { cluster, count } of runs)
      for (let at = 0; at < count && this.clusters.length < need; at++)
        this.clusters.push(cluster === null ? null : cluster + at)
  }

  read(offset: number, length: number): Uint8Array {
    const end = Math.min(this.size, offset + length)
    const bytes = new Uint8Array(Math.max(0, end - offset))
    const unitBytes = this.clusterBytes * this.unitClusters
    for (let at = offset; at < end;) {
      const unit = Math.floor(at / unitBytes)
      const part = this.unit(unit).subarray(at - unit * unitBytes, Math.min(unitBytes, end - unit * unitBytes))
      bytes.set(part, at - offset)
      at = (unit + 1) * unitBytes
    }
    return bytes
  }

  private unit(unit: number): Uint8Array {
    if (this.kept?.unit === unit) return this.kept.bytes
    const own = this.clusters.slice(unit * this.unitClusters, (unit + 1) * this.unitClusters)
    const written = own.filter((one) => one !== null && one !== undefined) as number[]
    const packed = new Uint8Array(written.length * this.clusterBytes)
    for (const [at, cluster] of written.entries())
      packed.set(this.volume.read(cluster * this.clusterBytes, this.clusterBytes), at * this.clusterBytes)
    const unitBytes = this.clusterBytes * this.unitClusters
    const bytes = new Uint8Array(unitBytes)
    if (written.length === this.unitClusters) bytes.set(packed)
    else if (written.length > 0) unpack(packed, bytes)
    this.kept = { unit, bytes }
    return bytes
  }
}

/** LZNT1: chunks of 4096 bytes, each with flags that distinguish literals from back references ([MS-XCA], 2.5). */
export function unpack(packed: Uint8Array, into: Uint8Array): void {
  let at = 0
  for (let start = 0; start < into.length && at + 2 <= packed.length; start += CHUNK_BYTES) {
    const head = packed[at]! | (packed[at + 1]! << 8)
    if (head === 0) return
    const end = Math.min(packed.length, at + 2 + (head & 0xfff) + 1)
    at += 2
    if ((head & 0x8000) === 0) into.set(packed.subarray(at, Math.min(end, at + into.length - start)), start)
    else unpackChunk(packed.subarray(at, end), into, start)
    at = end
  }
}

function unpackChunk(packed: Uint8Array, into: Uint8Array, start: number): void {
  const end = Math.min(into.length, start + CHUNK_BYTES)
  let to = start
  for (let at = 0; at < packed.length && to < end;) {
    let flags = packed[at++]!
    for (let bit = 0; bit < 8 && at < packed.length && to < end; bit++, flags >>= 1) {
      if ((flags & 1) === 0) {
        into[to++] = packed[at++]!
        continue
      }
      const pair = packed[at]! | ((packed[at + 1] ?? 0) << 8)
      at += 2
      // The further into the chunk, the more bits the distance has.
      let lengthBits = 12
      for (let reach = to - start - 1; reach >= 16; reach >>= 1) lengthBits--
      const distance = (pair >> lengthBits) + 1
      const length = (pair & ((1 << lengthBits) - 1)) + 3
      if (distance > to - start) return
      for (let count = 0; count < length && to < end; count++, to++) into[to] = into[to - distance]!
    }
  }
}
