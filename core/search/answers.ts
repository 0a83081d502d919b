import { z } from 'zod'
import { ClientCard } from '../cases/shape/summary'

/** One text in which something sought was found. */
export const SearchMatch = z.object({
  /** where it is, in words: "note of a run" */
  where: z.string(),
  text: z.string(),
  /** the parts of the text that were sought, in UTF-16 units */
  marks: z.array(z.tuple([z.int(), z.int()])),
})
export type SearchMatch = z.infer<typeof SearchMatch>

export const SearchedCase = z.object({
  code: z.string(),
  client: z.string(),
  /** what is wanted, and from which device */
  what: z.string(),
  state: z.string(),
  /** the best matches, the most telling first */
  matches: z.array(SearchMatch),
  /** further matches that are not listed */
  more: z.int().min(0),
})
export type SearchedCase = z.infer<typeof SearchedCase>

/** What a search found: clients of the shop, and cases with what matched where. */
export const SearchAnswer = z.object({
  clients: z.array(ClientCard),
  cases: z.array(SearchedCase),
  /** whether there are further cases that are not listed */
  hasMore: z.boolean(),
})
export type SearchAnswer = z.infer<typeof SearchAnswer>
