import { LinkFailure, linkFailure } from '../../core/bench/fault'
import { linkItem, type LinkItem } from '../../core/bench/item'
import type { Link } from '../../core/bench/link'
import type { RowsOrder, RowsTold } from '../threads/messages'
import { ProcessPool } from '../threads/process-line'
import { recordMade, recordTitle, typeOfRecord, type AppRecord } from '../../core/records/record'

/** The largest database that is read, with the files beside it, in bytes. */
const MAX_BYTES = 512 << 20
const LIMITS = { ms: 120_000, bytes: 3 * 1024 ** 3 }
const readers = new ProcessPool('read-rows', LIMITS, 1)

/** Live and deleted rows of a database as items, with the files beside it. */
export async function itemsOfRows(
  link: Link,
  keep: string,
  item: LinkItem,
  beside: { readonly wal: LinkItem | null; readonly journal: LinkItem | null },
): Promise<{ readonly items: LinkItem[]; readonly warnings: readonly string[] }> {
  const files = [item, beside.wal, beside.journal].filter((one) => one !== null)
  if (files.reduce((sum, { bytes }) => sum + bytes, 0) > MAX_BYTES)
    throw linkFailure('damaged', `“${item.name}” is too large to read its rows here. Copy it to the shelf.`)
  const order: RowsOrder = {
    database: item.bytes,
    wal: beside.wal?.bytes ?? null,
    journal: beside.journal?.bytes ?? null,
  }
  const told = await readers.ask<RowsTold>(order, bytesOf(link, keep, files)).catch((error) => {
    const why = error instanceof LinkFailure ? error.fault.says : (error as Error).message
    throw linkFailure('damaged', `“${item.name}”: ${why}.`.replace(/\.\.$/, '.'))
  })
  const items = told.records
    .filter(({ table }) => !table.startsWith('sqlite_'))
    .map(({ record, row, table }, at) =>
      linkItem({
        id: `${item.id}#${at}`,
        name: recordTitle(record),
        place: [...item.place, ...(table === '' ? ['table not known'] : [])],
        type: typeOfRecord(record.kind),
        mime: 'application/json',
        bytes: sizeOf(record),
        made: recordMade(record),
        goneAt: item.goneAt,
        kept: item.kept,
        presence: row.state === 'live' ? 'present' : row.state,
        // A row that lost its head may be complete; it just cannot be proved.
        whole: row.complete ? 'intact' : 'unverified',
        record,
      }),
    )
  return { items, warnings: told.warnings.map((one) => `“${item.name}”: ${one}`) }
}

/** The bytes of several items, one after the other; each must have its stated length. */
async function* bytesOf(link: Link, keep: string, files: readonly LinkItem[]): AsyncIterable<Uint8Array> {
  for (const { id, name, bytes } of files) {
    let size = 0
    for await (const part of await link.read(keep, id)) {
      size += part.length
      yield part
    }
    if (size !== bytes) throw linkFailure('damaged', `“${name}” has ${size} bytes, not ${bytes} as it says.`)
  }
}

const sizeOf = (record: AppRecord) => new TextEncoder().encode(JSON.stringify(record)).length
