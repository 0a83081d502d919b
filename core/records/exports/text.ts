import { recordTitle, type AppRecord } from '../record'
import type { RecordFormat } from './record-format'

/** Plain text, for reading: notes with their titles, messages a line each. */
export const text: RecordFormat = {
  id: 'text',
  title: 'plain text',
  extension: 'txt',
  mime: 'text/plain',
  kinds: ['note', 'message'],
  write: (records) => records.map(plain).join('\n'),
}

function plain(record: AppRecord): string {
  if (record.kind === 'note') return `${record.title}\n\n${record.text}\n`
  if (record.kind === 'message')
    return `${record.at ?? 'no date'}  ${record.isMine ? 'to' : 'from'} ${record.thread}: ${record.text}\n`
  return `${recordTitle(record)}\n`
}
