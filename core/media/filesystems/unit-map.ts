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
    return unit >= 0 && unit < this.count && ((this.bits[unit >> 3]! >> (unit & 7)) & 1) === 1
  }
  add(unit: number): void {
    if (unit >= 0 && unit < this.count) this.bits[unit >> 3]! |= 1 << (unit & 7)
  }

  /** The stretches of units that are not in the map, in order: first unit and how many. */
  *gaps(): Iterable<[first: number, count: number]> {
    let start = -1
    for (let unit = 0; unit < this.count; unit++) {
      if ((unit & 7) === 0 && start < 0) while (unit + 8 <= this.count && this.bits[unit >> 3] === 0xff) unit += 8
      if ((unit & 7) === 0 && start >= 0) while (unit + 8 <= this.count && this.bits[unit >> 3] === 0) unit += 8
      if (unit >= this.count) break
      if (this.has(unit)) {
        if (start >= 0) yield [start, unit - start]
        start = -1
      } else if (start < 0) start = unit
    }
    if (start >= 0) yield [start, this.count - start]
  }
}
