import type { DataType } from '../../cases/data-types'

const TYPES: Partial<Record<DataType, string>> = {
  photos: 'jpg jpeg jpe png gif webp bmp tif tiff heic heif avif dng nef cr2 cr3 arw orf rw2 raf pef srw svg psd',
  videos: 'mp4 mov m4v avi mkv webm 3gp 3g2 mpg mpeg mts m2ts wmv flv ogv',
  audio: 'mp3 wav flac ogg oga opus m4a m4b aac wma aif aiff amr mid',
  documents: 'pdf doc docx odt rtf txt md tex pages ppt pptx odp epub html htm xml',
  spreadsheets: 'xls xlsx ods csv tsv',
  contacts: 'vcf',
  calendar: 'ics',
  mail: 'eml msg mbox',
}
const BY_EXTENSION = new Map(
  Object.entries(TYPES).flatMap(([type, all]) =>
    all.split(' ').map((extension) => [extension, type as DataType] as const),
  ),
)

/** The kind of data that a file with such a name holds, as far as its extension tells. */
export function typeOfName(name: string): DataType {
  return BY_EXTENSION.get(name.slice(name.lastIndexOf('.') + 1).toLowerCase()) ?? 'files'
}
