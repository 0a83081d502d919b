/** One page of a write-ahead log or a rollback journal. */
export interface KeptPage {
  readonly page: number
  readonly bytes: Uint8Array
}

/** The committed pages of the log, which replace those of the database, and all others in the order of writing. */
export interface WriteAheadLog {
  readonly current: ReadonlyMap<number, Uint8Array>
  readonly older: readonly KeptPage[]
}

const HEADER_BYTES = 32
const FRAME_HEADER_BYTES = 24
const MAGIC = 0x377f0682

/**
 * Reads a write-ahead log (SQLite file format, section 4). Frames count up to the last commit of the sequence whose
 * salts and checksums agree; later frames are left over from an earlier sequence.
 */
export function readWal(bytes: Uint8Array, pageBytes: number): WriteAheadLog {
  const current = new Map<number, Uint8Array>()
  const older: KeptPage[] = []
  if (bytes.length < HEADER_BYTES) return { current, older }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const magic = view.getUint32(0)
  if ((magic & ~1) >>> 0 !== MAGIC || view.getUint32(8) !== pageBytes) return { current, older }
  const isLittle = (magic & 1) === 0
  let sum: Sum = checksum(view, 0, 24, isLittle, [0, 0])
  let isRun = sum[0] === view.getUint32(24) && sum[1] === view.getUint32(28)
  const salts = [view.getUint32(16), view.getUint32(20)]
  let pending: KeptPage[] = []
  for (
    let at = HEADER_BYTES;
    at + FRAME_HEADER_BYTES + pageBytes <= bytes.length;
    at += FRAME_HEADER_BYTES + pageBytes
  ) {
    const kept = {
      page: view.getUint32(at),
      bytes: bytes.subarray(at + FRAME_HEADER_BYTES, at + FRAME_HEADER_BYTES + pageBytes),
    }
    if (isRun) {
      sum = checksum(view, at, 8, isLittle, sum)
      sum = checksum(view, at + FRAME_HEADER_BYTES, pageBytes, isLittle, sum)
      isRun =
        view.getUint32(at + 8) === salts[0] &&
        view.getUint32(at + 12) === salts[1] &&
        view.getUint32(at + 16) === sum[0] &&
        view.getUint32(at + 20) === sum[1]
    }
    if (!isRun) {
      older.push(kept)
      continue
    }
    pending.push(kept)
    if (view.getUint32(at + 4) === 0) continue
    for (const one of pending) {
      const before = current.get(one.page)
      if (before) older.push({ page: one.page, bytes: before })
      current.set(one.page, one.bytes)
    }
    pending = []
  }
  return { current, older: [...older, ...pending] }
}

type Sum = readonly [number, number]

/** The log's running checksum, in the byte order that its magic number gives. */
function checksum(view: DataView, from: number, length: number, isLittle: boolean, [one, other]: Sum): Sum {
  for (let at = from; at < from + length; at += 8) {
    one = (one + view.getUint32(at, isLittle) + other) >>> 0
    other = (other + view.getUint32(at + 4, isLittle) + one) >>> 0
  }
  return [one, other]
}
