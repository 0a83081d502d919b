import { z } from 'zod'
import { HISTORY_KINDS } from '../cases/telling/history'
import { instant } from '../cases/shape/moment'
import { ATTACHMENT_KINDS } from '../handover/attachment'
import { SheetDocument } from '../handover/document'
import { PAPER_KINDS } from '../handover/paper'

export const BUNDLE_FORMAT = 'russet-lantern/case-bundle'

/** The names of the files in a bundle, beside the attachments. */
export const BUNDLE_FILES = {
  manifest: 'bundle.json',
  case: 'case.json',
  history: 'history.json',
  sheets: 'sheets.json',
  attachments: 'attachments.json',
} as const
export const ATTACHMENT_FOLDER = 'attachments'

const sha256 = z.string().regex(/^[0-9a-f]{64}$/, 'is not a SHA-256')

/** What a bundle is, and the checksum of every other file in it. */
export const BundleManifest = z.object({
  format: z.literal(BUNDLE_FORMAT),
  version: z.literal(1),
  code: z.string().max(20),
  shop: z.string().max(120),
  made: instant,
  files: z.record(z.string().max(300), sha256),
})
export type BundleManifest = z.infer<typeof BundleManifest>

/** A picture, signature or paper. Its number is what the case names it by. */
export const BundleAttachment = z.object({
  id: z.int(),
  kind: z.enum(ATTACHMENT_KINDS),
  part: z.string().max(60),
  name: z.string().min(1).max(120),
  mime: z.string().max(60),
  /** its file in the folder of attachments */
  file: z.string().regex(/^\d{1,12}\.[a-z]{3,4}$/, 'is not the name of an attachment'),
  sha256,
  at: instant,
  by: z.string().max(80),
})
export type BundleAttachment = z.infer<typeof BundleAttachment>

export const BundleAttachments = z.array(BundleAttachment).max(5000)

/** A sheet as it was made. */
export const BundleSheet = z.object({
  kind: z.enum(PAPER_KINDS),
  number: z.string().min(1).max(60),
  head: z.string().max(200),
  at: instant,
  by: z.string().max(80),
  sheet: SheetDocument,
})
export type BundleSheet = z.infer<typeof BundleSheet>
export const BundleSheets = z.array(BundleSheet).max(5000)

/** The most entries of a history that come with a case; of a longer one, the latest. */
export const MAX_BUNDLE_ENTRIES = 5000

/** An entry of the history of the other shop: it stays that shop’s word, and is no entry of this one’s chain. */
export const BundleEntry = z.object({
  at: instant,
  by: z.string().max(80),
  kind: z.enum(HISTORY_KINDS),
  fact: z.string().max(200),
  was: z.unknown(),
  is: z.unknown(),
})
export type BundleEntry = z.infer<typeof BundleEntry>
export const BundleHistory = z.array(BundleEntry).max(MAX_BUNDLE_ENTRIES)
