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

/** How far a listing is; `whole`: all of the keep was listed. */
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
  /** whether the device still holds what it held then */
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
  /** links that do not answer, with why */
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

/** What is new on the bench of a case; `isStale`: a link stands otherwise than before, and all of it is to be asked for. */
export const BenchNews = BenchAnswer.pick({ listings: true, shelf: true, fetches: true }).partial().extend({
  isStale: z.boolean().optional(),
  /** another one for each piece of news, so that the same twice is heard twice */
  number: z.int().optional(),
})
export type BenchNews = z.infer<typeof BenchNews>

/** How the passes of a case stand, as it is streamed. */
export const PassNews = z.array(PassShape)

/** What a backup in a folder says of itself before anybody opens it. */
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
  /** passes over media that are under way or wait, each with its case */
  passes: z.array(PassShape.extend({ code: z.string(), title: z.string() })),
})
export type BenchOverview = z.infer<typeof BenchOverview>

export const AttachWrite = z.object({ part: partId, link: z.string().max(80).nullable() })
export const ListingStart = z.object({ keep: z.string().max(100) })
export const FetchStart = z.object({ keep: z.string().max(100) })
export const ActionAsk = z.object({ action: ActionName, parameters: ActionParameters.prefault({}) })

/** A step with what its doer has seen of it, and why it goes without a safety copy, where it does. */
export const ActionStart = ActionAsk.extend({ comparison: z.string().max(80), waiver: text(400).default('') })
export const PutBackWrite = z.object({
  keep: z.string().max(100),
  items: z.array(z.int()).min(1, 'names nothing').max(100_000),
})

/** One thing that has to be so before a step that takes something away may start. */
export const Guard = z.object({
  name: z.enum(['consent', 'safety-copy', 'slot', 'run', 'hold', 'precondition']),
  isMet: z.boolean(),
  says: z.string(),
  /** the precondition of the link that it is */
  precondition: z.string().optional(),
  /** the hold that has to be ticked or waived */
  hold: z.string().optional(),
})
export type Guard = z.infer<typeof Guard>

/** What a step would do, what stands in its way, and the word that says that somebody has seen it. */
export const Comparison = z.object({
  offer: ActionOffer,
  isDestructive: z.boolean(),
  guards: z.array(Guard),
  comparison: z.string(),
})
export type Comparison = z.infer<typeof Comparison>
