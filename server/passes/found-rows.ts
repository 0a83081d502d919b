import { eq, inArray, sql } from 'drizzle-orm'
import type { DataType } from '../../core/cases/shape/data-types'
import { madeOf } from '../../core/scanning/made-of'
import type { MediaItem } from '../../core/scanning/item'
import { contentOf } from '../../core/scanning/scan'
import type { ByteSource } from '../../core/sources/source'
import { rowOf, type Judging } from '../listings/find-row'
import type { Handle } from '../cases/rows'
import type { Database } from '../db/open'
import { insertFinds, updateFind, type NewFind } from '../listings/store-finds'
import { findBodies, finds } from '../db/tables'
import { foundItem, type FoundKeep } from './found-item'

interface Known {
  readonly id: number
  /** to see whether the stored row is current */
  readonly sign: string
  readonly type: string
  readonly wanted: string | null
  readonly isWhole: boolean
}

/** A row to be stored, with the sign that its item has then. */
interface FoundRow {
  readonly sign: string
  readonly find: NewFind
}

/** The rows of one listing that a pass fills: a repeated item updates its row and keeps its number and selection. */
export class FoundRows {
  private readonly known = new Map<string, Known>()
  readonly byType = new Map<DataType, number>()
  /** found intact or unverified, per wanted set */
  readonly wantedWhole = new Map<string, number>()
  wanted = 0

  constructor(
    private readonly database: Database,
    private readonly listingId: number,
    private readonly judging: Judging,
    private readonly keepOf: (volume: number | null) => FoundKeep,
    private readonly image: ByteSource,
  ) {
    const length = (path: string) => sql<number>`json_array_length(${findBodies.body}, ${`$.evidence.${path}`})`
    const rows = database
      .select({
        id: finds.id,
        item: finds.item,
        type: finds.type,
        wanted: finds.wanted,
        whole: finds.whole,
        bytes: finds.bytes,
        startByte: finds.startByte,
        foundBy: length('foundBy'),
        checks: length('checks'),
        extents: length('extents'),
      })
      .from(finds)
      .innerJoin(findBodies, eq(findBodies.findId, finds.id))
      .where(eq(finds.listingId, listingId))
      .all()
    for (const row of rows) this.count(row.item, { ...row, sign: signOf(row), isWhole: isWhole(row.whole) })
  }

  get size(): number {
    return this.known.size
  }

  has(item: MediaItem): boolean {
    return this.known.has(this.nameOf(item))
  }

  /** The rows of those items that are not stored in this form yet. */
  async rowsOf(items: readonly MediaItem[]): Promise<FoundRow[]> {
    const rows: FoundRow[] = []
    for (const item of items) {
      const sign = signOfItem(item)
      if (this.known.get(this.nameOf(item))?.sign === sign) continue
      const made = item.content === 'overwritten' ? null : await madeOf(contentOf(this.image, item), item.mime)
      const { item: found, evidence } = foundItem(item, made)
      rows.push({ sign, find: rowOf(this.listingId, this.keepOf(item.volume), found, this.judging, evidence) })
    }
    return rows
  }

  /** Stores rows within a transaction: inserts new ones, updates the others. */
  store(handle: Handle, rows: readonly FoundRow[]): void {
    const fresh: FoundRow[] = []
    for (const one of rows) {
      const stored = this.known.get(one.find.row.item)
      if (!stored) fresh.push(one)
      else {
        updateFind(handle, stored.id, one.find)
        this.count(one.find.row.item, knownOf(one, stored.id))
      }
    }
    const ids = insertFinds(
      this.database,
      fresh.map(({ find }) => find),
    )
    for (const [at, one] of fresh.entries()) this.count(one.find.row.item, knownOf(one, ids[at]!))
  }

  /** Deletes the rows of all other items: fragments that were joined to others. */
  keepOnly(items: readonly MediaItem[]): void {
    const kept = new Set(items.map((item) => this.nameOf(item)))
    const gone = [...this.known].filter(([item]) => !kept.has(item))
    for (let at = 0; at < gone.length; at += 500) {
      const some = gone.slice(at, at + 500)
      this.database
        .delete(finds)
        .where(
          inArray(
            finds.id,
            some.map(([, { id }]) => id),
          ),
        )
        .run()
      for (const [item] of some) this.uncount(item)
    }
  }

  private nameOf(item: MediaItem): string {
    return `${this.keepOf(item.volume).id}/${item.key}`
  }

  private count(item: string, known: Known): void {
    this.uncount(item)
    this.known.set(item, known)
    this.add(known, 1)
  }

  private uncount(item: string): void {
    const before = this.known.get(item)
    if (before) this.add(before, -1)
    this.known.delete(item)
  }

  private add({ type, wanted, isWhole }: Known, by: 1 | -1): void {
    this.byType.set(type as DataType, (this.byType.get(type as DataType) ?? 0) + by)
    if (wanted === null) return
    this.wanted += by
    if (isWhole) this.wantedWhole.set(wanted, (this.wantedWhole.get(wanted) ?? 0) + by)
  }
}

const isWhole = (whole: string) => whole === 'intact' || whole === 'unverified'

const knownOf = ({ find: { row }, sign }: FoundRow, id: number): Known => ({
  id,
  sign,
  type: row.type,
  wanted: row.wanted ?? null,
  isWhole: isWhole(row.whole),
})

const signOfItem = ({ content, bytes, extents, foundBy, checks }: MediaItem) =>
  signOf({
    whole: content,
    bytes,
    startByte: extents.find(([offset, length]) => offset >= 0 && length > 0)?.[0] ?? null,
    foundBy: foundBy.length,
    checks: checks.length,
    extents: extents.reduce((count, [, length]) => count + (length > 0 ? 1 : 0), 0),
  })

function signOf(row: {
  whole: string
  bytes: number
  startByte: number | null
  foundBy: number
  checks: number
  extents: number
}): string {
  return `${row.whole} ${row.bytes} ${row.startByte} ${row.foundBy} ${row.checks} ${row.extents}`
}
