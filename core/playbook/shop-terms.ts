import { z } from 'zod'

/** In which zone a shop's days begin and in which money it counts: what every page has to know of it. */
export const ShopTerms = z.object({
  zone: z.string().max(60).refine(isZone, 'is not the name of a time zone').default('UTC'),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .default('GBP'),
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
