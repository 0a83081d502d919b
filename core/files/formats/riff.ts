import { Reader } from '../../sources/reader'
import { partial, unverified, type Format, type Walk } from './format'

type Kind = Pick<Walk, 'mime' | 'extension' | 'type'>

/** A format in RIFF chunks, whose lengths must add up exactly to the whole. */
function riff(id: string, form: string, kind: Kind, isLoose: boolean): Format {
  return {
    id,
    extensions: [kind.extension],
    isLoose,
    signatures: [[0, 'RIFF']],
    walk(reader) {
      if (!reader.is(0, 'RIFF') || !reader.is(8, form)) return null
      const walk = walkChunks(reader, kind)
      return form === 'AVI ' ? withFilm(reader, walk) : walk
    },
  }
}

/** A movie has its frames and sound in chunks inside a list, and may continue in further RIFF chunks. */
function withFilm(reader: Reader, walk: Walk): Walk {
  if (walk.whole === 'partial') return walk
  const near = new Reader(reader.source, reader.unitBytes, CHUNK_WINDOW_BYTES)
  const fault = filmFault(near, 12, walk.bytes)
  if (fault !== null)
    return partial(walk, {
      provenTo: Math.max(12, fault - 512),
      breaksAt: fault,
      why: 'invalid chunk header',
    })
  let end = walk.bytes
  while (reader.is(end, 'RIFF') && reader.is(end + 8, 'AVIX')) {
    const next = end + 8 + reader.u32le(end + 4)
    if (next > reader.size) return partial(walk, { provenTo: end, breaksAt: reader.size, why: 'file is truncated' })
    const later = filmFault(near, end + 12, next)
    if (later !== null) return partial(walk, { provenTo: end, breaksAt: later, why: 'invalid chunk header' })
    end = next
  }
  return unverified(walk, end, ...walk.checks)
}

const CHUNK_WINDOW_BYTES = 512
const MAX_CHUNKS = 100_000

/**
 * Where the chunks of a movie become invalid; null where they are valid to the end. A movie with very many is not
 * followed to its end.
 */
function filmFault(reader: Reader, from: number, end: number): number | null {
  let chunks = 0
  for (let at = from; at + 8 <= end && chunks < MAX_CHUNKS; chunks++) {
    const id = reader.text(at, 4)
    if (!/^[\x20-\x7e]{4}$/.test(id)) return at
    // Lists of chunks are entered.
    const length = id === 'LIST' ? 4 : reader.u32le(at + 4)
    if (at + 8 + length > end) return at
    at += 8 + length + (length & 1)
  }
  return null
}

function walkChunks(reader: Reader, kind: Kind): Walk {
  const end = 8 + reader.u32le(4)
  const isCut = end > reader.size
  let at = 12
  while (at < end) {
    if (!reader.has(at, 8)) return partial(kind, { provenTo: at, breaksAt: reader.size, why: 'chunk is truncated' })
    const id = reader.text(at, 4)
    if (!/^[\x20-\x7e]{4}$/.test(id))
      return partial(kind, { provenTo: Math.max(12, at - 512), breaksAt: at, why: 'invalid chunk header' })
    const length = reader.u32le(at + 4)
    const next = at + 8 + length + (length & 1)
    // Some writers omit the padding byte of the last chunk.
    if (next > end + 1)
      return partial(kind, {
        provenTo: at,
        breaksAt: Math.min(end, reader.size),
        why: 'chunk extends beyond the file',
      })
    at = next
  }
  if (isCut && end > reader.size)
    return partial(kind, { provenTo: 12, breaksAt: reader.size, why: 'file is truncated' })
  return unverified(kind, Math.max(end, 12), 'chunk lengths add up to the file length')
}

export const webp = riff('webp', 'WEBP', { mime: 'image/webp', extension: 'webp', type: 'photos' }, true)
export const wav = riff('wav', 'WAVE', { mime: 'audio/wav', extension: 'wav', type: 'audio' }, true)
export const avi = riff('avi', 'AVI ', { mime: 'video/x-msvideo', extension: 'avi', type: 'videos' }, false)
