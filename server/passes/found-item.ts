import { linkItem, type LinkItem } from '../../core/bench/item'
import type { Keep } from '../../core/bench/keep'
import { describeContent } from '../../core/volumes/kept-content'
import type { Evidence } from '../../core/bench/medium'
import type { MediaItem } from '../../core/scanning/item'
import { markOfStamp } from '../links/stamp'
import type { VolumeShape } from '../../core/volumes/filesystems/volume-shape'

const MAX_NAME = 300
const MAX_FOLDERS = 50
const TAKEN_BY_DATE = new Set(['photos', 'videos', 'audio'])

export type FoundKeep = Pick<Keep, 'id' | 'kind' | 'title' | 'asOf'>

/** The volumes of a medium as keeps, by number; what is outside every volume comes last. */
export function keepsOf(volumes: readonly VolumeShape[], stamp: string): (volume: number | null) => FoundKeep {
  const mark = markOfStamp(stamp)
  const own = new Map(
    volumes.map(({ index, label, fileSystem }): [number | null, FoundKeep] => {
      const isShared = volumes.some((other) => other.index !== index && other.label === label)
      const name = label?.trim() || `${fileSystem ?? 'volume'}`
      const title = isShared || !label?.trim() ? `${name} ${index + 1}` : name
      return [index, { id: `v${index}.${mark}`, kind: 'image', title: title.slice(0, 160), asOf: null }]
    }),
  )
  const outside: FoundKeep = { id: `outside.${mark}`, kind: 'image', title: 'outside of all volumes', asOf: null }
  // One that a deep scan has found on its way.
  const lost = (volume: number): FoundKeep => ({
    id: `v${volume}.${mark}`,
    kind: 'image',
    title: `lost volume ${volume + 1}`,
    asOf: null,
  })
  return (volume) => own.get(volume) ?? (volume === null ? outside : lost(volume))
}

/** Converts what a scan found to an item with its evidence. `made`: from its own metadata, where it has any. */
export function foundItem(item: MediaItem, made: string | null): { item: LinkItem; evidence: Evidence } {
  const parts = item.path?.split('/').map((part) => part.slice(0, MAX_NAME)) ?? []
  return {
    item: linkItem({
      id: item.key,
      name: parts.at(-1) || nameOf(item),
      place: item.path === null ? ['found by content'] : parts.slice(0, -1).slice(0, MAX_FOLDERS),
      type: item.type,
      mime: item.mime ?? 'application/octet-stream',
      bytes: item.bytes,
      made: made ?? (TAKEN_BY_DATE.has(item.type) ? earliest(item.created, item.modified) : item.created),
      changed: item.modified,
      deleted: item.deleted,
      presence: item.record === 'present' ? 'present' : 'deleted',
      whole: item.content,
    }),
    evidence: {
      foundBy: item.foundBy,
      record: item.record,
      checks: item.checks,
      volume: item.volume,
      extents: item.extents.filter(([, length]) => length > 0).map(([offset, length]) => [offset, length]),
      kept: describeContent(item.source) ?? { as: 'pieces' },
    },
  }
}

/** Copying keeps the time of change and sets a new time of birth: the earlier of both is nearer to the creation. */
const earliest = (created: string | null, modified: string | null) =>
  created !== null && modified !== null ? (created < modified ? created : modified) : (created ?? modified)

/** An item without a name is named by its offset. */
const nameOf = (item: MediaItem) =>
  `found at ${Math.max(0, item.extents[0]?.[0] ?? 0)
    .toString(16)
    .padStart(9, '0')}.${item.extension || 'bin'}`
