import { z } from 'zod'
import { DataType } from '../cases/shape/data-types'
import { instant } from '../cases/shape/moment'
import { PASSES, RECORD_STATES } from '../scanning/scan-report'
import { ScanWarning, VolumeShape } from '../volumes/filesystems/volume-shape'
import { KeptContent } from '../volumes/kept-content'

const count = z.int().min(0)
/** offset and length, in bytes of the medium */
const Stretch = z.tuple([count, count])

/** The extents of an item on its medium, and the checks behind its content state. */
export const Evidence = z.object({
  foundBy: z.array(z.enum(PASSES)).min(1),
  record: z.enum(RECORD_STATES),
  checks: z.array(z.string()),
  /** number of the volume; null outside every volume */
  volume: count.nullable(),
  /** in bytes of the medium, in order; a hole has the offset -1 */
  extents: z.array(z.tuple([z.int().min(-1), count])),
  kept: KeptContent,
})
export type Evidence = z.infer<typeof Evidence>

/** The number of parts in which a medium is drawn. */
export const SECTION_PARTS = 240

/** What a medium says about itself before any scan. */
export const MediumShape = z.object({
  link: z.string(),
  bytes: count,
  isDevice: z.boolean(),
  volumes: z.array(VolumeShape),
  /** for each part of the section, which fraction of it is in use; null outside known file systems */
  inUse: z.array(z.number().min(0).max(1).nullable()),
  warnings: z.array(ScanWarning),
})
export type MediumShape = z.infer<typeof MediumShape>

export const PassOptions = z.object({
  /** the records alone, or the content too */
  pass: z.enum(['quick', 'both']),
  /** types whose content is scanned for; all where it is empty */
  types: z.array(DataType).max(20).default([]),
  /** search by content in allocated space too */
  isWhole: z.boolean().default(false),
  /** take the SHA-256 of the whole medium during the scan */
  takesChecksum: z.boolean().default(false),
  /** stop by itself once as many as wanted are found */
  stopsWhenFound: z.boolean().default(false),
})
export type PassOptions = z.infer<typeof PassOptions>

/**
 * `enough`: ended early by hand, or since as many as wanted were found. A `paused`, `enough` or `failed` scan can be
 * resumed.
 */
export const PASS_STATES = ['queued', 'running', 'paused', 'done', 'enough', 'failed'] as const
export type PassState = (typeof PASS_STATES)[number]

export const PassProgress = z.object({
  phase: z.enum(['records', 'content', 'joining', 'checksum']),
  /** records, bytes or broken files, depending on the phase */
  done: count,
  of: count,
  /** how far the medium was scanned, in bytes */
  at: count,
  found: count,
  byType: z.partialRecord(DataType, count),
  /** found and wanted */
  wanted: count,
  bytesRead: count,
  /** at work, without pauses */
  seconds: z.number().min(0),
  /** of these, waiting for the medium */
  readSeconds: z.number().min(0).default(0),
  /** an estimate, once there is a basis for one */
  secondsLeft: z.number().min(0).nullable(),
  unreadable: z.array(Stretch),
  unreadableBytes: count,
})
export type PassProgress = z.infer<typeof PassProgress>

/** A scan of a medium as a job. */
export const PassShape = z.object({
  id: z.int(),
  listing: z.int(),
  link: z.string(),
  options: PassOptions,
  state: z.enum(PASS_STATES),
  says: z.string(),
  progress: PassProgress.nullable(),
  /** jobs before it in the queue */
  waitsFor: count,
  sha256: z.string().nullable(),
  begun: instant.nullable(),
  ended: instant.nullable(),
})
export type PassShape = z.infer<typeof PassShape>

export const PASS_WISHES = ['pause', 'resume', 'finish', 'discard'] as const
export const PassWish = z.object({ wish: z.enum(PASS_WISHES) })
export type PassWish = z.infer<typeof PassWish>['wish']

/** A file or device that the owner has allowed, or an image in the shop's own folder. */
export const MediumEntry = z.object({
  id: z.string(),
  title: z.string(),
  /** as the owner named it; null for a medium in the media folder or of the stand-ins */
  path: z.string().nullable(),
  bytes: count,
  isDevice: z.boolean(),
  isStandIn: z.boolean(),
})
export type MediumEntry = z.infer<typeof MediumEntry>

/** An upload to the media folder. */
export const UploadShape = z.object({
  id: z.string(),
  name: z.string(),
  bytes: count,
  changed: z.int(),
  have: count,
})
export type UploadShape = z.infer<typeof UploadShape>
