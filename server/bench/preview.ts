import chardet from 'chardet'
import mammoth from 'mammoth'
import { readSheet } from 'read-excel-file/node'
import sharp from 'sharp'
import { z } from 'zod'
import type { Find } from '../../core/finding/filter'
import { extensionOf } from '../../core/files/kinds'
import { readWhole } from '../../core/links/link'
import { linkById } from './links'

/** What of an item can be looked at here. */
export const Preview = z.discriminatedUnion('as', [
  z.object({ as: z.literal('image') }),
  z.object({ as: z.literal('audio') }),
  z.object({ as: z.literal('video') }),
  z.object({ as: z.literal('pdf') }),
  z.object({ as: z.literal('text'), text: z.string(), encoding: z.string(), isCut: z.boolean() }),
  z.object({ as: z.literal('table'), rows: z.array(z.array(z.string())), isCut: z.boolean() }),
  z.object({ as: z.literal('record') }),
  z.object({ as: z.literal('none'), why: z.string() }),
])
export type Preview = z.infer<typeof Preview>

const MOST_BYTES = 64 << 20
const MOST_TEXT = 200_000
const MOST_ROWS = 400
const THUMB_PIXELS = 96
const SHOWN_PIXELS = 1600

/** Types that a browser shows by itself and that can do no harm there; everything else leaves as plain bytes. */
const SHOWN: Record<string, Preview['as']> = {
  'image/jpeg': 'image',
  'image/png': 'image',
  'image/gif': 'image',
  'image/webp': 'image',
  'image/bmp': 'image',
  'image/avif': 'image',
  'image/tiff': 'image',
  'audio/wav': 'audio',
  'audio/mpeg': 'audio',
  'audio/mp4': 'audio',
  'audio/ogg': 'audio',
  'audio/flac': 'audio',
  'video/mp4': 'video',
  'video/webm': 'video',
  'application/pdf': 'pdf',
}

/** The type under which an item's bytes leave the server. */
const servedType = (find: Pick<Find, 'mime' | 'record'>) =>
  !find.record && SHOWN[find.mime] ? find.mime : 'application/octet-stream'

/** What is shown of an item: its bytes, or a picture of them that a browser knows how to draw. */
export async function shownBytes(linkId: string, find: Find): Promise<{ type: string; bytes: Uint8Array }> {
  const bytes = await bytesOf(linkId, find)
  if (find.mime !== 'image/tiff') return { type: servedType(find), bytes }
  const drawn = await sharp(bytes, { failOn: 'none', limitInputPixels: 400_000_000 })
    .rotate()
    .resize(SHOWN_PIXELS, SHOWN_PIXELS, { fit: 'inside', withoutEnlargement: true })
    .png()
    .toBuffer()
  return { type: 'image/png', bytes: drawn }
}

/** All bytes of an item, from wherever it lies; refused where there are too many to look at. */
export async function bytesOf(linkId: string, find: Find): Promise<Uint8Array> {
  const link = await linkById(linkId)
  return readWhole(await link.read(find.keep, find.id), MOST_BYTES)
}

/** What is to be seen of an item; never throws for what is in it. */
export async function previewOf(linkId: string, find: Find): Promise<Preview> {
  if (find.record) return { as: 'record' }
  if (find.bytes > MOST_BYTES) return { as: 'none', why: 'It is too large to be looked at here; copy it to the shelf.' }
  const shown = SHOWN[find.mime]
  if (shown) return { as: shown } as Preview
  const bytes = await bytesOf(linkId, find)
  try {
    return await contentOf(bytes, extensionOf(find.name))
  } catch {
    return textOf(bytes) ?? { as: 'none', why: 'It is damaged, or of a kind that is not shown here.' }
  }
}

async function contentOf(bytes: Uint8Array, extension: string): Promise<Preview> {
  if (extension === 'docx') return cut((await mammoth.extractRawText({ buffer: Buffer.from(bytes) })).value, 'UTF-8')
  if (extension === 'xlsx') return table(await readSheet(Buffer.from(bytes)))
  if (extension === 'csv') return csvTable(bytes)
  return textOf(bytes) ?? { as: 'none', why: 'It is of a kind that is not shown here.' }
}

function table(rows: readonly (readonly unknown[])[]): Preview {
  return {
    as: 'table',
    rows: rows
      .slice(0, MOST_ROWS)
      .map((row) =>
        row.slice(0, 60).map((cell) => (cell === null || cell === undefined ? '' : String(cell).slice(0, 400))),
      ),
    isCut: rows.length > MOST_ROWS,
  }
}

/** Lines and cells for looking at, whatever separates them. */
function csvTable(bytes: Uint8Array): Preview {
  const decoded = decode(bytes)
  if (!decoded) return { as: 'none', why: 'It is no text.' }
  const lines = decoded.text.split(/\r?\n/).filter((line) => line !== '')
  const separator = [';', '\t', ','].sort(
    (one, other) => (lines[0] ?? '').split(other).length - (lines[0] ?? '').split(one).length,
  )[0]!
  return table(
    lines.map((line) => line.split(separator).map((cell) => cell.replace(/^"(.*)"$/, '$1').replaceAll('""', '"'))),
  )
}

function textOf(bytes: Uint8Array): Preview | null {
  const decoded = decode(bytes)
  return decoded && cut(decoded.text, decoded.encoding)
}

const cut = (text: string, encoding: string): Preview => ({
  as: 'text',
  text: text.slice(0, MOST_TEXT),
  encoding,
  isCut: text.length > MOST_TEXT,
})

/** Text with its encoding guessed; null where it is no text. */
function decode(bytes: Uint8Array): { text: string; encoding: string } | null {
  const head = bytes.subarray(0, 65_536)
  const guessed = chardet.detect(head) ?? 'UTF-8'
  const isWide = /UTF-(16|32)/.test(guessed)
  if (!isWide && head.includes(0)) return null
  try {
    return { text: new TextDecoder(guessed).decode(bytes.subarray(0, MOST_TEXT * 4)), encoding: guessed }
  } catch {
    return null
  }
}

const thumbs = new Map<string, Uint8Array>()
const MOST_THUMBS = 3000

/** A small picture of a picture, also of one that breaks off; null where there is none. */
export async function thumbOf(linkId: string, find: Find): Promise<Uint8Array | null> {
  if (find.type !== 'photos' || find.record || find.bytes > MOST_BYTES) return null
  const key = find.sha256 ?? `${linkId}/${find.keep}/${find.id}`
  const known = thumbs.get(key)
  if (known) return known
  try {
    const made = await sharp(await bytesOf(linkId, find), { failOn: 'none', limitInputPixels: 400_000_000 })
      .rotate()
      .resize(THUMB_PIXELS, THUMB_PIXELS, { fit: 'cover' })
      .webp({ quality: 70 })
      .toBuffer()
    if (thumbs.size > MOST_THUMBS) thumbs.clear()
    thumbs.set(key, made)
    return made
  } catch {
    return null
  }
}
