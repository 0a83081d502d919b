import { z } from 'zod'

const stretch = z.tuple([z.int().min(0), z.int().min(1)])

/** Faults of a stand-in medium, in bytes and ms. */
export const Faults = z.object({
  /** never read */
  dead: z.array(stretch).max(1000),
  /** read once they were asked for so many times */
  weak: z.array(stretch).max(1000),
  weakTries: z.int().min(1).max(20),
  /** how fast it gives its bytes, as a worn medium does; null where it is not slowed down */
  bytesPerSecond: z.number().min(1000).nullable(),
  /** how long it takes to give up on a place */
  giveUpMs: z.number().min(0).max(5000),
})
export type Faults = z.infer<typeof Faults>
