import type { DataType } from '../../cases/shape/data-types'
import type { Reader } from '../../sources/reader'
import { partial, unverified, type Format, type Walk } from './format'

type Kind = Pick<Walk, 'mime' | 'extension' | 'type'>
const MAX_BYTES = 64 * 1024 * 1024
const STEP = 32 * 1024
const SAMPLE = 2048

/** where text ends: at the first byte that text cannot contain; UTF-8 is decoded, single-byte text is accepted */
export function textEnd(reader: Reader, most = MAX_BYTES): number {
  const limit = Math.min(reader.size, most)
  for (let from = 0; from < limit; from += STEP) {
    const bytes = reader.bytes(from, Math.min(STEP, limit - from))
    for (let at = 0; at < bytes.length; at++) if (SORTS[bytes[at]!] === 0) return from + at
  }
  return limit
}

/** Whether a byte occurs in text: printable, a tab, a line or form feed, a carriage return, or part of a longer character. */
export const isTextByte = (byte: number) =>
  (byte >= 0x20 && byte !== 0x7f) || byte === 9 || byte === 10 || byte === 13 || byte === 12

/** by byte: 0 never in text, 1 letters, digits and blanks, 2 part of a multi-byte character, 3 others */
const SORTS = Uint8Array.from({ length: 256 }, (_, byte) => {
  if (!isTextByte(byte)) return 0
  if (byte >= 0x80) return 2
  return (byte >= 0x61 && byte <= 0x7a) || byte === 0x20 || (byte >= 0x30 && byte <= 0x39) ? 1 : 3
})

const utf8 = new TextDecoder('utf-8', { fatal: true })

/** Whether bytes are text by their statistics: valid UTF-8, or nearly only letters, digits, blanks and punctuation. */
export function readsAsText(bytes: Uint8Array): boolean {
  if (bytes.length < 16) return false
  let [plain, high] = [0, 0]
  for (let at = 0; at < bytes.length; at++) {
    const sort = SORTS[bytes[at]!]
    if (sort === 0) return false
    if (sort === 1) plain++
    else if (sort === 2) high++
  }
  if (high > 0) {
    try {
      // The last character may be cut where the sample ends.
      utf8.decode(bytes.subarray(0, lastWhole(bytes)))
    } catch {
      return high < bytes.length * 0.15 && plain > bytes.length * 0.5
    }
    // Valid multi-byte characters are letters of some script, and no coincidence.
    return plain + high > bytes.length * 0.3
  }
  return plain > bytes.length * 0.3
}

/** the length without an incomplete last character */
function lastWhole(bytes: Uint8Array): number {
  let end = bytes.length
  for (let back = 0; back < 4 && end > 0 && bytes[end - 1]! >= 0x80; back++) if (bytes[--end]! >= 0xc0) break
  return end
}

/** Plain text: recognised by statistics only, without an end mark; at best unverified. */
export const text: Format = {
  id: 'text',
  isLoose: true,
  extensions: ['txt', 'md', 'log', 'csv', 'json', 'xml', 'html', 'htm', 'svg', 'ini', 'yml', 'yaml', 'srt', 'tex'],
  signatures: [],
  walk(reader) {
    // Of a short file, the sample is all.
    const isAll = reader.size <= SAMPLE && readsAsText(reader.bytes(0, reader.size))
    const end = isAll ? reader.size : textEnd(reader)
    if (end < 64 || !(isAll || readsAsText(reader.bytes(0, Math.min(SAMPLE, end))))) return null
    const kind = kindOf(reader, end)
    const marked = kind.extension === 'html' ? htmlEnd(reader, end) : -1
    if (marked > 0) return unverified(kind, marked, 'valid text up to its end tag')
    return unverified(kind, end, 'valid text; its end is not marked')
  },
}

/** Behind the end tag of the document, with its line end; -1 where it has none, or its end is not the first. */
function htmlEnd(reader: Reader, end: number): number {
  for (let from = 0; from < end; from += STEP) {
    const tag = /<\/html\s*>[ \t]*(\r?\n)?/i.exec(reader.text(from, Math.min(STEP + 32, end - from)))
    if (tag) return from + tag.index + tag[0].length
  }
  return -1
}

function kindOf(reader: Reader, end: number): Kind {
  const head = reader.text(0, Math.min(16, end)).trimStart()
  if (head !== '' && !head.startsWith('<')) return PLAIN
  const start = reader.text(0, Math.min(512, end)).trimStart().toLowerCase()
  if (start.startsWith('<!doctype html') || start.startsWith('<html'))
    return { mime: 'text/html', extension: 'html', type: 'documents' }
  if (start.startsWith('<?xml') && start.includes('<svg'))
    return { mime: 'image/svg+xml', extension: 'svg', type: 'photos' }
  if (start.startsWith('<?xml')) return { mime: 'application/xml', extension: 'xml', type: 'documents' }
  return PLAIN
}

const PLAIN: Kind = { mime: 'text/plain', extension: 'txt', type: 'documents' }

/** A format in lines with a mark at its beginning and its end: everything between must be text. */
function marked(id: string, begin: string, end: string, kind: Kind, extensions: readonly string[]): Format {
  return {
    id,
    extensions,
    signatures: [[0, begin]],
    walk(reader) {
      if (!reader.is(0, begin)) return null
      const textTo = textEnd(reader, 16 * 1024 * 1024)
      // Several of them may follow each other in one file.
      let last = -1
      for (let at = 0; at < textTo; at += STEP) {
        const part = reader.text(at, Math.min(STEP + end.length, textTo - at))
        for (let hit = part.indexOf(end); hit >= 0; hit = part.indexOf(end, hit + 1)) last = at + hit + end.length
      }
      if (last < 0) return partial(kind, { provenTo: 0, breaksAt: textTo, why: 'end marker is missing' })
      if (reader.is(last, '\r\n')) last += 2
      else if (reader.is(last, '\n')) last++
      return unverified(kind, last, 'valid text from the first marker to the last')
    },
  }
}

const lines = (mime: string, extension: string, type: DataType): Kind => ({ mime, extension, type })

export const vcard = marked('vcard', 'BEGIN:VCARD', 'END:VCARD', lines('text/vcard', 'vcf', 'contacts'), ['vcf'])
export const icalendar = marked(
  'icalendar',
  'BEGIN:VCALENDAR',
  'END:VCALENDAR',
  lines('text/calendar', 'ics', 'calendar'),
  ['ics'],
)
