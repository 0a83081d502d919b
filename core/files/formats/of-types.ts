import type { DataType } from '../../cases/shape/data-types'
import { kindOfName } from '../kinds'
import { FORMATS } from './registry'

/**
 * The ids of the formats that hold data of these types; null where any format may. Types that are rows are in
 * databases, and a recording may have the format of a movie.
 */
export function formatsOf(types: readonly DataType[]): Set<string> | null {
  if (types.length === 0 || types.includes('files')) return null
  const found = FORMATS.filter(({ id, extensions }) =>
    types.some(
      (type) => (OTHERWISE[type] ?? []).includes(id) || extensions.some((one) => kindOfName(`x.${one}`).type === type),
    ),
  )
  return new Set(found.map(({ id }) => id))
}

/** Further formats of a type, besides those that the table of file kinds gives. */
const OTHERWISE: Partial<Record<DataType, readonly string[]>> = {
  documents: ['zip', 'ole', 'text'],
  spreadsheets: ['zip', 'ole', 'text'],
  contacts: ['text', 'sqlite'],
  calendar: ['text', 'sqlite'],
  messages: ['sqlite', 'text'],
  chats: ['sqlite', 'text'],
  'call-records': ['sqlite'],
  notes: ['sqlite', 'text', 'rtf'],
  bookmarks: ['sqlite', 'text'],
  mail: ['text', 'sqlite'],
}
