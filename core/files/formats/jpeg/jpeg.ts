import { bytesSource, type Extent } from '../../../sources/source'
import { Reader } from '../../../sources/reader'
import { intactBut, partial, unverified, type Format, type Walk } from '../format'
import { latin1 } from '../latin1'
import { nothingAnnounced, partsBehind, takeAnnounced, type Announced, type Parts } from './parts'
import { codeTable, type CodeTable } from './code-table'
import type { Component, Frame, Scan, Seen } from './blocks'
import { blocksOf, decodeScan, type ScanEnd, type ScanState } from './scan'

const KIND = { mime: 'image/jpeg', extension: 'jpg', type: 'photos' } as const
const FRAMES = new Set([0xc0, 0xc1, 0xc2])

/** The state of the walk while decoding inside a scan. */
interface Resume {
  readonly tables: Tables
  readonly scanOf: Scan
  readonly scan: ScanState
  /** of a scan that refines: what it left of the blocks before the state */
  readonly refined: Seen | null
}

interface Tables {
  readonly dc: (CodeTable | null)[]
  readonly ac: (CodeTable | null)[]
  readonly steps: number[]
  frame: Frame | null
  restartEvery: number
  /** by component; only where a picture has several scans */
  seen: Map<number, Seen>
  /** the components whose entry is nobody else's: others are copied before a scan changes them */
  own: Set<number>
  hasScan: boolean
  /** segments whose content has no check */
  unproven: Extent[]
  announced: Announced
}

/**
 * JPEG: markers from start to end of image; thumbnails are skipped with their segments, and the entropy-coded data are
 * decoded to the last block (ISO/IEC 10918-1, annexes B, F and G).
 */
export const jpeg: Format = {
  id: 'jpeg',
  extensions: ['jpg', 'jpeg', 'jpe'],
  signatures: [[0, '\xff\xd8\xff']],
  isProvable: true,
  walk(reader, from) {
    const { walk, tables } = follow(reader, from)
    if (!walk || !tables || walk.whole === 'partial') return walk
    const parts = tables.announced.isAny ? partsBehind(reader, walk.bytes, tables.announced, pictureAt) : null
    if (parts && 'fault' in parts) return partial(KIND, { provenTo: 0, breaksAt: parts.breaksAt, why: parts.fault })
    const whole = parts ? withParts(tables, parts, reader.unitBytes) : walk
    const more = moreBehind(reader, whole.bytes)
    if (more === null && (parts !== null || !tables.announced.isAny)) return whole
    return unverified(KIND, whole.bytes, ...whole.checks, more ?? 'the file declares further data after it')
  },
  mayContinue,
}

/** How much of a unit is looked at. */
const LOOKED_BYTES = 2048
/** Markers inside of entropy-coded data, or between the scans of a picture (ISO/IEC 10918-1, B.1.1.3). */
const INSIDE = new Set([0, 0xff, 0xc4, 0xda, 0xdb, 0xdd, 0xd9, ...Array.from({ length: 8 }, (_, at) => 0xd0 + at)])

/** Entropy-coded data have no marker but these, and are not one byte again and again; behind an end mark anything may follow. */
function mayContinue(unit: Uint8Array): boolean {
  const looked = unit.subarray(0, LOOKED_BYTES)
  for (let at = looked.indexOf(0xff); at >= 0 && at + 1 < looked.length; at = looked.indexOf(0xff, at + 1)) {
    if (!INSIDE.has(looked[at + 1]!)) return false
    if (looked[at + 1] === 0xd9) return true
  }
  return looked.some((byte) => byte !== looked[0])
}

const SECTOR_BYTES = 512

/**
 * Data that begin like another picture, a movie or named data; noise of an older file does so in one of a hundred
 * sectors.
 */
const MORE = /^(\xff\xd8\xff|[^]{4}ftyp)|[A-Za-z0-9_]{8}/

/**
 * Why a picture may continue behind its first end of image: some contain a second picture, a gain map, a movie or their
 * maker's own data there, beginning in the same sector.
 */
function moreBehind(reader: Reader, end: number): string | null {
  const rest = latin1(reader.bytes(end, (SECTOR_BYTES - (end % SECTOR_BYTES)) % SECTOR_BYTES))
  return MORE.test(rest) ? 'more data follows the first end marker' : null
}

/** A picture with all of its parts, to the end of the last. */
function withParts({ unproven }: Tables, parts: Exclude<Parts, { fault: string }>, unitBytes: number): Walk {
  const check = 'image data decodes completely, and so does each part behind it'
  return parts.hasFilm
    ? unverified(KIND, parts.end, check, 'a film is part of it, which has no checksum')
    : intactBut(KIND, parts.end, [...unproven, ...parts.unproven], unitBytes, check)
}

/** Follows one picture to its first end of image, whatever comes after. */
export const pictureAt = (reader: Reader, from?: Parameters<Format['walk']>[1]): Walk | null =>
  follow(reader, from).walk

