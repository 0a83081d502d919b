import { z } from 'zod'
import { name, text } from './fact'
import { instant } from './moment'

/** Why a case stands still: something illegal was met, data of somebody else, or police or a court asked. */
export const FREEZE_CAUSES = ['illegal', 'not-theirs', 'police-or-court'] as const
export type FreezeCause = (typeof FREEZE_CAUSES)[number]

/**
 * A stop of the whole case: device and data stay as they are, nothing is looked at, handed over or wiped, and only owners see
 * the case until one of them lifts it.
 */
export const Freeze = z.object({
  cause: z.enum(FREEZE_CAUSES),
  /** what was met and where, in as few words as are needed */
  says: name(1000),
  /** who was told, and when */
  told: text(600).default(''),
  /** the attachment with the request */
  paper: z.int().nullable().default(null),
  at: instant,
  by: name(80),
  lifted: z
    .object({ at: instant, by: name(80), reason: name(600) })
    .nullable()
    .default(null),
})
export type Freeze = z.infer<typeof Freeze>

/** The stop in force; null where the case goes on. */
export const frozenBy = (freezes: readonly Freeze[]): Freeze | null =>
  freezes.findLast(({ lifted }) => lifted === null) ?? null
