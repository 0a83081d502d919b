import { formatOfName, FORMATS } from '../formats/registry'
import type { Format, Walk } from '../formats/format'
import { Reader } from '../reader'
import type { ByteSource } from '../source'

const SAMPLE_BYTES = 4096

/** What the structure of some content says of it. */
export interface Proof {
  readonly walk: Walk | null
  /**
   * `proves`: whole to its last byte. `agrees`: it fits, and some of it is proved by nothing. `contradicts`: it is not what
   * its name says, or breaks off. `silent`: nothing is known of such content.
   */
  readonly verdict: 'proves' | 'agrees' | 'contradicts' | 'silent'
  readonly isNothing: boolean
}

/** Holds content against the structure of its format, which its name or its beginning tells. `unitBytes`: in what pieces the volume gives its room out. */
export function prove(content: ByteSource, name: string, unitBytes: number): Proof {
  const reader = new Reader(content, unitBytes)
  const sample = reader.bytes(0, Math.min(SAMPLE_BYTES, content.size))
  const isNothing = sample.length > 0 && sample.every((byte) => byte === 0)
  const own = formatOfName(name)
  const named = own?.walk(reader) ?? null
  const walk = named ?? walkAsAny(reader, own)
  // Files are called by the wrong name now and then; one that also ends long before its record does is another file.
  const isOther = own !== null && named === null && own.signatures.length > 0
  if (walk && isOther && walk.bytes + Math.max(512, unitBytes) < content.size)
    return { walk: null, verdict: 'contradicts', isNothing }
  if (!walk) {
    // A name whose format always begins in the same way, and a beginning that is another.
    const isContradicted = (isOther && content.size > 0) || (isNothing && own !== null)
    return { walk: null, verdict: isContradicted ? 'contradicts' : 'silent', isNothing }
  }
  if (walk.whole === 'partial' || walk.bytes > content.size) return { walk, verdict: 'contradicts', isNothing }
  if (walk.whole === 'intact' && walk.bytes === content.size) return { walk, verdict: 'proves', isNothing }
  const isShort = walk.bytes < content.size && own !== null && walk.extension !== 'txt'
  // Some writers leave something behind the end; a text that stops in the middle has been written over.
  const isCut = (isShort && walk.bytes < content.size / 2) || textIsCut(walk, content)
  return { walk, verdict: isCut ? 'contradicts' : 'agrees', isNothing }
}

const textIsCut = (walk: Walk, content: ByteSource) => walk.mime.startsWith('text/') && walk.bytes < content.size

function walkAsAny(reader: Reader, but: Format | null): Walk | null {
  for (const format of FORMATS) {
    if (format === but || format.signatures.length === 0 || !begins(reader, format)) continue
    const walk = format.walk(reader)
    if (walk) return walk
  }
  return null
}

function begins(reader: Reader, format: Format): boolean {
  return format.signatures.some(([at, bytes]) => reader.is(at, bytes))
}
