import { z } from 'zod'
import { WIPED_PARTS } from '../cases/shape/wiping'
import { instant } from '../cases/shape/moment'
import { WIPE_ASKS, WIPE_STOPS } from './standing'

const count = z.int().min(0)

/** How much of a case is held, or was wiped. Names of items, files and people are in no record. */
export const HeldCounts = z.object({
  /** files of the case in the shop's data folder, and their bytes */
  files: count,
  bytes: count,
  /** items that were listed or found */
  items: count,
  /** sheets, pictures and signatures */
  sheets: count,
  pictures: count,
  /** noted passcodes and passwords */
  secrets: count,
  /** entries of the history whose content can be read */
  entries: count,
})
export type HeldCounts = z.infer<typeof HeldCounts>

/** That a part of a case was wiped: what, when, why, and what that means. It outlives everything that it is about. */
export const WipeRecord = z.object({
  id: z.int(),
  code: z.string(),
  part: z.enum(WIPED_PARTS),
  at: instant,
  by: z.string().nullable(),
  why: z.enum(['date', 'wish', 'restored']),
  counts: HeldCounts,
  /** folders and media outside of the shop's data folder that were read for the case, and copies that were handed out */
  outside: count,
  /** the day by which the last backup that was made before is gone */
  backupsUntil: instant,
})
export type WipeRecord = z.infer<typeof WipeRecord>

/** How it stands with one part of a case, as the server says it. */
export const WipeStandingShape = z.object({
  part: z.enum(WIPED_PARTS),
  state: z.enum(['later', 'due', 'asks', 'held', 'wiped']),
  at: instant.nullable(),
  stop: z.enum(WIPE_STOPS).nullable(),
  asks: z.array(z.enum(WIPE_ASKS)),
})

/** What comes after the return of one case. */
export const AfterwardsAnswer = z.object({
  standings: z.array(WipeStandingShape),
  held: HeldCounts,
  /** images and backups in the shop’s own folders that go with the data, by name */
  own: z.array(z.string()),
  /** paths outside of the data folder that are not wiped by the shop */
  outside: z.array(z.string()),
  records: z.array(WipeRecord),
})
export type AfterwardsAnswer = z.infer<typeof AfterwardsAnswer>

/** What somebody does about it. */
export const AfterwardsWrite = z.discriminatedUnion('do', [
  z.object({
    do: z.literal('wipe'),
    part: z.enum(WIPED_PARTS),
    /** the code of the case, typed by whoever does it */
    code: z.string().trim().max(20),
    /** what they decided about what has to be asked */
    reason: z.string().trim().max(400).default(''),
  }),
  z.object({ do: z.literal('keep'), until: instant.nullable() }),
])
export type AfterwardsWrite = z.infer<typeof AfterwardsWrite>

/** Cases that ask before they are wiped, cases that are wiped next, and the latest records. */
export const AfterwardsList = z.object({
  /** set where the clock of the machine has jumped: nothing is wiped automatically until an owner says that it is right */
  clockJumpedFrom: instant.nullable(),
  asks: z.array(z.object({ code: z.string(), client: z.string(), ...WipeStandingShape.shape })),
  next: z.array(z.object({ code: z.string(), client: z.string(), ...WipeStandingShape.shape })),
  records: z.array(WipeRecord),
})
export type AfterwardsList = z.infer<typeof AfterwardsList>
