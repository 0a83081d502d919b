import { inflated, type Inflated } from '../../sources/inflate'
import { crc32 } from '../../sources/checksums'
import type { Reader } from '../../sources/reader'
import { intact, partial, type Format, type Walk } from './format'
import { gapsOfEntries } from './zip-gaps'

type Kind = Pick<Walk, 'mime' | 'extension' | 'type'>
const ZIP: Kind = { mime: 'application/zip', extension: 'zip', type: 'files' }
const OFFICE = 'application/vnd.openxmlformats-officedocument.'
const KINDS: readonly (readonly [has: string, kind: Kind])[] = [
  ['word/', { mime: `${OFFICE}wordprocessingml.document`, extension: 'docx', type: 'documents' }],
  ['xl/', { mime: `${OFFICE}spreadsheetml.sheet`, extension: 'xlsx', type: 'spreadsheets' }],
  ['ppt/', { mime: `${OFFICE}presentationml.presentation`, extension: 'pptx', type: 'documents' }],
  ['META-INF/MANIFEST.MF', { mime: 'application/java-archive', extension: 'jar', type: 'files' }],
]
const OPEN: Readonly<Record<string, Kind>> = {
  'application/vnd.oasis.opendocument.text': {
    mime: 'application/vnd.oasis.opendocument.text',
    extension: 'odt',
    type: 'documents',
  },
  'application/vnd.oasis.opendocument.spreadsheet': {
    mime: 'application/vnd.oasis.opendocument.spreadsheet',
    extension: 'ods',
    type: 'spreadsheets',
  },
  'application/vnd.oasis.opendocument.presentation': {
    mime: 'application/vnd.oasis.opendocument.presentation',
    extension: 'odp',
    type: 'documents',
  },
  'application/epub+zip': { mime: 'application/epub+zip', extension: 'epub', type: 'documents' },
}
const [LOCAL, CENTRAL, END, END_WIDE, LOCATOR] = [
  'PK\x03\x04',
  'PK\x01\x02',
  'PK\x05\x06',
  'PK\x06\x06',
  'PK\x06\x07',
] as const
/** An entry is unpacked to prove it only while all entries together stay under this, in bytes. */
const MAX_UNPACKED = 512 * 1024 * 1024
const MAX_ENTRY = 128 * 1024 * 1024
const FIRST_WINDOW = 256 * 1024
const MAX_ENTRIES = 100_000

interface Progress {
  readonly names: readonly string[]
  readonly open: string | null
  readonly starts: readonly number[]
  readonly isAllProved: boolean
  readonly unpacked: number
}

/**
 * ZIP and the formats built on it: entries with checksums, then the central directory that lists each (PKWARE APPNOTE,
 * 4.3).
 */
export const zip: Format = {
  id: 'zip',
  extensions: ['zip', 'docx', 'xlsx', 'pptx', 'odt', 'ods', 'odp', 'epub', 'jar'],
  signatures: [[0, LOCAL]],
  isProvable: true,
  walk(reader, from) {
    if (!reader.is(0, LOCAL)) return null
    let { names, open, starts, isAllProved, unpacked } = (from?.state as Progress | undefined) ?? {
      names: [],
      open: null,
      starts: [],
      isAllProved: true,
      unpacked: 0,
    }
    let at = from?.at ?? 0
    const resume: { at: number; state: Progress }[] = []
    while (reader.is(at, LOCAL) && starts.length < MAX_ENTRIES) {
      if (resume.push({ at, state: { names, open, starts, isAllProved, unpacked } }) > 8) resume.shift()
      const entry = entryAt(reader, at, unpacked)
      if (entry.fault) {
        if (starts.length === 0 && !from && !entry.isSound) return null
        return partial(kindOf([...names, entry.name], open), {
          provenTo: at,
          breaksAt: Math.min(reader.size, entry.end),
          why: entry.fault,
          resume,
        })
      }
      if (names.length === 0 && entry.name === 'mimetype') open = entry.text
      if (names.length < 400) names = [...names, entry.name]
      starts = [...starts, at]
      isAllProved &&= entry.isProved
      unpacked += entry.unpacked
      at = entry.end
    }
    resume.push({ at, state: { names, open, starts, isAllProved, unpacked } })
    const kind = kindOf(names, open)
    const fault = directoryFault(reader, at, starts)
    if (typeof fault === 'string')
      return partial(kind, { provenTo: at, breaksAt: Math.min(reader.size, at + 512), why: fault, resume })
    if (isAllProved)
      return intact(kind, fault.end, 'every entry checksum matches and the central directory lists all entries')
    return {
      ...intact(kind, fault.end, 'entries and central directory agree; not every checksum could be verified'),
      whole: 'unverified',
    }
  },
  gaps: gapsOfEntries,
}

