import { z } from 'zod'

/** Where an owner wants shelves of new cases to be. */
export const ShelfPlaceWish = z.object({
  /** an absolute path; null for the data folder */
  folder: z.string().trim().min(1, 'is empty').max(1000).nullable(),
  /** what all shelves together may take, in GB (10^9 bytes); null for as much as the disk has */
  maxGigabytes: z.number('is not a number').min(1, 'is below 1').max(10_000_000).nullable(),
})
export type ShelfPlaceWish = z.infer<typeof ShelfPlaceWish>

/** Where shelves of new cases are, and the room there, in bytes. */
export const ShelfPlace = ShelfPlaceWish.extend({
  /** the data folder, for who names none */
  inDataFolder: z.string(),
  /** null while its disk is not connected */
  free: z.number().nullable(),
  used: z.number(),
})
export type ShelfPlace = z.infer<typeof ShelfPlace>
