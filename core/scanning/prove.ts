import { kindOfName } from '../files/kinds'
import type { DataType } from '../cases/shape/data-types'
import { formatOfName, FORMATS } from '../files/formats/registry'
import type { Format, Walk } from '../files/formats/format'
import { Reader } from '../sources/reader'
import type { ByteSource } from '../sources/source'

const SAMPLE_BYTES = 4096

/** What the structure of some content says about it. */
export interface Proof {
  readonly walk: Walk | null
  /**
   * `proves`: whole to its last byte. `agrees`: it parses, but some of it has no check. `contradicts`: it is not what
   * its name says, or is truncated. `silent`: its format is not known.
   */
  readonly verdict: 'proves' | 'agrees' | 'contradicts' | 'silent'
  /** all of its bytes are equal, as media return erased or discarded blocks */
  readonly isNothing: boolean
  /** its content is of quite another kind than its name says: a picture named as a text */
  readonly isOtherType: boolean
}

/** Checks content against the structure of its format, chosen by name or first bytes. `unitBytes`: allocation unit of the volume. */
export function prove(content: ByteSource, name: string, unitBytes: number): Proof {
  const reader = new Reader(content, unitBytes)
  const isNothing = isErased(content)
  const own = formatOfName(name)
  const named = own?.walk(reader) ?? null
  const walk = named ?? walkAsAny(reader, own)
  const isOtherType = named === null && walk !== null && own !== null && areOtherTypes(kindOfName(name).type, walk.type)
  // Files have a wrong name now and then; one that also ends long before its record does is another file.
  const isOther = own !== null && named === null && own.signatures.length > 0
  if (walk && isOther && walk.bytes + Math.max(512, unitBytes) < content.size)
    return { walk: null, verdict: 'contradicts', isNothing, isOtherType }
  if (!walk) {
    // The name belongs to a format with a fixed signature, and the content has another one.
    const isContradicted = (isOther && content.size > 0) || (isNothing && own !== null)
    return { walk: null, verdict: isContradicted ? 'contradicts' : 'silent', isNothing, isOtherType }
  }
  const told = (verdict: Proof['verdict']): Proof => ({ walk, verdict, isNothing, isOtherType })
  if (walk.whole === 'partial' || walk.bytes > content.size) return told('contradicts')
  if (walk.whole === 'intact' && walk.bytes === content.size) return told('proves')
  const isShort = walk.bytes < content.size && own !== null && walk.extension !== 'txt'
  // Some writers leave data behind the end; a text that stops in the middle was overwritten.
  const isCut = (isShort && walk.bytes < content.size / 2) || textIsCut(walk, content)
  return told(isCut ? 'contradicts' : 'agrees')
}

/** Larger content that reads as erased at every sample counts as erased; smaller content is read whole. */
const MAX_READ_WHOLE = 256 * 1024 * 1024
const STEP_BYTES = 1024 * 1024
const SAMPLES = 4096

/** Whether content is only zeros or only ones, as media return erased or discarded blocks. */
function isErased(content: ByteSource): boolean {
  const { size } = content
  const fill = content.read(0, Math.min(SAMPLE_BYTES, size))
  const first = fill[0]
  if ((first !== 0 && first !== 0xff) || !isFilledWith(fill, first)) return false
  const isWhole = size <= MAX_READ_WHOLE
  const [step, length] = isWhole ? [STEP_BYTES, STEP_BYTES] : [Math.floor(size / SAMPLES), SAMPLE_BYTES]
  for (let at = 0; at < size; at += step)
    if (!isFilledWith(content.read(at, Math.min(length, size - at)), first)) return false
  return isFilledWith(content.read(Math.max(0, size - SAMPLE_BYTES), SAMPLE_BYTES), first)
}

function isFilledWith(bytes: Uint8Array, value: number): boolean {
  const isAligned = bytes.byteOffset % 4 === 0
  const words = isAligned ? new Uint32Array(bytes.buffer, bytes.byteOffset, bytes.length >> 2) : []
  const word = value === 0 ? 0 : 0xffffffff
  for (let at = 0; at < words.length; at++) if (words[at] !== word) return false
  for (let at = words.length * 4; at < bytes.length; at++) if (bytes[at] !== value) return false
  return true
}

/** Documents and tables count as one kind. */
const areOtherTypes = (one: DataType, other: DataType) => one !== other && !(isOffice(one) && isOffice(other))
const isOffice = (type: DataType) => type === 'documents' || type === 'spreadsheets'

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
