import { z } from 'zod'
import { partId, text } from '../cases/shape/fact'
import { instant } from '../cases/shape/moment'
import { DataType } from '../cases/shape/data-types'
import { BACKUP_VERDICTS } from './choosing'
import { MediumShape, PassShape } from './medium'
import { ActionName, ActionOffer, ActionParameters } from './action'
import { BenchPart } from './part'
import { COPYING_STATES, ShelfState } from './shelf'
import { LinkState, LinkSummary } from './state'

const count = z.int().min(0)

/** The progress of a listing; `whole`: all of the keep was listed. */
export const LISTING_STATES = ['listing', 'whole', 'broken-off'] as const

export const Listing = z.object({
  id: z.int(),
  link: z.string(),
  keep: z.string(),
  title: z.string(),
  at: instant,
  state: z.enum(LISTING_STATES),
  says: z.string(),
  total: count,
})
export type Listing = z.infer<typeof Listing>

export const FetchShape = z.object({
  id: z.int(),
  link: z.string(),
  keep: z.string(),
  title: z.string(),
  done: count,
  total: count,
  state: z.enum(COPYING_STATES),
  says: z.string(),
  /** the backup as a link of its own, once it is here */
  becomes: z.string().nullable(),
})
export type FetchShape = z.infer<typeof FetchShape>

export const SafetyCopyShape = z.object({
  link: z.string(),
  at: instant,
  items: count,
  bytes: count,
  isVerified: z.boolean(),
  /** whether the device still has the same contents */
  isCurrent: z.boolean(),
})

export const JudgedShape = z.object({
  id: z.string(),
  verdict: z.enum(BACKUP_VERDICTS),
  reach: z.number().nullable(),
  why: z.string(),
})

/** Everything that the bench of one case shows. */
export const BenchAnswer = z.object({
  parts: z.array(BenchPart),
  links: z.array(LinkState),
  /** links that do not answer, with the reason */
  faults: z.array(z.object({ link: z.string(), says: z.string() })),
  listings: z.array(Listing),
  shelf: ShelfState,
  fetches: z.array(FetchShape),
  safetyCopies: z.array(SafetyCopyShape),
  judged: z.array(JudgedShape),
  media: z.array(MediumShape),
  passes: z.array(PassShape),
  runId: z.string().nullable(),
})
export type BenchAnswer = z.infer<typeof BenchAnswer>

/**
 * Changes on the bench of a case; `isStale`: the state of a link has changed, and everything should be loaded again.
 */
export const BenchNews = BenchAnswer.pick({ listings: true, shelf: true, fetches: true }).partial().extend({
  isStale: z.boolean().optional(),
  /** a different number for each message, so that two equal ones are both noticed */
  number: z.int().optional(),
})
export type BenchNews = z.infer<typeof BenchNews>

/** The scans of a case, as they are streamed. */
export const PassNews = z.array(PassShape)

/** What a backup in a folder says about itself before anybody opens it. */
export const ArchiveFacts = z.object({
  bytes: z.int(),
  taken: instant.nullable(),
  types: z.array(DataType),
  isEncrypted: z.boolean(),
})
export type ArchiveFacts = z.infer<typeof ArchiveFacts>

export const BenchOverview = z.object({
  links: z.array(
    LinkSummary.extend({
      cases: z.array(z.object({ code: z.string(), title: z.string(), part: z.string() })),
      archive: ArchiveFacts.nullable(),
    }),
  ),
  /** scans that run or are queued, each with its case */
  passes: z.array(PassShape.extend({ code: z.string(), title: z.string() })),
})
export type BenchOverview = z.infer<typeof BenchOverview>

export const AttachWrite = z.object({ part: partId, link: z.string().max(80).nullable() })
export const ListingStart = z.object({ keep: z.string().max(100) })
export const FetchStart = z.object({ keep: z.string().max(100) })
export const ActionAsk = z.object({ action: ActionName, parameters: ActionParameters.prefault({}) })

/** A step, with the comparison that was reviewed, and why it proceeds without a safety copy, where it does. */
export const ActionStart = ActionAsk.extend({ comparison: z.string().max(80), waiver: text(400).default('') })
export const PutBackWrite = z.object({
  keep: z.string().max(100),
  items: z.array(z.int()).min(1, 'names nothing').max(100_000),
})

/** A safety copy, sealed with the client's password where they want that. */
export const SafetyCopyStart = z
  .object({ password: z.string().min(8, 'is shorter than 8 characters').max(200).nullable().default(null) })
  .prefault({})

/** A precondition of a step that destroys something. */
export const Guard = z.object({
  name: z.enum(['consent', 'safety-copy', 'slot', 'run', 'hold', 'precondition']),
  isMet: z.boolean(),
  says: z.string(),
  /** the precondition of the link that it is */
  precondition: z.string().optional(),
  /** the hold that must be ticked or waived */
  hold: z.string().optional(),
})
export type Guard = z.infer<typeof Guard>

/** What a step would do, what blocks it, and the token that proves that somebody has reviewed it. */
export const Comparison = z.object({
  offer: ActionOffer,
  isDestructive: z.boolean(),
  guards: z.array(Guard),
  comparison: z.string(),
})
export type Comparison = z.infer<typeof Comparison>
