import { Unpacking } from '../../sources/inflate'
import type { Reader } from '../../sources/reader'
import { cutsByChecksum } from './cut-by-checksum'
import type { Gap } from './format'

const [LOCAL, CENTRAL] = ['PK\x03\x04', 'PK\x01\x02'] as const
/** How far ahead the central directory is searched for, in bytes, and how many are tried. */
const MAX_GAP_BYTES = 256 * 1024 * 1024
const MAX_DIRECTORIES = 4
const WINDOW = 1 << 20

/** An entry as the central directory lists it. */
interface Listed {
  readonly at: number
  readonly method: number
  readonly sum: number
  readonly packed: number
  readonly size: number
}

/**
 * The central directory says where it should be itself, and so how long the gap is; each entry, on which side of it it
 * lies. The cut goes through one of them, whose checksum shows where (PKWARE APPNOTE, 4.3).
 */
export function* gapsOfEntries(reader: Reader): Iterable<Gap> {
  let tried = 0
  for (const end of endRecords(reader)) {
    const [bytes, should] = [reader.u32le(end + 12), reader.u32le(end + 16)]
    const gap = end - bytes - should
    if (gap < 0 || !reader.is(should + gap, CENTRAL)) continue
    if (gap === 0 || gap % reader.unitBytes !== 0) continue
    yield* cutsAmong(reader, entriesIn(reader, should + gap, end), should, gap)
    if (++tried === MAX_DIRECTORIES) return
  }
}

function* endRecords(reader: Reader): Iterable<number> {
  for (let from = 0; from < Math.min(reader.size, MAX_GAP_BYTES); from += WINDOW) {
    const bytes = reader.source.read(from, WINDOW + 22)
    for (let at = bytes.indexOf(0x50); at >= 0 && at < WINDOW; at = bytes.indexOf(0x50, at + 1))
      if (bytes[at + 1] === 0x4b && bytes[at + 2] === 5 && bytes[at + 3] === 6) yield from + at
  }
}

function entriesIn(reader: Reader, from: number, end: number): Listed[] {
  const listed: Listed[] = []
  let at = from
  while (at < end && reader.is(at, CENTRAL)) {
    listed.push({
      at: reader.u32le(at + 42),
      method: reader.u16le(at + 10),
      sum: reader.u32le(at + 16),
      packed: reader.u32le(at + 20),
      size: reader.u32le(at + 24),
    })
    at += 46 + reader.u16le(at + 28) + reader.u16le(at + 30) + reader.u16le(at + 32)
  }
  return listed.sort((one, other) => one.at - other.at)
}

function* cutsAmong(reader: Reader, listed: readonly Listed[], directory: number, gap: number): Iterable<Gap> {
  const { unitBytes } = reader
  const isThere = (entry: Listed, shift: number) => reader.is(entry.at + shift, LOCAL)
  const behind = listed.findIndex((entry) => !isThere(entry, 0))
  const [before, rest] = behind < 0 ? [listed, []] : [listed.slice(0, behind), listed.slice(behind)]
  const last = before.at(-1)
  // The head of the first entry behind the gap may itself be cut through.
  if (!last || !rest.slice(1).every((entry) => isThere(entry, gap))) return
  const data = last.at + 30 + reader.u16le(last.at + 26) + reader.u16le(last.at + 28)
  const end = data + last.packed
  const stretch = { from: data, end, gap, sum: last.sum }
  const inside =
    last.method === 0
      ? cutsByChecksum(reader, stretch)
      : last.method === 8
        ? cutsByUnpacking(reader, stretch, last)
        : []
  for (const cut of inside) yield { cut, at: cut + gap }
  const next = rest[0] ? rest[0].at + 30 : directory + 46
  for (let cut = Math.floor(end / unitBytes) * unitBytes; cut <= next; cut += unitBytes)
    if (cut > last.at) yield { cut, at: cut + gap }
}

/** How many units before the place where an entry no longer unpacks the cut may be. */
const MAX_CUTS = 128

/** The cuts with which a packed entry unpacks to what its checksum says: latest first. */
function* cutsByUnpacking(
  reader: Reader,
  { from, end, gap, sum }: { from: number; end: number; gap: number; sum: number },
  { size }: Listed,
): Iterable<number> {
  const { unitBytes, source } = reader
  const cutsFrom = (first: number) => (Math.floor(first / unitBytes) + 1) * unitBytes
  const plain = new Unpacking(size)
  let broke = from
  while (broke < end && plain.push(source.read(broke, Math.min(STEP, end - broke)))) broke += STEP
  // A copy costs more than unpacking: only what is near the break is copied.
  const unpacking = new Unpacking(size)
  const states: { cut: number; state: Unpacking }[] = []
  let at = from
  for (let cut = cutsFrom(Math.max(from, broke - MAX_CUTS * unitBytes)); cut < end; cut += unitBytes) {
    if (!unpacking.push(source.read(at, cut - at))) break
    at = cut
    states.push({ cut, state: unpacking.copy() })
    if (states.length > MAX_CUTS) states.shift()
  }
  for (const { cut, state } of states.reverse()) {
    for (let next = cut; next < end && state.push(source.read(next + gap, Math.min(STEP, end - next)));) next += STEP
    const { state: ended, so } = state
    if (ended === 'ended' && so.crc === sum && so.bytes === size) yield cut
  }
}

const STEP = 64 * 1024
