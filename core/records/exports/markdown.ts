import { recordTitle, type RecordOf } from '../record'
import { only, type RecordFormat } from './record-format'

/** Markdown, the notes one below the other. */
export const markdown: RecordFormat = {
  id: 'markdown',
  title: 'Markdown',
  extension: 'md',
  mime: 'text/markdown',
  kinds: ['note'],
  write: (records) => only(records, 'note').map(page).join('\n---\n\n'),
}

function page(note: RecordOf<'note'>): string {
  const changed = note.changed ? `*${note.changed}*\n\n` : ''
  return `# ${recordTitle(note)}\n\n${changed}${note.text}\n`
}
