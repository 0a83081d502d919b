import { z } from 'zod'
import { safeName } from './safe-path'
import { instant } from '../cases/shape/moment'
import { WHOLENESS } from '../files/wholeness'
import { RECORD_STATES } from '../scanning/scan-report'

const count = z.int().min(0)

/** A file on a shelf: where it is, what it was, and what was read back of it. */
export const ShelfLine = z.object({
  item: z.string(),
  /** below the folder of the shelf; each name is one that every common file system takes */
  path: z.string().refine((path) => path.split('/').every((name) => safeName(name) === name), 'is no safe path'),
  original: z.string().nullable(),
  volume: count.nullable(),
  /** on the shelf, and as its record or structure says */
  bytes: count,
  told: count,
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  created: instant.nullable(),
  modified: instant.nullable(),
  deleted: instant.nullable(),
  /** read back from the shelf: as long as it should be, and with the checksum of what was read of the medium */
  isVerified: z.boolean(),
  record: z.enum(RECORD_STATES),
  content: z.enum(WHOLENESS),
  extents: z.array(z.tuple([count, count])),
  checks: z.array(z.string()),
})
export type ShelfLine = z.infer<typeof ShelfLine>

export const SHELF_FORMAT = 'russet-lantern/shelf'

const Image = z.object({ name: z.string(), bytes: count })

/** What is on the shelf of a scan, and of which image. */
export const ShelfManifest = z.object({
  format: z.literal(SHELF_FORMAT),
  version: z.literal(1),
  image: Image,
  items: z.array(ShelfLine),
})
export type ShelfManifest = z.infer<typeof ShelfManifest>

/** The first line of a manifest; one line for each item follows, so that it can be written as it goes and read where it was cut. */
export const manifestHead = (image: ShelfManifest['image']) =>
  `{"format":"${SHELF_FORMAT}","version":1,"image":${JSON.stringify(image)},"items":[\n`
export const MANIFEST_END = '\n]}\n'

/**
 * Reads a manifest, also one that was cut while it was written: the lines up to the first that is not whole. Null where it is
 * none.
 */
export function readManifest(text: string): ShelfManifest | null {
  const [head, ...lines] = text.split('\n')
  const first = parsed(`${head}]}`)
  const told = ShelfManifest.safeParse(first)
  if (!told.success) return null
  const items: ShelfLine[] = []
  for (const line of lines) {
    const item = ShelfLine.safeParse(parsed(line.replace(/,$/, '')))
    if (!item.success) break
    items.push(item.data)
  }
  return { ...told.data, items }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}
