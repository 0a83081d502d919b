import { inflatedStream } from '../inflate'
import type { Reader } from '../reader'
import type { Extent } from '../source'
import { intactBut, partial, unverified, type Format } from './format'

const KIND = { mime: 'application/pdf', extension: 'pdf', type: 'documents' } as const
const MOST_BYTES = 512 * 1024 * 1024
const WINDOW = 1 << 20
const MOST_OBJECTS = 200_000

/**
 * PDF: the last end mark whose table of objects fits. Each object that the table names has to stand at its place; a
 * packed stream has to unpack with its checksum right (ISO 32000-1, 7.5).
 */
export const pdf: Format = {
  id: 'pdf',
  extensions: ['pdf'],
  signatures: [[0, '%PDF-']],
  walk(reader) {
    if (!reader.is(0, '%PDF-')) return null
    const ends = endMarks(reader)
    if (ends.length === 0)
      return partial(KIND, { provenTo: 0, breaksAt: Math.min(reader.size, WINDOW), why: 'its end mark is not there' })
    let fault = 'its end mark is not there'
    for (const end of [...ends].reverse()) {
      const told = proof(reader, end)
      if (typeof told === 'string') {
        fault = told
        continue
      }
      const bytes = lineEnd(reader, end)
      return told.proved
        ? intactBut(
            KIND,
            bytes,
            between(told.proved, bytes),
            reader.unitBytes,
            `${told.objects} objects stand where its table says, every stream unpacks with its checksum`,
          )
        : unverified(KIND, bytes, `${told.objects} objects stand where its table says`)
    }
    return partial(KIND, { provenTo: 0, breaksAt: lineEnd(reader, ends.at(-1)!), why: fault })
  },
}

/** the offsets behind the end marks, until something begins that is another file */
function endMarks(reader: Reader): number[] {
  const ends: number[] = []
  const most = Math.min(reader.size, MOST_BYTES)
  let zeros = 0
  for (let from = 0; from < most; from += WINDOW) {
    const text = latin1(reader.source.read(from, WINDOW + 8))
    for (let at = text.indexOf('%%EOF'); at >= 0 && at < WINDOW; at = text.indexOf('%%EOF', at + 1))
      ends.push(from + at + 5)
    const next = text.indexOf('%PDF-', from === 0 ? 5 : 0)
    if (next >= 0 && ends.length > 0) {
      const own = ends.filter((end) => end <= from + next)
      return own.length > 0 ? own : ends
    }
    // A megabyte of nothing behind an end mark: the file is over.
    zeros = /^\0*$/.test(text) ? zeros + 1 : 0
    if (ends.length > 0 && (zeros > 0 || from > ends.at(-1)! + 64 * WINDOW)) break
    if (zeros > 4) break
  }
  return ends.slice(-40)
}

function proof(reader: Reader, end: number): { objects: number; proved: readonly Extent[] | null } | string {
  const tail = latin1(reader.bytes(Math.max(0, end - 2048), Math.min(2048, end)))
  const mark = tail.lastIndexOf('startxref')
  const at = mark < 0 ? NaN : Number(/^startxref\s+(\d+)\s+%%EOF$/.exec(tail.slice(mark))?.[1] ?? NaN)
  if (!(at < end)) return 'where its table of objects stands is not told'
  const places = tableAt(reader, at, end, new Set())
  if (!places) return 'its table of objects is not where it should be'
  const offsets = [...places].sort((a, b) => a - b)
  const proved: Extent[] = []
  let isEveryStreamProved = offsets.length > 0
  for (const [index, offset] of offsets.entries()) {
    const next = Math.min(offsets[index + 1] ?? end, end)
    const told = objectAt(reader, offset, next)
    if (told === null) return 'an object is not where its table says'
    if (told === 'unproved') isEveryStreamProved = false
    else proved.push(told)
  }
  return { objects: offsets.length, proved: isEveryStreamProved ? proved : null }
}

/** The offsets of all objects: out of a table in text, those before it included; of a packed table only its own. */
function tableAt(reader: Reader, at: number, end: number, seen: Set<number>): Set<number> | null {
  if (seen.has(at) || seen.size > 64) return new Set()
  seen.add(at)
  const places = new Set<number>()
  const head = latin1(reader.bytes(at, 40))
  if (!/^\s*xref\s/.test(head)) return /^\s*\d+\s+\d+\s+obj\b/.test(head) ? new Set([at]) : null
  const text = latin1(reader.source.read(at, Math.min(end - at, 20 * MOST_OBJECTS)))
  const entry = /(\d{10}) \d{5} ([nf])/g
  const trailer = text.indexOf('trailer')
  if (trailer < 0) return null
  for (let hit = entry.exec(text); hit && hit.index < trailer; hit = entry.exec(text))
    if (hit[2] === 'n' && Number(hit[1]) > 0) places.add(Number(hit[1]))
  const before = /\/Prev\s+(\d+)/.exec(text.slice(trailer))
  if (before) for (const place of tableAt(reader, Number(before[1]), end, seen) ?? []) places.add(place)
  return [...places].every((place) => place < end) ? places : null
}

/** Where the stream of an object lies if unpacking proves it (nowhere, if it has none); null where there is no object. */
function objectAt(reader: Reader, at: number, end: number): Extent | 'unproved' | null {
  const head = latin1(reader.bytes(at, Math.min(4096, end - at)))
  const start = /^\s*\d+\s+\d+\s+obj\b/.exec(head)
  if (!start) return null
  const stream = /stream\r?\n/.exec(head)
  if (!stream || head.slice(0, stream.index).includes('endobj'))
    return latin1(reader.source.read(at, Math.min(end - at, WINDOW))).includes('endobj') ? [at, 0] : null
  const dictionary = head.slice(0, stream.index)
  const length = Number(/\/Length\s+(\d+)(?!\s+\d+\s+R)/.exec(dictionary)?.[1] ?? NaN)
  const from = at + stream.index + stream[0].length
  if (!(from + length <= end)) return 'unproved'
  if (!/^\s*endstream/.test(latin1(reader.bytes(from + length, 16)))) return null
  if (length === 0) return [from, 0]
  if (!/\/Filter\s*\[?\s*\/FlateDecode/.test(dictionary)) return 'unproved'
  const out = inflatedStream(reader.source.read(from, length), 256 * 1024 * 1024)
  return out !== null && length - out.used <= 2 ? [from, length] : 'unproved'
}

/** What lies between stretches that are in order, up to an end. */
function between(stretches: readonly Extent[], end: number): Extent[] {
  const left: Extent[] = []
  let at = 0
  for (const [offset, length] of stretches) {
    if (offset > at) left.push([at, offset - at])
    at = Math.max(at, offset + length)
  }
  return at < end ? [...left, [at, end - at]] : left
}

function lineEnd(reader: Reader, at: number): number {
  if (reader.is(at, '\r\n')) return at + 2
  return reader.is(at, '\n') || reader.is(at, '\r') ? at + 1 : at
}

function latin1(bytes: Uint8Array): string {
  let text = ''
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192))
  return text
}
