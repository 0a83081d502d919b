import { z } from 'zod'
import { partId } from '../cases/shape/fact'
import { instant } from '../cases/shape/moment'

export const SECRET_KINDS = ['passcode', 'password'] as const

/** A passcode or password that the client left: which part it opens, and never itself. */
export const SecretNote = z.object({
  id: z.int(),
  part: partId,
  kind: z.enum(SECRET_KINDS),
  at: instant,
  by: z.string(),
})
export type SecretNote = z.infer<typeof SecretNote>

export const SecretNotes = z.array(SecretNote)

export const NewSecret = z.object({
  part: partId,
  kind: z.enum(SECRET_KINDS),
  value: z.string().min(1, 'is empty').max(200),
})
export type NewSecret = z.infer<typeof NewSecret>

/** The secret itself, for the moment in which it is typed somewhere. */
export const SecretValue = z.object({ value: z.string() })
