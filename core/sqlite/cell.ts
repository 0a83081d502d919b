import type { Habits } from './habits'
import { longVarint, recordShape, valueAt, varint, type RecordShape, type Value } from './record'
import type { TextEncodingName } from './header'

/** How pages are read by number, the first one is 1; null where there is none. */
export type PageReader = (page: number) => Uint8Array | null

export interface Layout {
  readonly usable: number
  readonly encoding: TextEncodingName
  readonly schemaFormat: number
  /** what the values of live rows look like */
  readonly habits: Habits
  readonly pageAt: PageReader
}

/** A record's values, and whether every one of them could be read. */
export interface ReadRecord {
  readonly values: readonly Value[]
  readonly types: readonly number[]
  readonly complete: boolean
  /** it ends in zeros, and zeros follow on its page: both may have been overwritten */
  readonly endsInZeros: boolean
}

export interface TableCell extends ReadRecord {
  readonly rowid: number | bigint
  /** bytes that the cell takes on its page */
  readonly bytes: number
}

/** The local part of a payload in bytes; the rest overflows (SQLite file format, section 1.6). */
export function localBytes(payload: number, usable: number, isIndex: boolean): number {
  const most = isIndex ? Math.floor(((usable - 12) * 64) / 255) - 23 : usable - 35
  if (payload <= most) return payload
  const least = Math.floor(((usable - 12) * 32) / 255) - 23
  const rest = least + ((payload - least) % (usable - 4))
  return rest <= most ? rest : least
}

/** A larger payload is noise: the format's own limit is above anything a phone stores. */
const MAX_PAYLOAD = 256 * 2 ** 20

/** The cell of a table's leaf that begins at `at`; null where none does. */
export function tableCell(bytes: Uint8Array, at: number, end: number, layout: Layout): TableCell | null {
  const length = varint(bytes, at, end)
  if (!length || length.value < 2 || length.value > MAX_PAYLOAD) return null
  const id = varint(bytes, at + length.bytes, end)
  if (!id) return null
  const start = at + length.bytes + id.bytes
  const read = payloadRecord(bytes, start, length.value, end, layout, false)
  if (!read) return null
  const long = longVarint(bytes, at + length.bytes, id.bytes)
  const rowid = Number.isSafeInteger(Number(long)) ? Number(long) : long
  return { ...read.record, rowid, bytes: length.bytes + id.bytes + read.bytes }
}

export interface IndexCell extends ReadRecord {
  /** bytes that the cell takes on its page */
  readonly bytes: number
}

/** The cell of an index leaf that begins at `at`, in which WITHOUT ROWID tables store rows; null where none does. */
export function indexCell(bytes: Uint8Array, at: number, end: number, layout: Layout): IndexCell | null {
  const length = varint(bytes, at, end)
  if (!length || length.value < 2 || length.value > MAX_PAYLOAD) return null
  const read = payloadRecord(bytes, at + length.bytes, length.value, end, layout, true)
  return read && { ...read.record, bytes: length.bytes + read.bytes }
}

function payloadRecord(
  bytes: Uint8Array,
  start: number,
  payload: number,
  end: number,
  layout: Layout,
  isIndex: boolean,
) {
  const local = localBytes(payload, layout.usable, isIndex)
  const isLong = local < payload
  const taken = local + (isLong ? 4 : 0)
  if (start + taken > end) return null
  const isSound = (shape: RecordShape | null): shape is RecordShape =>
    shape !== null && shape.types.length > 0 && shape.headerBytes + shape.contentBytes === payload
  // The record header is nearly always on the page itself; noise is rejected before any overflow chain is followed.
  const head = varint(bytes, start, start + local)
  if (!head || head.value > payload) return null
  const here = head.value <= local ? recordShape(bytes, start, start + local) : null
  if (head.value <= local && !isSound(here)) return null
  const whole = isLong ? joined(bytes, start, local, payload, layout) : bytes.subarray(start, start + local)
  const shape = here ?? recordShape(whole, 0)
  if (!isSound(shape)) return null
  const record = {
    ...recordValues(whole, shape, layout.encoding),
    endsInZeros: endsInZeros(bytes, start + taken, layout),
  }
  return { record, bytes: taken }
}

/** This many zeros behind a record are no coincidence: cells are adjacent, from the end of their page on. */
const MANY_ZEROS = 8

function endsInZeros(bytes: Uint8Array, end: number, { usable }: Layout): boolean {
  if (bytes[end - 1] !== 0 || end + MANY_ZEROS > usable) return false
  for (let at = end; at < end + MANY_ZEROS; at++) if (bytes[at] !== 0) return false
  return true
}

/** A payload that continues on overflow pages: as much of it as the chain still has. */
export function joined(bytes: Uint8Array, start: number, local: number, payload: number, layout: Layout): Uint8Array {
  const parts = [bytes.subarray(start, start + local)]
  let have = local
  let next = numberAt(bytes, start + local)
  const seen = new Set<number>()
  while (have < payload && next > 0 && !seen.has(next)) {
    seen.add(next)
    const page = layout.pageAt(next)
    if (!page) break
    const part = page.subarray(4, 4 + Math.min(layout.usable - 4, payload - have))
    parts.push(part)
    have += part.length
    next = numberAt(page, 0)
  }
  const whole = new Uint8Array(have)
  let at = 0
  for (const part of parts) {
    whole.set(part, at)
    at += part.length
  }
  return whole
}

const numberAt = (bytes: Uint8Array, at: number) =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(at)

/** The values of a record; unreadable ones are null, and the record is then incomplete. */
function recordValues(
  bytes: Uint8Array,
  shape: RecordShape,
  encoding: TextEncodingName,
): Omit<ReadRecord, 'endsInZeros'> {
  let at = shape.headerBytes
  let complete = true
  const values = shape.types.map((type) => {
    const value = valueAt(bytes, at, type, encoding)
    at += type >= 12 ? Math.floor((type - 12) / 2) : ([0, 1, 2, 3, 4, 6, 8, 8, 0, 0][type] ?? 0)
    if (value === undefined) complete = false
    return value ?? null
  })
  return { values, types: shape.types, complete }
}
