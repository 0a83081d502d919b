import { bytesSource } from '../../core/media/source'
import { rowsOf } from '../../core/media/sqlite/rows'
import { linkFailure } from '../../core/links/fault'
import type { LinkItem } from '../../core/links/item'
import { readWhole, type Link } from '../../core/links/link'
import { recordsOf } from '../../core/records/adapt'
import { recordMade, recordTitle, TYPE_OF_RECORD, type AppRecord } from '../../core/records/record'

/** The largest database that is read whole. */
const MOST_BYTES = 512 << 20

/** Live and deleted rows of a database as items of their own, with what lies beside it. */
export async function itemsOfRows(
  link: Link,
  keep: string,
  item: LinkItem,
  beside: { readonly wal: LinkItem | null; readonly journal: LinkItem | null },
): Promise<LinkItem[]> {
  const read = async (one: LinkItem) => readWhole(await link.read(keep, one.id), MOST_BYTES)
  const report = rowsOf(bytesSource(await read(item)), {
    wal: beside.wal ? await read(beside.wal) : null,
    journal: beside.journal ? await read(beside.journal) : null,
  })
  if ('fault' in report) throw linkFailure('damaged', `“${item.name}”: ${report.fault}.`)
  return recordsOf(report)
    .filter(({ table }) => !table.startsWith('sqlite_'))
    .map(({ record, row, table }, at) => ({
      ...item,
      id: `${item.id}#${at}`,
      name: recordTitle(record),
      place: [...item.place, ...(table === '' ? ['table not known'] : [])],
      type: TYPE_OF_RECORD[record.kind],
      mime: 'application/json',
      bytes: sizeOf(record),
      made: recordMade(record),
      changed: null,
      deleted: null,
      presence: row.state === 'live' ? 'present' : row.state,
      // A row whose head was lost may be all there; that it is can only not be proved.
      whole: row.complete ? ('intact' as const) : ('unverified' as const),
      sha256: null,
      opensAs: 'file' as const,
      record,
    }))
}

const sizeOf = (record: AppRecord) => new TextEncoder().encode(JSON.stringify(record)).length
