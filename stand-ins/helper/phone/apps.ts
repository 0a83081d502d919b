import { linkFailure } from '../../../core/bench/fault'
import { withRows } from '../../content/databases'
import type { Phone, StoredItem, World } from '../things'

/** Adds records to the databases of the phone's apps. */
export function putRecords(phone: Phone, world: World, records: readonly NonNullable<StoredItem['record']>[]) {
  const apps = phone.keeps.find((one) => one.kind === 'apps')
  if (!apps) throw linkFailure('not-found', 'It has no apps that keep such things.')
  for (const database of apps.items) {
    const fitting = records.filter((record) => database.id === `${record.kind}s`)
    if (fitting.length === 0 || !database.content) continue
    const bytes = withRows(world.contents.get(database.content), fitting)
    database.content = world.contents.put(bytes)
    database.bytes = bytes.length
  }
  phone.revision++
}
