import type { Reader } from '../reader'
import { partial, unverified, type Format, type Walk } from './format'

type Kind = Pick<Walk, 'mime' | 'extension' | 'type'>

/** A format in RIFF's chunks, whose lengths have to meet exactly at the end of the whole. */
function riff(id: string, form: string, kind: Kind, extensions: readonly string[]): Format {
  return {
    id,
    extensions,
    signatures: [[0, 'RIFF']],
    walk(reader) {
      if (!reader.is(0, 'RIFF') || !reader.is(8, form)) return null
      return walkChunks(reader, kind)
    },
  }
}

function walkChunks(reader: Reader, kind: Kind): Walk {
  const end = 8 + reader.u32le(4)
  const isCut = end > reader.size
  let at = 12
  while (at < end) {
    if (!reader.has(at, 8)) return partial(kind, { provenTo: at, breaksAt: reader.size, why: 'a chunk is cut off' })
    const id = reader.text(at, 4)
    if (!/^[\x20-\x7e]{4}$/.test(id))
      return partial(kind, { provenTo: Math.max(12, at - 512), breaksAt: at, why: 'what should be a chunk is none' })
    const length = reader.u32le(at + 4)
    const next = at + 8 + length + (length & 1)
    // The last chunk of some writers leaves out the byte that makes its length even.
    if (next > end + 1)
      return partial(kind, {
        provenTo: at,
        breaksAt: Math.min(end, reader.size),
        why: 'a chunk is longer than the file',
      })
    at = next
  }
  if (isCut && end > reader.size) return partial(kind, { provenTo: 12, breaksAt: reader.size, why: 'it is cut off' })
  return unverified(kind, Math.max(end, 12), 'the lengths of its chunks meet at its end')
}

export const webp = riff('webp', 'WEBP', { mime: 'image/webp', extension: 'webp', type: 'photos' }, ['webp'])
export const wav = riff('wav', 'WAVE', { mime: 'audio/wav', extension: 'wav', type: 'audio' }, ['wav'])
export const avi = riff('avi', 'AVI ', { mime: 'video/x-msvideo', extension: 'avi', type: 'videos' }, ['avi'])