/** `tables`: where it came to its end, with what was read of it */
function follow(reader: Reader, from?: Parameters<Format['walk']>[1]): { walk: Walk | null; tables?: Tables } {
  if (!reader.is(0, '\xff\xd8\xff')) return { walk: null }
  const resume = from?.state as Resume | undefined
  const { source, unitBytes } = reader
  const tables = resume ? copyOf(resume.tables) : noTables()
  let at = 2
  const broken = (why: string, end = at) => {
    if (!tables.hasScan && tables.steps.length === 0) return { walk: null }
    return { walk: partial(KIND, { provenTo: 0, breaksAt: Math.min(end, reader.size), why }) }
  }
  if (resume) {
    const seen = seenOf(resume.scanOf, tables)
    if (resume.refined) seen!.set(resume.refined.subarray(0, resume.scan.unit * 2))
    const scan = { ...resume.scanOf, seen }
    const step = decodeScan(source, 0, scan, unitBytes, resume.scan)
    if (step.fault) return withResume(broken(step.fault, step.at), step, resume.refined ? resume.tables : tables, scan)
    at = step.at
  }
  while (true) {
    while (reader.u8(at) === 0xff && reader.u8(at + 1) === 0xff) at++
    if (reader.u8(at) !== 0xff || !reader.has(at, 2)) return broken('marker is missing')
    const mark = reader.u8(at + 1)
    if (mark === 0xd9) return { walk: ended(tables, at + 2, unitBytes), tables }
    if (mark === 0xd8 || mark === 0 || (mark >= 0xd0 && mark <= 0xd7)) return broken('unexpected marker')
    const end = at + 2 + reader.u16be(at + 2)
    if (end < at + 4 || end > reader.size) return broken('segment is truncated', reader.size)
    const segment = reader.bytes(at + 4, end - at - 4)
    if (mark === 0xda) {
      // A refinement changes what it reads: it resumes with what was there before it.
      const before = copyOf(tables)
      const scan = scanOf(segment, tables)
      if (typeof scan === 'string') return broken(scan)
      tables.hasScan = true
      const step = decodeScan(source, end, scan, unitBytes)
      if (step.fault) return withResume(broken(step.fault, step.at), step, refines(scan) ? before : tables, scan)
      at = step.at
      continue
    }
    if (mark === 0xe1 || mark === 0xe2) takeAnnounced(segment, at + 4, tables.announced)
    const fault = takeSegment(mark, segment, tables)
    if (fault) return broken(fault)
    if (mark >= 0xe0) tables.unproven.push(...unprovenIn(segment, at + 4, unitBytes))
    at = end
  }
}

const noTables = (): Tables => ({
  dc: [],
  ac: [],
  steps: [],
  frame: null,
  restartEvery: 0,
  seen: new Map(),
  own: new Set(),
  hasScan: false,
  unproven: [],
  announced: nothingAnnounced(),
})

function copyOf(tables: Tables): Tables {
  tables.own.clear()
  return {
    ...tables,
    dc: [...tables.dc],
    ac: [...tables.ac],
    steps: [...tables.steps],
    unproven: [...tables.unproven],
    announced: { ...tables.announced },
    seen: new Map(tables.seen),
    own: new Set(),
  }
}

function ended(tables: Tables, bytes: number, unitBytes: number): Walk | null {
  if (!tables.frame || !tables.hasScan) return null
  return intactBut(KIND, bytes, tables.unproven, unitBytes, 'image data decodes completely, up to the end marker')
}

const refines = ({ from, high }: Scan) => from > 0 && high > 0

/** `tables`: those before a scan that refines, or those that its states go on with */
function withResume({ walk }: { walk: Walk | null }, step: ScanEnd, tables: Tables, scan: Scan): { walk: Walk | null } {
  if (!walk) return { walk }
  const refined = refines(scan) ? scan.seen : null
  const resume = step.states.map(({ at, state }) => ({
    at,
    state: { tables, scanOf: scan, scan: state, refined } satisfies Resume,
  }))
  return { walk: { ...walk, resume } }
}

/** A scan header; a message where it is invalid. */
function scanOf(head: Uint8Array, tables: Tables): Scan | string {
  const { frame } = tables
  const count = head[0] ?? 0
  if (!frame || count < 1 || count > 4 || head.length !== 4 + count * 2) return 'unexpected scan'
  const parts: Scan['parts'][number][] = []
  for (let index = 0; index < count; index++) {
    const component = frame.components.find(({ id }) => id === head[1 + index * 2])
    if (!component) return 'scan refers to a component that does not exist'
    const codes = head[2 + index * 2]!
    parts.push({ component, dc: tables.dc[codes >> 4] ?? null, ac: tables.ac[codes & 15] ?? null })
  }
  const [first, last, bits] = [head[1 + count * 2]!, head[2 + count * 2]!, head[3 + count * 2]!]
  if (first > last || last > 63) return 'invalid spectral selection'
  if (count > 1 && parts.reduce((sum, { component: { h, v } }) => sum + h * v, 0) > MAX_UNIT_BLOCKS)
    return 'unit has too many blocks'
  if (frame.isProgressive && parts.some(({ component }) => countOf(frame, component) > MAX_BLOCKS))
    return 'picture is too large to be followed'
  // Only DC coefficients of several components may be in one scan (ISO/IEC 10918-1, G.1.1.1.1).
  if (frame.isProgressive && ((first === 0 && last > 0) || (first > 0 && count > 1)))
    return 'invalid spectral selection'
  return {
    frame,
    parts,
    seen: seenOf({ frame, parts, from: first }, tables),
    from: frame.isProgressive ? first : 0,
    to: frame.isProgressive ? last : 63,
    high: frame.isProgressive ? bits >> 4 : 0,
    low: frame.isProgressive ? bits & 15 : 0,
    restartEvery: tables.restartEvery,
  }
}

