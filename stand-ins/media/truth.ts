import { z } from 'zod'

/** What is known of an image: every file that was ever written to it, and how much of it still stands there. */
export const Truth = z.object({
  name: z.string(),
  says: z.string(),
  /** checksums of what was written only to take room */
  ballast: z.array(z.string()).default([]),
  files: z.array(
    z.object({
      path: z.string(),
      state: z.enum(['present', 'deleted']),
      bytes: z.int(),
      sha256: z.string(),
      /** whole: its bytes stand in one piece; pieces: all of its sectors stand somewhere; part, gone: some or none do */
      held: z.enum(['whole', 'pieces', 'part', 'gone']),
      /** whether the file system that made it forgot the record since, by being made anew */
      isForgotten: z.boolean().default(false),
    }),
  ),
})
export type Truth = z.infer<typeof Truth>
