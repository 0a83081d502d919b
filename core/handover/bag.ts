import { createHash } from 'node:crypto'

/** A file of the payload: its path with forward slashes, relative to the payload; bytes; SHA-256, hex. */
export interface BagFile {
  readonly path: string
  readonly bytes: number
  readonly sha256: string
}

/** What a bag says about itself. */
export interface BagInfo {
  /** name of the shop; left out where it is empty */
  readonly source: string
  /** code of the case */
  readonly identifier: string
  /** the day, YYYY-MM-DD */
  readonly date: string
  /** head of the shop's history at that moment, as printed */
  readonly head: string
}

/** A tag file: its name and text. */
export interface TagFile {
  readonly name: string
  readonly text: string
}

/** The folder of a bag that holds the payload. */
export const PAYLOAD = 'data'

/**
 * The tag files of a bag (RFC 8493, BagIt 1.0, sections 2.1 and 2.2) with a manifest in SHA-256: declaration, information,
 * manifest, `more` tag files, and in the end the manifest of all of these.
 */
export function bagTags(files: readonly BagFile[], info: BagInfo, more: readonly TagFile[] = []): TagFile[] {
  const bytes = files.reduce((sum, file) => sum + file.bytes, 0)
  const labels: [string, string][] = [
    ['Source-Organization', info.source],
    ['External-Identifier', info.identifier],
    ['Bagging-Date', info.date],
    ['Payload-Oxum', `${bytes}.${files.length}`],
    ['Internal-Sender-Description', `head of the history: ${info.head}`],
  ]
  const tags: TagFile[] = [
    { name: 'bagit.txt', text: 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n' },
    {
      name: 'bag-info.txt',
      text: labels
        .filter(([, value]) => value.trim() !== '')
        .map(([label, value]) => `${label}: ${value.replace(/\s+/g, ' ').trim()}\n`)
        .join(''),
    },
    {
      name: 'manifest-sha256.txt',
      text: files.map(({ path, sha256 }) => `${sha256}  ${PAYLOAD}/${manifestPath(path)}\n`).join(''),
    },
    ...more,
  ]
  return [
    ...tags,
    { name: 'tagmanifest-sha256.txt', text: tags.map(({ name, text }) => `${sha256(text)}  ${name}\n`).join('') },
  ]
}

/** A path in a manifest: a line feed, a carriage return and the percent sign are encoded (RFC 8493, 2.1.3). */
export const manifestPath = (path: string) =>
  path.replace(/[%\r\n]/g, (one) => `%${one.charCodeAt(0).toString(16).toUpperCase().padStart(2, '0')}`)

const sha256 = (text: string) => createHash('sha256').update(text, 'utf8').digest('hex')

/** The lists beside plain folders: the checksums as ordinary tools check them, a path in each line. */
export const plainTags = (files: readonly BagFile[], more: readonly TagFile[] = []): TagFile[] => [
  { name: 'SHA256SUMS', text: files.map(({ path, sha256 }) => sumLine(sha256, path)).join('') },
  ...more,
]

/** A line of a list of checksums; a name with a backslash or a line break is escaped, and the line says so. */
function sumLine(sha256: string, path: string): string {
  const escaped = path.replace(/\\/g, '\\\\').replace(/\n/g, '\\n').replace(/\r/g, '\\r')
  return `${escaped === path ? '' : '\\'}${sha256}  ${escaped}\n`
}