interface Entry {
  readonly name: string
  readonly end: number
  readonly fault: string | null
  readonly isSound: boolean
  readonly isProved: boolean
  readonly unpacked: number
  readonly text: string | null
}

function entryAt(reader: Reader, at: number, soFar: number): Entry {
  const [flags, method] = [reader.u16le(at + 6), reader.u16le(at + 8)]
  const [nameBytes, extraBytes] = [reader.u16le(at + 26), reader.u16le(at + 28)]
  const from = at + 30 + nameBytes + extraBytes
  const name = reader.text(at + 30, nameBytes)
  const isSound = nameBytes > 0 && nameBytes < 1024 && ![...name].some((character) => character < ' ') && method < 100
  const none = { name, isSound, isProved: false, unpacked: 0, text: null }
  if (!reader.has(at, 30 + nameBytes + extraBytes)) return { ...none, end: reader.size, fault: 'entry is truncated' }
  if (!isSound) return { ...none, end: at, fault: 'invalid entry header' }
  let packed = reader.u32le(at + 18)
  let size = reader.u32le(at + 22)
  let sum = reader.u32le(at + 14)
  const wide = packed === 0xffffffff || size === 0xffffffff ? wideSizes(reader, at + 30 + nameBytes, extraBytes) : null
  if (wide) [size, packed] = wide
  const isStreamed = (flags & 8) !== 0 && packed === 0
  const canTry = (flags & 1) === 0 && (method === 0 || method === 8) && soFar < MAX_UNPACKED
  if (isStreamed) {
    if (method === 0 && (flags & 1) === 0) return storedEntry(reader, from, none)
    if (method !== 8 || (flags & 1) !== 0) return { ...none, end: from, fault: 'entry length is not recorded' }
    const out = streamed(reader, from)
    if (!out) return { ...none, end: Math.min(reader.size, from + 65_536), fault: 'entry does not decompress' }
    const after = descriptorAt(reader, from + out.used, out)
    if (!after) return { ...none, end: from + out.used, fault: 'entry checksum mismatch' }
    return { ...none, end: after, fault: null, isProved: true, unpacked: out.bytes }
  }
  const end = from + packed
  if (end > reader.size) return { ...none, end: reader.size, fault: 'entry is truncated' }
  const after = flags & 8 ? (reader.is(end, 'PK\x07\x08') ? end + 16 : end + 12) : end
  if (flags & 8 && sum === 0) sum = reader.u32le(after - 12)
  if (!canTry || size > MAX_ENTRY || packed > MAX_ENTRY) return { ...none, end: after, fault: null }
  const bytes = reader.source.read(from, packed)
  if (method === 0) {
    if (crc32(bytes) !== sum) return { ...none, end, fault: 'entry checksum mismatch' }
    const text = name === 'mimetype' && packed < 100 ? String.fromCharCode(...bytes) : null
    return { ...none, end: after, fault: null, isProved: true, unpacked: size, text }
  }
  const out = inflated(bytes, size)
  const isRight = out !== null && out.bytes === size && out.crc === sum
  return isRight
    ? { ...none, end: after, fault: null, isProved: true, unpacked: size }
    : { ...none, end, fault: 'entry checksum mismatch' }
}

/**
 * A stored entry of which only the descriptor behind it gives the length: the next header at which a descriptor of just this
 * length ends, with the right checksum.
 */
