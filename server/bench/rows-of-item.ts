import { linkFailure } from '../../core/links/fault'
import type { LinkItem } from '../../core/links/item'
import { readWhole, type Link } from '../../core/links/link'
import type { RowsOrder, RowsTold } from '../jobs/messages'
import { WorkerLine } from '../jobs/worker-line'
import { recordMade, recordTitle, TYPE_OF_RECORD, type AppRecord } from '../../core/records/record'

let line: WorkerLine | null = null

/** Has a database read in the thread for such; begun where there is none. */
function askRows(order: RowsOrder): Promise<RowsTold> {
  line ??= new WorkerLine('read-rows', null, () => (line = null))
  return line.ask<RowsTold>(order)
}

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
  const told = await askRows({
    database: await read(item),
    wal: beside.wal ? await read(beside.wal) : null,
    journal: beside.journal ? await read(beside.journal) : null,
  })
  if ('fault' in told) throw linkFailure('damaged', `“${item.name}”: ${told.fault}.`)
  return told.records
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
