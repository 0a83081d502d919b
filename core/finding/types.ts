import type { DataType } from '../cases/data-types'

type Told = readonly [type: DataType, mime: string]

/** Data type and media type by extension, as far as an extension says it. */
const BY_EXTENSION: Record<string, Told> = {
  jpg: ['photos', 'image/jpeg'],
  jpeg: ['photos', 'image/jpeg'],
  png: ['photos', 'image/png'],
  gif: ['photos', 'image/gif'],
  webp: ['photos', 'image/webp'],
  bmp: ['photos', 'image/bmp'],
  tif: ['photos', 'image/tiff'],
  tiff: ['photos', 'image/tiff'],
  heic: ['photos', 'image/heic'],
  heif: ['photos', 'image/heif'],
  svg: ['photos', 'image/svg+xml'],
  dng: ['photos', 'image/x-adobe-dng'],
  mp4: ['videos', 'video/mp4'],
  m4v: ['videos', 'video/mp4'],
  mov: ['videos', 'video/quicktime'],
  '3gp': ['videos', 'video/3gpp'],
  avi: ['videos', 'video/x-msvideo'],
  mkv: ['videos', 'video/x-matroska'],
  webm: ['videos', 'video/webm'],
  mp3: ['audio', 'audio/mpeg'],
  m4a: ['audio', 'audio/mp4'],
  wav: ['audio', 'audio/wav'],
  flac: ['audio', 'audio/flac'],
  ogg: ['audio', 'audio/ogg'],
  opus: ['audio', 'audio/ogg'],
  vcf: ['contacts', 'text/vcard'],
  ics: ['calendar', 'text/calendar'],
  eml: ['mail', 'message/rfc822'],
  mbox: ['mail', 'application/mbox'],
  txt: ['documents', 'text/plain'],
  md: ['documents', 'text/markdown'],
  rtf: ['documents', 'application/rtf'],
  pdf: ['documents', 'application/pdf'],
  doc: ['documents', 'application/msword'],
  docx: ['documents', 'application/vnd.openxmlformats-officedocument.wordprocessingml.document'],
  odt: ['documents', 'application/vnd.oasis.opendocument.text'],
  pptx: ['documents', 'application/vnd.openxmlformats-officedocument.presentationml.presentation'],
  csv: ['spreadsheets', 'text/csv'],
  xls: ['spreadsheets', 'application/vnd.ms-excel'],
  xlsx: ['spreadsheets', 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'],
  ods: ['spreadsheets', 'application/vnd.oasis.opendocument.spreadsheet'],
  sqlite: ['files', 'application/vnd.sqlite3'],
  db: ['files', 'application/vnd.sqlite3'],
  html: ['files', 'text/html'],
  json: ['files', 'application/json'],
  zip: ['files', 'application/zip'],
  tar: ['files', 'application/x-tar'],
}

/** The extension of a file name in small letters, without the dot; empty where there is none. */
export function extensionOf(name: string): string {
  const dot = name.lastIndexOf('.')
  return dot > 0 && name.length - dot <= 12 ? name.slice(dot + 1).toLowerCase() : ''
}

/** What a name says about a file's content; nothing is opened. */
export function typeOfName(name: string): { readonly type: DataType; readonly mime: string } {
  const [type, mime] = BY_EXTENSION[extensionOf(name)] ?? ['files', 'application/octet-stream']
  return { type, mime }
}
