/** A bit shift would truncate unit numbers on volumes of 8 TB and more. */
const byteOf = (unit: number) => Math.floor(unit / 8)

/** how many bits of a byte are set */
const ONES = Uint8Array.from({ length: 256 }, (_, byte) => byte.toString(2).replaceAll('0', '').length)

/** One bit for each allocation unit (cluster or block) of a volume. */
export class UnitMap {
  readonly bits: Uint8Array

  constructor(
    readonly count: number,
    bits?: Uint8Array,
  ) {
    this.bits = new Uint8Array(Math.ceil(count / 8))
    if (bits) this.bits.set(bits.subarray(0, this.bits.length))
  }

  has(unit: number): boolean {
    return unit >= 0 && unit < this.count && ((this.bits[byteOf(unit)]! >> (unit & 7)) & 1) === 1
  }
  add(unit: number): void {
    if (unit >= 0 && unit < this.count) this.bits[byteOf(unit)]! |= 1 << (unit & 7)
  }

  /** Adds a run of units; those already in the map are added to the other. Both maps are of the same volume. */
  addRun(first: number, count: number, again: UnitMap): void {
    const [own, other] = [this.bits, again.bits]
    this.eachByte(first, count, (at, mask) => {
      other[at]! |= own[at]! & mask
      own[at]! |= mask
    })
  }

  /** How many units of a run are in this map or in the other. */
  countOfRun(first: number, count: number, other: UnitMap): number {
    let sum = 0
    this.eachByte(first, count, (at, mask) => {
      sum += ONES[(this.bits[at]! | other.bits[at]!) & mask]!
    })
    return sum
  }

  hasAnyOf(first: number, count: number): boolean {
    let found = 0
    this.eachByte(first, count, (at, mask) => {
      found |= this.bits[at]! & mask
    })
    return found !== 0
  }

  /**
   * The bytes of the map that a run touches, each with a mask of the run's bits; what is beyond the map is left out.
   */
  private eachByte(first: number, count: number, visit: (at: number, mask: number) => void): void {
    const end = Math.min(this.count, first + count)
    for (let unit = Math.max(0, first); unit < end;) {
      const next = Math.min(end, unit - (unit & 7) + 8)
      visit(byteOf(unit), ((1 << (next - unit)) - 1) << (unit & 7))
      unit = next
    }
  }

  /** The runs of units that are not in the map, in order: first unit and count. */
  *gaps(): Iterable<[first: number, count: number]> {
    let start = -1
    for (let unit = 0; unit < this.count; unit++) {
      if ((unit & 7) === 0 && start < 0) while (unit + 8 <= this.count && this.bits[byteOf(unit)] === 0xff) unit += 8
      if ((unit & 7) === 0 && start >= 0) while (unit + 8 <= this.count && this.bits[byteOf(unit)] === 0) unit += 8
      if (unit >= this.count) break
      if (this.has(unit)) {
        if (start >= 0) yield [start, unit - start]
        start = -1
      } else if (start < 0) start = unit
    }
    if (start >= 0) yield [start, this.count - start]
  }
}
