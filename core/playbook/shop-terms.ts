import { z } from 'zod'
import { DEFAULT_LANGUAGE, LANGUAGES } from '../local/language'

/** In which zone a shop's days begin, in which money it counts and how it writes: what every page has to know of it. */
export const ShopTerms = z.object({
  zone: z.string().max(60).refine(isZone, 'is not the name of a time zone').default('UTC'),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .default('GBP'),
  /** in which dates and numbers are written */
  language: z.enum(LANGUAGES, 'is not one of the languages').default(DEFAULT_LANGUAGE),
})
export type ShopTerms = z.infer<typeof ShopTerms>

function isZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name })
    return true
  } catch {
    return false
  }
}
