import { bmp } from './bmp'
import { heif, movie } from './boxes'
import { email } from './email'
import { flac } from './flac'
import type { Format } from './format'
import { gif } from './gif'
import { jpeg } from './jpeg/jpeg'
import { matroska } from './matroska'
import { mp3 } from './mp3'
import { ogg } from './ogg'
import { ole } from './ole'
import { pdf } from './pdf'
import { png } from './png'
import { avi, wav, webp } from './riff'
import { rtf } from './rtf'
import { sqlite } from './sqlite'
import { icalendar, text, vcard } from './text'
import { tiff } from './tiff'
import { zip } from './zip'

/** Every format that can be recognised by its bytes. A new one is one file, its test, and a line here. */
export const FORMATS: readonly Format[] = [
  jpeg,
  png,
  gif,
  webp,
  bmp,
  tiff,
  heif,
  movie,
  avi,
  matroska,
  wav,
  mp3,
  flac,
  ogg,
  pdf,
  zip,
  ole,
  rtf,
  sqlite,
  vcard,
  icalendar,
  email,
  text,
]

const byExtension = new Map(
  FORMATS.flatMap((format) => format.extensions.map((extension) => [extension, format] as const)),
)

/** The format that files with this name usually have; null where that is not known. */
export function formatOfName(name: string): Format | null {
  const dot = name.lastIndexOf('.')
  return dot < 0 ? null : (byExtension.get(name.slice(dot + 1).toLowerCase()) ?? null)
}
