import { z } from 'zod'

/** What clients lose and want back, in the words of the trade. */
export const DATA_TYPES = [
  'photos',
  'videos',
  'audio',
  'contacts',
  'messages',
  'chats',
  'call-records',
  'notes',
  'calendar',
  'mail',
  'documents',
  'spreadsheets',
  'bookmarks',
  'files',
] as const
export const DataType = z.enum(DATA_TYPES)
export type DataType = z.infer<typeof DataType>

/** A usual size of one item in bytes, assumed where neither count nor size is known. */
export const USUAL_ITEM_BYTES: Record<DataType, number> = {
  photos: 3_500_000,
  videos: 90_000_000,
  audio: 6_000_000,
  contacts: 2_000,
  messages: 1_000,
  chats: 30_000,
  'call-records': 500,
  notes: 8_000,
  calendar: 1_500,
  mail: 60_000,
  documents: 400_000,
  spreadsheets: 150_000,
  bookmarks: 500,
  files: 1_000_000,
}

/** Types that live as rows in an app's database rather than as files of their own. */
export const ROW_TYPES: readonly DataType[] = [
  'contacts',
  'messages',
  'chats',
  'call-records',
  'notes',
  'calendar',
  'bookmarks',
]

/** The type as which items of a wanted type are found: rows of a chat look like any other messages. */
export const foundAs = (wanted: DataType): DataType => (wanted === 'chats' ? 'messages' : wanted)