function storedEntry(reader: Reader, from: number, none: Omit<Entry, 'end' | 'fault'>): Entry {
  let [sum, done] = [0, 0]
  for (const next of headersFrom(reader, from)) {
    for (const [head, wide] of [
      [16, false],
      [12, false],
      [24, true],
      [20, true],
    ] as const) {
      const packed = next - head - from
      if (packed < done || (head % 8 === 0 && !reader.is(next - head, 'PK\x07\x08'))) continue
      const at = next - head + (head % 8 === 0 ? 4 : 0)
      const told = wide ? reader.u64le(at + 4) : reader.u32le(at + 4)
      if (told !== packed) continue
      for (; done < packed; done += Math.min(STEP, packed - done))
        sum = crc32(reader.source.read(from + done, Math.min(STEP, packed - done)), sum)
      if (reader.u32le(at) === sum) return { ...none, end: next, fault: null, isProved: true, unpacked: packed }
    }
  }
  return { ...none, end: Math.min(reader.size, from + MAX_ENTRY), fault: 'entry length is not recorded' }
}

const STEP = 1 << 20

/** Where the next headers of entries or of the directory are. */
function* headersFrom(reader: Reader, from: number): Iterable<number> {
  for (let at = from; at < Math.min(reader.size, from + MAX_ENTRY); at += STEP) {
    const bytes = reader.source.read(at, STEP + 4)
    for (let hit = bytes.indexOf(0x50); hit >= 0 && hit < STEP; hit = bytes.indexOf(0x50, hit + 1))
      if (
        bytes[hit + 1] === 0x4b &&
        ((bytes[hit + 2] === 3 && bytes[hit + 3] === 4) || (bytes[hit + 2] === 1 && bytes[hit + 3] === 2))
      )
        yield at + hit
  }
}

/** Inflates an entry whose length is given only in its data descriptor; reads more until the stream ends. */
function streamed(reader: Reader, from: number): Inflated | null {
  for (let window = FIRST_WINDOW; ; window *= 8) {
    const bytes = reader.source.read(from, Math.min(window, MAX_ENTRY))
    const out = inflated(bytes, MAX_ENTRY)
    if (out || bytes.length < window || window >= MAX_ENTRY) return out
  }
}

function descriptorAt(reader: Reader, at: number, out: { bytes: number; used: number; crc: number }): number | null {
  for (const skip of [reader.is(at, 'PK\x07\x08') ? 4 : 0, 0]) {
    if (reader.u32le(at + skip) !== out.crc) continue
    if (reader.u32le(at + skip + 4) === out.used && reader.u32le(at + skip + 8) === out.bytes) return at + skip + 12
    if (reader.u64le(at + skip + 4) === out.used && reader.u64le(at + skip + 12) === out.bytes) return at + skip + 20
  }
  return null
}

function wideSizes(reader: Reader, at: number, length: number): [size: number, packed: number] | null {
  for (let next = at; next + 4 <= at + length; next += 4 + reader.u16le(next + 2))
    if (reader.u16le(next) === 1 && reader.u16le(next + 2) >= 16)
      return [reader.u64le(next + 4), reader.u64le(next + 12)]
  return null
}

/** The directory must list the entries that were found, in any order, followed by its end record. */
function directoryFault(reader: Reader, from: number, starts: readonly number[]): { end: number } | string {
  const met = new Set(starts)
  let at = from
  let told = 0
  for (; reader.is(at, CENTRAL); at += 46 + reader.u16le(at + 28) + reader.u16le(at + 30) + reader.u16le(at + 32)) {
    if (!reader.has(at, 46)) return 'central directory is truncated'
    const start = reader.u32le(at + 42)
    if (start !== 0xffffffff && !met.has(start)) return 'central directory lists a missing entry'
    told++
  }
  if (told !== starts.length)
    return told === 0 ? 'central directory is missing' : 'central directory does not list every entry'
  if (reader.is(at, END_WIDE)) at += 12 + reader.u64le(at + 4)
  if (reader.is(at, LOCATOR)) at += 20
  if (!reader.is(at, END) || !reader.has(at, 22)) return 'end of central directory record is missing'
  const end = at + 22 + reader.u16le(at + 20)
  const told16 = reader.u16le(at + 10)
  if (told16 !== 0xffff && told16 !== starts.length)
    return 'end of central directory record states another number of entries'
  return end > reader.size ? 'end of central directory record is truncated' : { end }
}

function kindOf(names: readonly string[], open: string | null): Kind {
  if (open && OPEN[open]) return OPEN[open]
  return KINDS.find(([has]) => names.some((name) => name.startsWith(has)))?.[1] ?? ZIP
}
