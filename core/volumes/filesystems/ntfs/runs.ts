/** A run of clusters; `first` is null where they were never written (a hole, or the rest of a compression unit). */
export interface Run {
  readonly cluster: number | null
  readonly count: number
}

/** Reads a run list; it ends at the first invalid run. */
export function readRuns(bytes: Uint8Array): Run[] {
  const runs: Run[] = []
  let cluster = 0
  for (let at = 0; at < bytes.length && bytes[at] !== 0;) {
    const countBytes = bytes[at]! & 15
    const clusterBytes = bytes[at]! >> 4
    if (countBytes === 0 || countBytes > 6 || clusterBytes > 6 || at + 1 + countBytes + clusterBytes > bytes.length)
      break
    const count = number(bytes, at + 1, countBytes, false)
    if (count === 0) break
    if (clusterBytes === 0) runs.push({ cluster: null, count })
    else {
      cluster += number(bytes, at + 1 + countBytes, clusterBytes, true)
      if (cluster < 0) break
      runs.push({ cluster, count })
    }
    at += 1 + countBytes + clusterBytes
  }
  return runs
}

function number(bytes: Uint8Array, at: number, length: number, isSigned: boolean): number {
  let value = 0
  for (let index = length - 1; index >= 0; index--) value = value * 256 + bytes[at + index]!
  return isSigned && bytes[at + length - 1]! >= 128 ? value - 256 ** length : value
}
