import type { DataType } from '../cases/shape/data-types'

/**
 * How a kind of file is previewed: by the browser itself (`image`, `audio`, `video`, `pdf`), as a picture that the
 * server renders, or as text, a table or a document's text that the server extracts.
 */
export type PreviewWay = 'image' | 'drawn' | 'audio' | 'video' | 'pdf' | 'text' | 'csv' | 'sheet' | 'document'

/** What is known of a kind of file before it is opened. */
export interface FileKind {
  readonly extensions: readonly string[]
  readonly mime: string
  readonly type: DataType
  /** null where there is no preview */
  readonly preview: PreviewWay | null
}

const OFFICE = 'application/vnd.openxmlformats-officedocument.'
const OPEN = 'application/vnd.oasis.opendocument.'

const kind = (extensions: string, mime: string, type: DataType, preview: PreviewWay | null = null): FileKind => ({
  extensions: extensions.split(' '),
  mime,
  type,
  preview,
})

/** Every known kind of file: the one table of extensions, media types and data types. */
export const FILE_KINDS: readonly FileKind[] = [
  kind('jpg jpeg jpe jfif', 'image/jpeg', 'photos', 'image'),
  kind('png', 'image/png', 'photos', 'image'),
  kind('gif', 'image/gif', 'photos', 'image'),
  kind('webp', 'image/webp', 'photos', 'image'),
  kind('bmp dib', 'image/bmp', 'photos', 'image'),
  kind('avif', 'image/avif', 'photos', 'image'),
  kind('tif tiff', 'image/tiff', 'photos', 'drawn'),
  kind('heic', 'image/heic', 'photos'),
  kind('heif', 'image/heif', 'photos'),
  kind('jxl', 'image/jxl', 'photos'),
  kind('svg', 'image/svg+xml', 'photos', 'text'),
  kind('dng', 'image/x-dng', 'photos'),
  kind('nef nrw cr2 cr3 crw arw sr2 orf rw2 raf pef srw 3fr iiq rwl x3f', 'image/x-raw', 'photos'),
  kind('psd', 'image/x-layers', 'photos'),
  kind('mp4 m4v', 'video/mp4', 'videos', 'video'),
  kind('mov qt', 'video/quicktime', 'videos'),
  kind('3gp 3g2', 'video/3gpp', 'videos'),
  kind('avi', 'video/x-msvideo', 'videos'),
  kind('mkv', 'video/x-matroska', 'videos'),
  kind('mka', 'audio/x-matroska', 'audio'),
  kind('webm', 'video/webm', 'videos', 'video'),
  kind('mpg mpeg vob', 'video/mpeg', 'videos'),
  kind('mts m2ts', 'video/mp2t', 'videos'),
  kind('wmv asf', 'video/x-ms-wmv', 'videos'),
  kind('flv', 'video/x-flv', 'videos'),
  kind('ogv', 'video/ogg', 'videos'),
  kind('mp3', 'audio/mpeg', 'audio', 'audio'),
  kind('wav', 'audio/wav', 'audio', 'audio'),
  kind('flac', 'audio/flac', 'audio', 'audio'),
  kind('ogg oga opus', 'audio/ogg', 'audio', 'audio'),
  kind('m4a m4b', 'audio/mp4', 'audio', 'audio'),
  kind('aac', 'audio/aac', 'audio'),
  kind('wma', 'audio/x-ms-wma', 'audio'),
  kind('aif aiff', 'audio/aiff', 'audio'),
  kind('amr', 'audio/amr', 'audio'),
  kind('mid midi', 'audio/midi', 'audio'),
  kind('vcf vcard', 'text/vcard', 'contacts', 'text'),
  kind('ics ical', 'text/calendar', 'calendar', 'text'),
  kind('eml', 'message/rfc822', 'mail', 'text'),
  kind('mbox', 'application/mbox', 'mail', 'text'),
  kind('msg', 'application/vnd.ms-outlook', 'mail'),
  kind('txt text log', 'text/plain', 'documents', 'text'),
  kind('md markdown', 'text/markdown', 'documents', 'text'),
  kind('tex', 'application/x-tex', 'documents', 'text'),
  kind('rtf', 'application/rtf', 'documents', 'text'),
  kind('pdf', 'application/pdf', 'documents', 'pdf'),
  kind('doc', 'application/msword', 'documents'),
  kind('docx', `${OFFICE}wordprocessingml.document`, 'documents', 'document'),
  kind('odt', `${OPEN}text`, 'documents'),
  kind('pages', 'application/x-pages', 'documents'),
  kind('ppt', 'application/vnd.ms-powerpoint', 'documents'),
  kind('pptx', `${OFFICE}presentationml.presentation`, 'documents'),
  kind('odp', `${OPEN}presentation`, 'documents'),
  kind('epub', 'application/epub+zip', 'documents'),
  kind('html htm', 'text/html', 'documents', 'text'),
  kind('xml', 'application/xml', 'documents', 'text'),
  kind('csv', 'text/csv', 'spreadsheets', 'csv'),
  kind('tsv', 'text/tab-separated-values', 'spreadsheets', 'csv'),
  kind('xls', 'application/vnd.ms-excel', 'spreadsheets'),
  kind('xlsx', `${OFFICE}spreadsheetml.sheet`, 'spreadsheets', 'sheet'),
  kind('ods', `${OPEN}spreadsheet`, 'spreadsheets'),
  kind('sqlite sqlite3 db', 'application/vnd.sqlite3', 'files'),
  kind('json', 'application/json', 'files', 'text'),
  kind('yaml yml', 'application/yaml', 'files', 'text'),
  kind('ini conf', 'text/x-settings', 'files', 'text'),
  kind('srt', 'application/x-subrip', 'files', 'text'),
  kind('zip', 'application/zip', 'files'),
  kind('tar', 'application/x-tar', 'files'),
  kind('jar', 'application/java-archive', 'files'),
  kind('ole', 'application/x-cfb', 'documents'),
]

const UNKNOWN: FileKind = { extensions: [], mime: 'application/octet-stream', type: 'files', preview: null }

const byExtension = new Map(FILE_KINDS.flatMap((one) => one.extensions.map((extension) => [extension, one] as const)))
const byMime = new Map(FILE_KINDS.map((one) => [one.mime, one]))

/** The longest extension that is recognised, in characters with its dot. */
const MAX_EXTENSION = 12

/** The extension of a file name in lower case, without the dot; empty where there is none. */
export function extensionOf(name: string): string {
  const dot = name.lastIndexOf('.')
  return dot > 0 && name.length - dot <= MAX_EXTENSION ? name.slice(dot + 1).toLowerCase() : ''
}

/** The kind that a file name suggests, without opening the file; `bytes` where it suggests none. */
export const kindOfName = (name: string): FileKind => byExtension.get(extensionOf(name)) ?? UNKNOWN

/** The kind with this media type; `bytes` where there is none. */
export const kindOfMime = (mime: string): FileKind => byMime.get(mime) ?? UNKNOWN