/** Blocks of a unit of several components (ISO/IEC 10918-1, B.2.3). */
const MAX_UNIT_BLOCKS = 10
/** More blocks than any picture in several scans that is followed: what is kept of them would take too much memory. */
const MAX_BLOCKS = 4 * 1024 * 1024

function countOf(frame: Frame, component: Component): number {
  const { across, down } = blocksOf(frame, component)
  return across * down
}

function seenOf({ frame, parts, from }: Pick<Scan, 'frame' | 'parts' | 'from'>, tables: Tables): Seen | null {
  if (!frame.isProgressive || from === 0) return null
  const { component } = parts[0]!
  const known = tables.seen.get(component.id)
  if (known && tables.own.has(component.id)) return known
  const own = known?.slice() ?? new Uint32Array(countOf(frame, component) * 2)
  tables.seen.set(component.id, own)
  tables.own.add(component.id)
  return own
}

/** The part of an application segment that is not its thumbnail. */
function unprovenIn(segment: Uint8Array, at: number, unitBytes: number): Extent[] {
  if (segment.length < unitBytes) return []
  for (let start = 0; start + 4 < segment.length; start++) {
    if (segment[start] !== 0xff || segment[start + 1] !== 0xd8 || segment[start + 2] !== 0xff) continue
    const small = pictureAt(new Reader(bytesSource(segment.subarray(start)), unitBytes))
    if (small?.whole !== 'intact') break
    const end = start + small.bytes
    return [
      [at, start],
      [at + end, segment.length - end],
    ]
  }
  return [[at, segment.length]]
}

function takeSegment(mark: number, segment: Uint8Array, tables: Tables): string | null {
  if (mark === 0xc4) return takeCodes(segment, tables)
  if (mark === 0xdb) return takeSteps(segment, tables)
  if (mark === 0xdd) {
    tables.restartEvery = (segment[0]! << 8) | segment[1]!
    return null
  }
  if (FRAMES.has(mark)) return takeFrame(mark, segment, tables)
  // Arithmetic coding, lossless and hierarchical pictures are not followed.
  if (mark >= 0xc0 && mark <= 0xcf && mark !== 0xc8 && mark !== 0xcc) return 'unsupported coding process'
  const isKnown = mark >= 0xe0 || mark === 0xcc || mark === 0xdc
  return isKnown ? null : 'unknown marker'
}

function takeCodes(segment: Uint8Array, tables: Tables): string | null {
  for (let at = 0; at < segment.length;) {
    const target = segment[at]!
    const counts = segment.subarray(at + 1, at + 17)
    const total = counts.reduce((sum, count) => sum + count, 0)
    const table = at + 17 + total <= segment.length ? codeTable(counts, segment.slice(at + 17, at + 17 + total)) : null
    if (!table || (target & 15) > 3 || target >> 4 > 1) return 'Huffman table is damaged'
    ;(target >> 4 ? tables.ac : tables.dc)[target & 15] = table
    at += 17 + total
  }
  return null
}

function takeSteps(segment: Uint8Array, tables: Tables): string | null {
  for (let at = 0; at < segment.length;) {
    const isWide = segment[at]! >> 4 > 0
    const length = 1 + (isWide ? 128 : 64)
    if (at + length > segment.length || (segment[at]! & 15) > 3) return 'quantization table is damaged'
    tables.steps[segment[at]! & 15] = isWide ? (segment[at + 1]! << 8) | segment[at + 2]! : segment[at + 1]!
    at += length
  }
  return null
}

function takeFrame(mark: number, segment: Uint8Array, tables: Tables): string | null {
  const count = segment[5] ?? 0
  if (tables.frame || count < 1 || count > 4 || segment.length < 6 + count * 3) return 'frame header is damaged'
  const components: Component[] = Array.from({ length: count }, (_, index) => {
    const at = 6 + index * 3
    return {
      id: segment[at]!,
      h: segment[at + 1]! >> 4,
      v: segment[at + 1]! & 15,
      step: tables.steps[segment[at + 2]! & 3] ?? 1,
    }
  })
  const [height, width] = [(segment[1]! << 8) | segment[2]!, (segment[3]! << 8) | segment[4]!]
  const isSound = components.every(({ h, v }) => h >= 1 && h <= 4 && v >= 1 && v <= 4)
  if (!isSound || width === 0 || height === 0) return 'frame header is damaged'
  tables.frame = { isProgressive: mark === 0xc2, width, height, depth: segment[0]!, components }
  return null
}
