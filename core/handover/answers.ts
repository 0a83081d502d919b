import { z } from 'zod'
import { Attachment } from './attachment'
import { Paper } from './paper'
import { Signature } from './signature'
import { HandoverWrite } from './writes'

/** What a case has besides its facts: pictures and papers, and the sheets that were made. */
export const HandoverAnswer = z.object({
  attachments: z.array(Attachment),
  papers: z.array(Paper),
  /** earlier cases of the same client that ended within the shop's promise, which this one may be a return of */
  earlier: z.array(z.object({ code: z.string(), title: z.string() })),
})
export type HandoverAnswer = z.infer<typeof HandoverAnswer>

export const HandoverAsk = z.object({ version: z.int().min(0), write: HandoverWrite })

export const SignatureWrite = z.object({ signature: Signature, name: z.string().trim().min(1, 'is empty').max(120) })
