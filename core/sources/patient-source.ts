import type { ByteSource, Extent } from './source'

/** Thrown by a source for unreadable places of the medium. */
export class UnreadableError extends Error {
  constructor(
    readonly offset: number,
    readonly length: number,
  ) {
    super(`cannot be read at byte ${offset}`)
  }
}

const SECTOR_BYTES = 512

/**
 * Wraps a source with bad sectors: unreadable sectors are skipped, counted, and read as zeros. A failed range is halved
 * until the bad sectors are isolated, so that no good sector is lost to a bad neighbour; none of them is tried again
 * before `retry`.
 */
export class PatientSource implements ByteSource {
  private readonly bad = new Set<number>()

  /** `known`: places that were unreadable before, in bytes */
  constructor(
    private readonly source: ByteSource,
    known: readonly Extent[] = [],
  ) {
    for (const [offset, length] of known)
      for (let sector = Math.floor(offset / SECTOR_BYTES); sector * SECTOR_BYTES < offset + length; sector++)
        this.bad.add(sector)
  }

  get size(): number {
    return this.source.size
  }

  read(offset: number, length: number): Uint8Array {
    if (this.bad.size === 0 || !this.touchesBad(offset, length))
      try {
        return this.source.read(offset, length)
      } catch (error) {
        if (!(error instanceof UnreadableError)) throw error
      }
    const bytes = new Uint8Array(Math.max(0, Math.min(length, this.size - offset)))
    this.fill(bytes, offset, offset, offset + bytes.length)
    return bytes
  }

  readInto(bytes: Uint8Array, offset: number): number {
    if (this.source.readInto && (this.bad.size === 0 || !this.touchesBad(offset, bytes.length)))
      try {
        return this.source.readInto(bytes, offset)
      } catch (error) {
        if (!(error instanceof UnreadableError)) throw error
      }
    const read = this.read(offset, bytes.length)
    bytes.set(read)
    return read.length
  }

  /** unreadable bytes so far */
  get unreadableBytes(): number {
    return this.unreadable().reduce((sum, [, length]) => sum + length, 0)
  }

  /** the unreadable extents, sorted, neighbours merged */
  unreadable(): Extent[] {
    const extents: [number, number][] = []
    for (const sector of [...this.bad].sort((a, b) => a - b)) {
      const offset = sector * SECTOR_BYTES
      const length = Math.min(SECTOR_BYTES, this.size - offset)
      const last = extents.at(-1)
      if (last && last[0] + last[1] === offset) last[1] += length
      else extents.push([offset, length])
    }
    return extents
  }

  isReadable(offset: number, length: number): boolean {
    return this.bad.size === 0 || !this.touchesBad(offset, length)
  }

  /** Tries every bad sector again, in rounds; returns the extents that could be read this time, sorted. */
  retry(rounds = 3): Extent[] {
    const came: Extent[] = []
    for (let round = 0; round < rounds && this.bad.size > 0; round++)
      for (const sector of [...this.bad])
        try {
          this.source.read(sector * SECTOR_BYTES, SECTOR_BYTES)
          this.bad.delete(sector)
          came.push([sector * SECTOR_BYTES, SECTOR_BYTES])
        } catch (error) {
          if (!(error instanceof UnreadableError)) throw error
        }
    return came.sort(([a], [b]) => a - b)
  }

  private touchesBad(offset: number, length: number): boolean {
    const last = Math.floor((offset + length - 1) / SECTOR_BYTES)
    if (last - offset / SECTOR_BYTES > this.bad.size) {
      for (const sector of this.bad)
        if (sector * SECTOR_BYTES < offset + length && (sector + 1) * SECTOR_BYTES > offset) return true
      return false
    }
    for (let sector = Math.floor(offset / SECTOR_BYTES); sector <= last; sector++) if (this.bad.has(sector)) return true
    return false
  }

  private fill(bytes: Uint8Array, base: number, from: number, to: number): void {
    if (from >= to) return
    const firstSector = Math.floor(from / SECTOR_BYTES)
    const isOne = to <= (firstSector + 1) * SECTOR_BYTES
    if (isOne && this.bad.has(firstSector)) return
    if (isOne || !this.touchesBad(from, to - from))
      try {
        bytes.set(this.source.read(from, to - from), from - base)
        return
      } catch (error) {
        if (!(error instanceof UnreadableError)) throw error
        if (isOne) {
          this.bad.add(firstSector)
          return
        }
      }
    const sectors = Math.ceil(to / SECTOR_BYTES) - firstSector
    const middle = (firstSector + Math.max(1, sectors >> 1)) * SECTOR_BYTES
    this.fill(bytes, base, from, middle)
    this.fill(bytes, base, middle, to)
  }
}
