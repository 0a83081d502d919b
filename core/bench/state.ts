import { z } from 'zod'
import { PLATFORMS } from '../cases/shape/device'
import { instant } from '../cases/shape/moment'
import { ActionOffer, Task } from './action'
import { Keep } from './keep'

export const LINK_KINDS = ['phone', 'account', 'computer', 'backups', 'medium', 'batch'] as const

/** One link of the bench. */
export const LinkSummary = z.object({
  id: z.string().regex(/^[a-z][a-z0-9-]{1,59}$/),
  kind: z.enum(LINK_KINDS),
  title: z.string().min(1).max(160),
  platform: z.enum([...PLATFORMS, 'account', 'folder', 'medium']),
  isStandIn: z.boolean(),
})
export type LinkSummary = z.infer<typeof LinkSummary>

/**
 * The states of a link. `ready`, `charging`, `battery-low` and `debugging-off` can be read; the others need something
 * first.
 */
export const LINK_STATES = [
  'lost',
  'asleep',
  'locked',
  'asks-to-trust',
  'debugging-off',
  'signed-out',
  'asks-second-factor',
  'first-set-up',
  'battery-low',
  'charging',
  'ready',
] as const
export type LinkStateName = (typeof LINK_STATES)[number]
/** What a person can say or do to make a link ready. */
export const ANSWER_KINDS = [
  'passcode',
  'password',
  'second-factor',
  'trust',
  'debugging',
  'wake',
  'charger',
  'network',
  'plug-in',
  'sign-out',
] as const

export type AnswerKind = (typeof ANSWER_KINDS)[number]

export const Answer = z.object({
  answer: z.enum(ANSWER_KINDS),
  /** a passcode, a password, a code, on or off, the name of a trusted computer; never stored */
  value: z.string().max(512).default(''),
})
export type Answer = z.infer<typeof Answer>

/** A need, in plain words; the first one is the next thing to do. */
const Need = z.object({
  answer: z.enum(ANSWER_KINDS),
  says: z.string().max(300),
  /** only a person at the device can do it, no helper can */
  byHand: z.boolean(),
  /** words to choose from, where there are few */
  choices: z.array(z.string().max(120)).max(20).default([]),
})
export type Need = z.infer<typeof Need>

/** Everything that a link says about itself. Times are UTC, sizes bytes, fractions of 1. */
export const LinkState = LinkSummary.extend({
  state: z.enum(LINK_STATES),
  /** one sentence for the technician */
  says: z.string().max(400),
  needs: z.array(Need).max(8),
  power: z.object({ fraction: z.number().min(0).max(1), isCharging: z.boolean() }).nullable(),
  room: z.object({ capacity: z.int().min(0), free: z.int().min(0) }).nullable(),
  isOnline: z.boolean(),
  /** wrong passcodes or passwords left before it erases or locks itself; null where it does not count */
  triesLeft: z.int().min(0).nullable(),
  /** what happens when they run out */
  triesEnd: z.enum(['erases', 'locks']).nullable(),
  encryption: z.enum(['none', 'per-file', 'whole-device']).nullable(),
  account: z.object({ id: z.string().nullable(), name: z.string().max(200), isSyncing: z.boolean() }).nullable(),
  /** when a signed-in session expires */
  sessionEnds: instant.nullable(),
  /** bytes per second of the connection, for estimates */
  bytesPerSecond: z.int().min(1),
  keeps: z.array(Keep).max(400),
  actions: z.array(ActionOffer).max(40),
  tasks: z.array(Task).max(200),
  /** changes with its contents, so that an outdated comparison is recognised */
  mark: z.string().max(80),
  now: instant,
})
export type LinkState = z.infer<typeof LinkState>

/** The state of a link without battery, disk, account or secret; the rest goes on top. */
export const NOTHING_TO_SAY = {
  needs: [],
  power: null,
  room: null,
  isOnline: false,
  triesLeft: null,
  triesEnd: null,
  encryption: null,
  account: null,
  sessionEnds: null,
  keeps: [],
} satisfies Partial<LinkState>

/** The state of a read-only link, which has no actions and no tasks. */
export function stateOfReadOnly(
  summary: LinkSummary,
  facts: Pick<LinkState, 'state' | 'says' | 'bytesPerSecond' | 'mark' | 'now'> & Partial<LinkState>,
): LinkState {
  return { ...summary, ...NOTHING_TO_SAY, actions: [], tasks: [], ...facts }
}
