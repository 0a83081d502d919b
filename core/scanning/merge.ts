import { formatOfName } from '../files/formats/registry'
import { NOT_ITS_NAME, type MediaItem } from './item'

/**
 * Merges what both passes found: content that begins where a record says that a file begins is that file, with its
 * name. Where the deep scan's reading is better than the record's, it is used.
 */
export function merged(quick: readonly MediaItem[], deep: readonly MediaItem[]): MediaItem[] {
  const records = new Records(quick)
  return [...quick, ...deep.filter((item) => records.take(item) === null)]
}

/** Items from records, by where they begin. */
export class Records {
  private readonly byStart = new Map<number, MediaItem[]>()

  constructor(records: readonly MediaItem[]) {
    for (const item of records) {
      const start = item.extents[0]?.[0]
      if (start !== undefined && start >= 0) this.byStart.set(start, [...(this.byStart.get(start) ?? []), item])
    }
  }

  /** The record that content belongs to, with what the content proves of it; null where no record describes it. */
  take(content: MediaItem): MediaItem | null {
    const same = (this.byStart.get(content.extents[0]![0]) ?? []).find((one) => isSame(one, content))
    if (same) join(same, content)
    return same ?? null
  }
}

/** Shorter files may agree in their length by chance. */
const MIN_TELLING = 1024

/**
 * Where the record of a file was reused, a directory may still have its name, kind and length. Content of the same kind
 * and length is that file, where no other content has both.
 */
export function namedByLength(items: readonly MediaItem[]): MediaItem[] {
  const records = new Map<string, MediaItem[]>()
  const contents = new Map<string, MediaItem[]>()
  const put = (map: Map<string, MediaItem[]>, key: string, item: MediaItem) =>
    map.set(key, [...(map.get(key) ?? []), item])
  for (const item of items) {
    if (item.bytes < MIN_TELLING) continue
    const isLost = item.record === 'deleted' && item.content === 'overwritten' && item.extents.length === 0
    const kind = formatOfName(item.record === 'none' ? `x.${item.extension}` : (item.path ?? ''))?.id
    if (kind && isLost) put(records, `${kind} ${item.bytes}`, item)
    if (kind && item.record === 'none' && item.content !== 'partial') put(contents, `${kind} ${item.bytes}`, item)
  }
  const named = new Set<MediaItem>()
  for (const [key, [record, ...others]] of records) {
    const [content, ...more] = contents.get(key) ?? []
    if (!record || !content || others.length > 0 || more.length > 0) continue
    named.add(content)
    const { mime, extents } = content
    const checks = [...content.checks, 'remains of its directory list a file of this type and length']
    Object.assign(record, { mime, extents, checks, content: content.content })
    record.foundBy.push('deep')
  }
  return items.filter((item) => !named.has(item))
}

/**
 * Two whole files cannot share a place: where two deleted ones claim some of it, one of them only looks whole, and
 * neither is called intact. Copies of one entry, with exactly the same extents, are the same file.
 */
export function withoutContradictions(items: readonly MediaItem[]): void {
  const places = items
    .filter(({ content, record, bytes }) => content === 'intact' && record !== 'present' && bytes > 0)
    .flatMap((item) =>
      item.extents
        .filter(([offset]) => offset >= 0)
        .map(([offset, length]) => ({ item, offset, end: offset + length })),
    )
    .sort((a, b) => a.offset - b.offset)
  let widest = places[0]
  for (const place of places.slice(1)) {
    if (widest && place.offset < widest.end && place.item !== widest.item && !isCopy(place.item, widest.item))
      for (const { item } of [place, widest]) {
        if (item.content !== 'intact') continue
        item.content = 'unverified'
        item.checks.push('overlaps another file that also appears intact')
      }
    if (!widest || place.end > widest.end) widest = place
  }
}

const isCopy = (a: MediaItem, b: MediaItem) => a.bytes === b.bytes && a.extents[0]![0] === b.extents[0]![0]

/** A record and content that begin at the same place are one file where they agree in length or kind. */
function isSame(record: MediaItem, content: MediaItem): boolean {
  if (record.bytes === content.bytes) return true
  if (record.content === 'intact') return record.bytes > content.bytes || record.mime === content.mime
  return record.mime === content.mime && content.content !== 'intact'
}

function join(record: MediaItem, content: MediaItem): void {
  if (!record.foundBy.includes('deep')) record.foundBy.push('deep')
  if (record.content === 'intact' || content.content === 'partial' || record.bytes !== content.bytes) return
  // Content that parses elsewhere to exactly the recorded length is better than what does not parse; so is content that
  // ends there under another kind of name: a record may have come to a later file with only its name.
  const isInOtherPlaces = record.content === 'partial' && content.extents.length > 1
  const isOfOtherName = record.content === 'overwritten' && record.checks.includes(NOT_ITS_NAME)
  if (content.content === 'unverified' && !isInOtherPlaces && !isOfOtherName) return
  record.content = content.content
  record.extents = content.extents
  record.source = null
  record.mime = content.mime
  // Objections to the record's own location are settled by now; that it was only assumed is still reported.
  record.checks = [...content.checks, ...record.checks.slice(0, 1), ...(isOfOtherName ? [NOT_ITS_NAME] : [])]
}
