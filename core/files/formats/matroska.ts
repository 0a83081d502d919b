import type { Reader } from '../../sources/reader'
import { partial, unverified, type Format } from './format'

const SEGMENT = 0x18538067
/** Elements that may be children of a segment (RFC 9559, section 5.1). */
const IN_SEGMENT = new Set([
  0x114d9b74, 0x1549a966, 0x1654ae6b, 0x1f43b675, 0x1c53bb6b, 0x1941a469, 0x1043a770, 0x1254c367, 0xec, 0xbf,
])

/** Matroska and WebM: elements whose lengths must add up (RFC 8794, RFC 9559). */
export const matroska: Format = {
  id: 'matroska',
  extensions: ['mkv', 'webm', 'mka'],
  signatures: [[0, '\x1a\x45\xdf\xa3']],
  walk(reader) {
    const head = elementAt(reader, 0)
    if (!head || head.id !== 0x1a45dfa3 || head.bytes > 4096) return null
    const isWeb = reader.text(head.from, head.bytes).includes('webm')
    const kind = isWeb
      ? ({ mime: 'video/webm', extension: 'webm', type: 'videos' } as const)
      : ({ mime: 'video/x-matroska', extension: 'mkv', type: 'videos' } as const)
    const segment = elementAt(reader, head.from + head.bytes)
    if (!segment || segment.id !== SEGMENT) return null
    const end = segment.bytes === Infinity ? Infinity : segment.from + segment.bytes
    let at = segment.from
    let clusters = 0
    while (at < end && at < reader.size) {
      const element = elementAt(reader, at)
      if (!element || !IN_SEGMENT.has(element.id)) break
      if (element.id === 0x1f43b675) clusters++
      if (element.bytes === Infinity || element.from + element.bytes > reader.size)
        return partial(kind, { provenTo: at, breaksAt: reader.size, why: 'element is truncated' })
      at = element.from + element.bytes
    }
    if (clusters === 0) return partial(kind, { provenTo: segment.from, breaksAt: at, why: 'segment is missing' })
    if (end !== Infinity && at !== end)
      return partial(kind, { provenTo: segment.from, breaksAt: at, why: 'elements do not end with the segment' })
    return unverified(kind, at, 'element structure is consistent')
  },
}

function elementAt(reader: Reader, at: number): { id: number; from: number; bytes: number } | null {
  if (!reader.has(at, 2)) return null
  const idLength = Math.clz32(reader.u8(at)) - 23
  if (idLength > 4 || !reader.has(at, idLength + 1)) return null
  let id = 0
  for (let index = 0; index < idLength; index++) id = id * 256 + reader.u8(at + index)
  const sizeAt = at + idLength
  const sizeLength = Math.clz32(reader.u8(sizeAt)) - 23
  if (sizeLength > 8 || !reader.has(sizeAt, sizeLength)) return null
  let bytes = reader.u8(sizeAt) & (0xff >> sizeLength)
  let isAllOnes = bytes === 0xff >> sizeLength
  for (let index = 1; index < sizeLength; index++) {
    bytes = bytes * 256 + reader.u8(sizeAt + index)
    isAllOnes &&= reader.u8(sizeAt + index) === 0xff
  }
  return { id, from: sizeAt + sizeLength, bytes: isAllOnes ? Infinity : bytes }
}
