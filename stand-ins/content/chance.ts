/** Numbers in [0, 1), the same for the same seed (mulberry32), so that stand-ins are reproducible. */
export function chances(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), state | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
  }
}

export const pick = <T>(from: readonly T[], chance: () => number): T => from[Math.floor(chance() * from.length)]!
