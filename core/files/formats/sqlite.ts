import type { Reader } from '../../sources/reader'
import { partial, unverified, type Format } from './format'

const KIND = { mime: 'application/vnd.sqlite3', extension: 'sqlite', type: 'files' } as const
const HEAD = 'SQLite format 3\0'
const PAGE_KINDS = new Set([2, 5, 10, 13])

/** SQLite: the header gives the page count; every reachable page must be a b-tree page (file format, 1.3). */
export const sqlite: Format = {
  id: 'sqlite',
  extensions: ['sqlite', 'sqlite3', 'db'],
  signatures: [[0, HEAD]],
  walk(reader) {
    if (!reader.is(0, HEAD) || !reader.has(0, 100)) return null
    const told = reader.u16be(16)
    const pageBytes = told === 1 ? 65_536 : told
    if (pageBytes < 512 || (pageBytes & (pageBytes - 1)) !== 0 || reader.u8(21) !== 64 || reader.u8(22) !== 32)
      return null
    const pages = reader.u32be(28)
    const isPageCountSound = pages > 0 && reader.u32be(24) === reader.u32be(92)
    if (!isPageCountSound)
      return partial(KIND, {
        provenTo: 100,
        breaksAt: Math.min(pageBytes, reader.size),
        why: 'header does not state the length',
      })
    const bytes = pages * pageBytes
    if (bytes > reader.size) return partial(KIND, { provenTo: 100, breaksAt: reader.size, why: 'file is truncated' })
    const broken = firstBroken(reader, pageBytes, pages)
    if (broken > 0)
      return partial(KIND, {
        provenTo: pageBytes,
        breaksAt: Math.min(reader.size, (broken - 1) * pageBytes),
        why: `page ${broken} is not a b-tree page`,
      })
    return unverified(KIND, bytes, 'page count matches the header and the b-trees can be followed')
  },
}

/** The first invalid page that a tree refers to; 0 where there is none. */
function firstBroken(reader: Reader, pageBytes: number, pages: number): number {
  const waiting = [1]
  const seen = new Set<number>()
  for (let page = waiting.pop(); page !== undefined; page = waiting.pop()) {
    if (seen.has(page)) continue
    seen.add(page)
    const start = (page - 1) * pageBytes
    const at = start + (page === 1 ? 100 : 0)
    const kind = reader.u8(at)
    const cells = reader.u16be(at + 3)
    const head = kind === 2 || kind === 5 ? 12 : 8
    if (!PAGE_KINDS.has(kind) || at + head + cells * 2 > start + pageBytes) return page
    if (head === 12) {
      waiting.push(reader.u32be(at + 8))
      for (let cell = 0; cell < cells; cell++) waiting.push(reader.u32be(start + reader.u16be(at + 12 + cell * 2)))
    }
    if (waiting.some((next) => next < 1 || next > pages)) return page
  }
  return 0
}
