import { z } from 'zod'
import { name } from './fact'
import { instant } from './moment'

export const CONTACT_WAYS = ['called', 'no-answer', 'wrote', 'was-called', 'was-written', 'came-in'] as const
export type ContactWay = (typeof CONTACT_WAYS)[number]

/** One time that shop and client spoke, or tried to, and what was said. */
export const Contact = z.object({ at: instant, by: name(80), way: z.enum(CONTACT_WAYS), says: name(1000) })
export type Contact = z.infer<typeof Contact>
