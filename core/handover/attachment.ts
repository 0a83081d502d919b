import { z } from 'zod'
import { instant } from '../cases/shape/moment'

/** `photo`: of a device or of what was done; `signature`: drawn on the screen; `paper`: a scan or photo of a paper. */
export const ATTACHMENT_KINDS = ['photo', 'signature', 'paper'] as const

/** The types of attachments that are taken, with the extension of their files. */
export const ATTACHMENT_TYPES = {
  'image/jpeg': 'jpg',
  'image/png': 'png',
  'image/webp': 'webp',
  'application/pdf': 'pdf',
  'image/svg+xml': 'svg',
} as const
export type AttachmentType = keyof typeof ATTACHMENT_TYPES

/** The largest attachment, in bytes. */
export const MAX_ATTACHMENT_BYTES = 3_500_000

/** A picture, signature or paper of a case. */
export const Attachment = z.object({
  id: z.int(),
  kind: z.enum(ATTACHMENT_KINDS),
  /** the part of the case that it belongs to: a device, a copy, a run, a step of the custody; empty for the case itself */
  part: z.string(),
  name: z.string(),
  mime: z.enum(Object.keys(ATTACHMENT_TYPES) as [AttachmentType, ...AttachmentType[]]),
  bytes: z.int().min(0),
  sha256: z.string(),
  at: instant,
  by: z.string(),
})
export type Attachment = z.infer<typeof Attachment>

/** The type of bytes by their first ones (PNG section 5.2; JFIF; WebP container; ISO 32000); null for any other. */
export function attachmentTypeOf(head: Uint8Array): Exclude<AttachmentType, 'image/svg+xml'> | null {
  const starts = (text: string, at = 0) => [...text].every((letter, index) => head[at + index] === letter.charCodeAt(0))
  if (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) return 'image/jpeg'
  if (starts('\x89PNG\r\n\x1a\n')) return 'image/png'
  if (starts('RIFF') && starts('WEBP', 8)) return 'image/webp'
  return starts('%PDF-') ? 'application/pdf' : null
}
