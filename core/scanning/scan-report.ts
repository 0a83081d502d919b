import { z } from 'zod'
import { instant } from '../cases/shape/moment'
import { WHOLENESS } from '../files/wholeness'
import { ScanWarning, VolumeShape } from '../volumes/filesystems/volume-shape'

export const RECORD_STATES = ['present', 'deleted', 'none'] as const

export const PASSES = ['quick', 'deep'] as const

const count = z.int().min(0)

export const ScanItem = z.object({
  id: z.string(),
  volume: count.nullable(),
  path: z.string().nullable(),
  mime: z.string().nullable(),
  bytes: count,
  foundBy: z.array(z.enum(PASSES)).min(1),
  record: z.enum(RECORD_STATES),
  content: z.enum(WHOLENESS),
  modified: instant.nullable(),
  deleted: instant.nullable(),
  /** bytes from the start of the image; a hole has no extent */
  extents: z.array(z.tuple([count, count])),
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .nullable(),
  /** the checks behind its content state */
  checks: z.array(z.string()),
})
export type ScanItem = z.infer<typeof ScanItem>

/** The results of a scan of an image. */
export const ScanReport = z.object({
  format: z.literal('russet-lantern/scan'),
  version: z.literal(1),
  image: z.object({ name: z.string(), bytes: count }),
  volumes: z.array(VolumeShape),
  items: z.array(ScanItem),
  warnings: z.array(ScanWarning),
  stats: z.object({ bytesRead: count, seconds: z.number(), unreadableBytes: count }),
})
export type ScanReport = z.infer<typeof ScanReport>

/** The report as JSON Schema, draft 2020-12. */
export function scanReportJsonSchema(): object {
  return z.toJSONSchema(ScanReport, { target: 'draft-2020-12' })
}
