import { z } from 'zod'
import { name, partId, text } from './fact'
import { instant } from './moment'

/** What a client agrees to. */
export const AGREED_TO = ['look-through', 'erase', 'laboratory', 'repair', 'price', 'result'] as const
export type AgreedTo = (typeof AGREED_TO)[number]

/** How they agreed. */
export const AGREED_HOW = ['signed-here', 'on-paper', 'in-words'] as const
export type AgreedHow = (typeof AGREED_HOW)[number]

/** One agreement: what was agreed to, in which words, by whom, and how. It is never changed; it can be taken back. */
export const Agreement = z.object({
  id: partId,
  what: z.array(z.enum(AGREED_TO)).min(1).max(AGREED_TO.length),
  /** the words that were agreed to */
  text: name(6000),
  /** who agreed */
  person: name(120),
  /** for whom, where it is not their own */
  behalf: text(120).default(''),
  how: z.enum(AGREED_HOW),
  /** the attachment with the signature, or with the paper */
  signature: z.int().nullable().default(null),
  /** the price limit, in the shop's currency */
  limit: z.number().min(0).max(10_000_000).nullable().default(null),
  at: instant,
  by: name(80),
  takenBack: z
    .object({ at: instant, by: name(80), reason: text(400) })
    .nullable()
    .default(null),
})
export type Agreement = z.infer<typeof Agreement>

/** The agreement in force to something; null where there is none, or it was taken back. */
export const agreementTo = (agreements: readonly Agreement[], what: AgreedTo): Agreement | null =>
  agreements.findLast((one) => one.what.includes(what) && one.takenBack === null) ?? null
