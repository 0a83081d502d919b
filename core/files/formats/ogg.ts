import { crc32Forward } from '../../sources/checksums'
import { intact, partial, type Format } from './format'

/** Ogg: pages, each with a checksum; the last page of every stream is marked (RFC 3533, section 6). */
export const ogg: Format = {
  id: 'ogg',
  extensions: ['ogg', 'oga', 'opus', 'ogv'],
  signatures: [[0, 'OggS']],
  isProvable: true,
  walk(reader, from) {
    if (!reader.is(0, 'OggS') || reader.u8(4) !== 0 || (reader.u8(5) & 2) === 0) return null
    const isVideo = reader.is(28, '\x80theora')
    const isOpus = reader.is(28, 'OpusHead')
    const kind = isVideo
      ? ({ mime: 'video/ogg', extension: 'ogv', type: 'videos' } as const)
      : ({ mime: 'audio/ogg', extension: isOpus ? 'opus' : 'ogg', type: 'audio' } as const)
    const open = new Map<number, number>((from?.state as [number, number][] | undefined) ?? [])
    let at = from?.at ?? 0
    const starts: { at: number; state: unknown }[] = []
    while (true) {
      if (starts.push({ at, state: [...open] }) > 8) starts.shift()
      const broken = (why: string, end = at) =>
        partial(kind, { provenTo: at, breaksAt: Math.min(end, reader.size), why, resume: starts })
      if (!reader.is(at, 'OggS') || !reader.has(at, 27)) return broken('page is missing')
      const segments = reader.u8(at + 26)
      let length = 27 + segments
      for (const size of reader.bytes(at + 27, segments)) length += size
      if (!reader.has(at, length)) return broken('page is truncated', reader.size)
      const page = new Uint8Array(reader.bytes(at, length))
      page.fill(0, 22, 26)
      if (crc32Forward(page) !== reader.u32le(at + 22)) return broken('page checksum mismatch', at + length)
      const [stream, number, flags] = [reader.u32le(at + 14), reader.u32le(at + 18), reader.u8(at + 5)]
      if (flags & 2 ? open.has(stream) : open.get(stream) !== number - 1) return broken('page out of sequence')
      open.set(stream, number)
      if (flags & 4) open.delete(stream)
      at += length
      if (open.size === 0) return intact(kind, at, 'every page checksum matches, up to the page marked last')
    }
  },
}
