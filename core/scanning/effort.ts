import type { ByteSource } from '../sources/source'
import { watched } from '../sources/watched'

/** A read costs as much as this many bytes, however short it is. */
const READ_COST = 1024

/** Thrown by a source whose reader has used up what it may read. */
export class Spent extends Error {}

/**
 * How much joining may still read, in bytes, so that it ends on every medium. Counted in bytes and not in time, so that the
 * same medium gives the same result on every machine.
 */
export class Effort {
  /** for one file */
  private one = 0

  constructor(private left: number) {}

  /** The share of one file, of what is left for so many. */
  begin(files: number): void {
    this.one = Math.min(this.left, Math.max(MIN_SHARE, (this.left / Math.max(1, files)) * GENEROUS))
  }

  /** Takes something that was read; throws where nothing is left for this file. */
  take(bytes: number): void {
    this.one -= bytes + READ_COST
    this.left -= bytes + READ_COST
    if (this.one < 0) throw new Spent()
  }
}

/** Most files need little, and what they leave is the others'. */
const GENEROUS = 8
const MIN_SHARE = 1 << 20

/** A source whose reader is stopped once it has read its share. */
export const measured = (source: ByteSource, effort: Effort): ByteSource =>
  watched(source, ({ bytes }) => effort.take(bytes.length))
