import type { ByteSource } from '../../../sources/source'
import type { FatGeometry } from './boot'

const WINDOW_BYTES = 3 * 65_536

/** One copy of the allocation table, read in windows, so that its size does not matter. */
export class FatTable {
  private window: Uint8Array = new Uint8Array(0)
  private from = -1
  private readonly first: number
  private readonly end: number

  constructor(
    private readonly volume: ByteSource,
    private readonly geometry: FatGeometry,
    private readonly copy: number,
  ) {
    const { bits } = geometry
    this.first = 2
    this.end = bits === 12 ? 0xff8 : bits === 16 ? 0xfff8 : 0xffffff8
  }

  /** the table's value for a cluster: 0 where it is free */
  entry(cluster: number): number {
    const { bits } = this.geometry
    if (bits === 12) {
      const pair = this.u16(cluster + (cluster >> 1))
      return cluster & 1 ? pair >> 4 : pair & 0xfff
    }
    return bits === 16
      ? this.u16(cluster * 2)
      : (this.u16(cluster * 4) + this.u16(cluster * 4 + 2) * 65_536) & 0xfffffff
  }

  isCluster(cluster: number): boolean {
    return cluster >= this.first && cluster < this.first + this.geometry.clusters
  }

  /** The clusters of a chain, and whether it reaches its end; a chain that loops or leaves the volume is cut there. */
  chain(start: number, most: number): { clusters: number[]; isWhole: boolean } {
    const clusters: number[] = []
    let cluster = start
    while (this.isCluster(cluster)) {
      // A chain longer than the volume has clusters loops.
      if (clusters.length >= Math.min(most, this.geometry.clusters)) return { clusters, isWhole: false }
      clusters.push(cluster)
      cluster = this.entry(cluster)
    }
    return { clusters, isWhole: clusters.length > 0 && cluster >= this.end }
  }

  private u16(at: number): number {
    if (at + 2 > this.geometry.tableBytes) return 0
    if (this.from < 0 || at < this.from || at + 2 > this.from + this.window.length) {
      this.from = Math.floor(at / WINDOW_BYTES) * WINDOW_BYTES
      const length = Math.min(WINDOW_BYTES + 2, this.geometry.tableBytes - this.from)
      this.window = this.volume.read(this.geometry.tableAt + this.copy * this.geometry.tableBytes + this.from, length)
    }
    const within = at - this.from
    return (this.window[within] ?? 0) | ((this.window[within + 1] ?? 0) << 8)
  }
}
