import { DAY_MS } from '../../core/cases/shape/moment'
import type { Lot } from '../../core/bench/action'
import type { LinkItem } from '../../core/bench/item'
import type { Keep } from '../../core/bench/keep'
import { linkFailure } from '../../core/bench/fault'
import { bytesSource } from '../../core/sources/source'
import { rowsOf } from '../../core/sqlite/rows'
import type { RowsReport } from '../../core/sqlite/rows-report'
import { recordsOf } from '../../core/records/adapt'
import { recordMade, typeOfRecord } from '../../core/records/record'
import { recordBytes, type Contents, type StoredBackup, type StoredItem, type StoredKeep, type Thing } from './things'

/** When a bin erases an item, ms; null for what does not run out. */
function goneAt(keep: StoredKeep, item: StoredItem): number | null {
  return keep.kind === 'bin' && keep.periodDays !== null && item.deleted !== null
    ? Date.parse(item.deleted) + keep.periodDays * DAY_MS
    : null
}

/** What is there now: nothing where it was never switched on, and of a bin what has not run out. */
export function visible(keep: StoredKeep, now: number): StoredItem[] {
  if (!keep.isOn) return []
  return keep.items.filter((item) => (goneAt(keep, item) ?? Infinity) > now)
}

export function keepView(keep: StoredKeep, now: number, closed: string | null = null): Keep {
  const items = closed === null ? visible(keep, now) : []
  return {
    id: keep.id,
    kind: keep.kind,
    title: keep.title,
    types: keep.types,
    count: items.length,
    bytes: items.reduce((sum, item) => sum + item.bytes, 0),
    asOf: keep.asOf,
    periodDays: keep.periodDays,
    isOn: keep.isOn,
    closed,
    backup: null,
    until: null,
  }
}

export function itemView(keep: StoredKeep, item: StoredItem): LinkItem {
  const { content, ...facts } = item
  const gone = goneAt(keep, item)
  return { ...facts, goneAt: gone === null ? null : new Date(gone).toISOString(), sha256: content }
}

export function keepOf(thing: Thing, id: string): StoredKeep {
  const found = thing.keeps.find((one) => one.id === id)
  if (!found) throw linkFailure('not-found', 'It keeps no such thing.')
  return found
}

export function itemOf(keep: StoredKeep, id: string, now: number): StoredItem {
  const found = visible(keep, now).find((one) => one.id === id)
  if (!found) throw linkFailure('not-found', 'That item is not there any more.')
  return found
}

export const contentOf = (item: StoredItem, contents: Contents): Uint8Array =>
  item.record ? recordBytes(item.record) : item.content ? contents.get(item.content) : new Uint8Array(0)

/** What an item is, whatever it is called where. */
interface Counted {
  readonly type: Lot['type']
  readonly made: string | null
  readonly key: string
}

/** What is not part of a device's own state: what waits to be erased, and the card of somebody else's network. */
const NOT_ON_IT: readonly StoredKeep['kind'][] = ['bin', 'sim']

/** Every item and every live row of some keeps, so that two states of a device can be compared. */
export function countedIn(keeps: readonly StoredKeep[], contents: Contents): Counted[] {
  return keeps.flatMap((keep) =>
    NOT_ON_IT.includes(keep.kind)
      ? []
      : keep.items.flatMap((item) =>
          item.opensAs === 'rows' && item.content
            ? liveRows(item.content, contents)
            : [
                {
                  type: item.type,
                  made: item.made,
                  key: item.record ? JSON.stringify(item.record) : (item.content ?? item.id),
                },
              ],
        ),
  )
}

/** Rows by the checksum of their database: the same bytes hold the same rows. */
const rowsKnown = new Map<string, Counted[]>()

function liveRows(sha256: string, contents: Contents): Counted[] {
  const known = rowsKnown.get(sha256)
  if (known) return known
  const report = rowsOf(bytesSource(contents.get(sha256)))
  const rows = 'fault' in report ? [] : countedRows(report)
  rowsKnown.set(sha256, rows)
  return rows
}

function countedRows(report: RowsReport): Counted[] {
  return recordsOf(report)
    .filter(({ row, record }) => row.state === 'live' && record.kind !== 'row')
    .map(({ record }) => ({ type: typeOfRecord(record.kind), made: recordMade(record), key: JSON.stringify(record) }))
}

/** So many of each type, with the span in which they were made. */
export function lotsOf(counted: readonly Counted[]): Lot[] {
  const types = [...new Set(counted.map((one) => one.type))]
  return types.map((type) => {
    const own = counted.filter((one) => one.type === type)
    const made = own.flatMap((one) => (one.made === null ? [] : [one.made])).sort()
    return { type, count: own.length, from: made[0] ?? null, to: made.at(-1) ?? null }
  })
}

/** Items that are in one state and not in the other. */
export function missingFrom(other: readonly Counted[], counted: readonly Counted[]): Counted[] {
  const keys = new Set(other.map((one) => one.key))
  return counted.filter((one) => !keys.has(one.key))
}

export const backupKeepId = (backup: StoredBackup) => `backup.${backup.id}`

/** A backup as one of the keeps of whatever holds it. */
export function backupView(
  backup: StoredBackup,
  accountName: string | null,
  slots: number | null,
  contents: Contents,
): Keep {
  const counted = countedIn(backup.keeps, contents)
  const counts: Record<string, number> = {}
  for (const { type } of counted) counts[type] = (counts[type] ?? 0) + 1
  const bytes =
    backup.archiveBytes ||
    backup.keeps.reduce((sum, one) => sum + one.items.reduce((all, item) => all + item.bytes, 0), 0)
  return {
    id: backupKeepId(backup),
    kind: 'backup',
    title: `Backup of ${backup.deviceTitle}`,
    types: Object.keys(counts).length > 0 ? (Object.keys(counts) as Keep['types']) : ['files'],
    count: 1,
    bytes,
    asOf: backup.taken,
    until: null,
    periodDays: null,
    isOn: true,
    closed: null,
    backup: {
      device: backup.deviceTitle,
      account: accountName,
      taken: backup.taken,
      bytes,
      isEncrypted: backup.password !== null,
      keepsBins: backup.keepsBins,
      counts,
      isSelective: backup.isSelective,
      slots,
    },
  }
}
