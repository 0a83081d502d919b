import { z } from 'zod'

/** Ground truth of an image: every file ever written to it, and how much of it remains. */
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
      /** whole: contiguous and complete; pieces: complete but fragmented; part, gone: some or no sectors remain */
      held: z.enum(['whole', 'pieces', 'part', 'gone']),
      /** whether reformatting destroyed its record */
      isForgotten: z.boolean().default(false),
    }),
  ),
})
export type Truth = z.infer<typeof Truth>
