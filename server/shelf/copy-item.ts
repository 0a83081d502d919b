import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import type { Find } from '../../core/bench/filter'
import { LinkFailure } from '../../core/bench/fault'
import type { Link } from '../../core/bench/link'
import { fileOfRecord } from '../../core/records/exports/registry'
import { readStoredFind } from '../db/stored-find'
import { shelfItems } from '../db/tables'
import type { ShelfRow } from './shelf'
import { atOnce, transfer } from './transfer'

/** Faults of one item; the others are still copied. */
const OF_THE_ITEM = new Set(['damaged', 'not-found', 'not-met'])

/** Copies one item and reads it back. False where its bytes are wrong; throws where link or disk fail. */
export async function copyOne(folder: string, row: ShelfRow, link: Link): Promise<boolean> {
  const { record, sha256, evidence } = readStoredFind(row.body)
  const located = locatedBytes(row.bytes, evidence)
  const path = join(folder, ...row.path.split('/'))
  try {
    const written = record ? new TextEncoder().encode(fileOfRecord(record)) : null
    const [keep = '', ...rest] = row.item.split('/')
    const arrived = await transfer(
      {
        open: async (from) => (written ? atOnce(written, from) : link.read(keep, rest.join('/'), from)),
        bytes: written ? written.length : located,
        sha256: written ? null : sha256,
      },
      path,
    )
    // Only what was read back from the disk is recorded, all of it at once.
    set(row.id, {
      state: 'verified',
      sha256: arrived.sha256,
      bytes: arrived.bytes,
      at: new Date(useLantern().clock.now()).toISOString(),
      // Unreadable bytes were replaced by zeros: the copy is kept, and marked as damaged.
      ...lossOf(row.bytes - located, arrived.missing),
    })
    return true
  } catch (error) {
    if (!(error instanceof LinkFailure) || !OF_THE_ITEM.has(error.fault.fault)) throw error
    set(row.id, { state: 'failed', says: error.fault.says })
    return false
  }
}

/** How many bytes of an item on a medium its record still locates; for any other item, its stated size. */
const locatedBytes = (bytes: number, evidence: Find['evidence']) =>
  evidence?.kept.as === 'pieces'
    ? Math.min(
        bytes,
        evidence.extents.reduce((sum, [, length]) => sum + length, 0),
      )
    : bytes

/** The note on an incomplete copy, which is kept and marked as damaged. */
function lossOf(lost: number, missing: number): Partial<ShelfRow> {
  const says = [
    lost > 0 ? `The location of its last ${lost} bytes is not recorded; the copy ends before them.` : '',
    missing > 0 ? `${missing} bytes could not be read and were replaced by zeros.` : '',
  ].filter(Boolean)
  return says.length > 0 ? { whole: 'partial', says: says.join(' ') } : { says: '' }
}

function set(id: number, values: Partial<ShelfRow>) {
  useLantern().database.update(shelfItems).set(values).where(eq(shelfItems.id, id)).run()
}
