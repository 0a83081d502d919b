import type { RecordFormat } from './record-format'

/** JSON: the records as they are, so that it keeps all of them. */
export const json: RecordFormat = {
  id: 'json',
  title: 'JSON',
  extension: 'json',
  mime: 'application/json',
  kinds: null,
  write: (records) => `${JSON.stringify(records, null, 2)}\n`,
}
