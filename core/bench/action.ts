import { z } from 'zod'
import { DataType } from '../cases/shape/data-types'
import { instant } from '../cases/shape/moment'

export const ACTION_NAMES = [
  'read-apps',
  'restore',
  'erase',
  'sync-on',
  'sync-off',
  'back-up',
  'turn-back',
  'merge-in',
  'ask-export',
  'put-back-from-bin',
] as const
export const ActionName = z.enum(ACTION_NAMES)
export type ActionName = z.infer<typeof ActionName>

/** A precondition of an action. */
export const Precondition = z.object({
  name: z.enum([
    'battery',
    'network',
    'room',
    'passcode',
    'password',
    'account',
    'idle',
    'kind',
    'consent',
    'safety-copy',
  ]),
  isMet: z.boolean(),
  says: z.string().max(300),
})
export type Precondition = z.infer<typeof Precondition>

/** So many items of one type, made in this span of time. */
export const Lot = z.object({
  type: DataType,
  count: z.int().min(0),
  from: instant.nullable(),
  to: instant.nullable(),
})
export type Lot = z.infer<typeof Lot>

/** What an action would do, shown before it starts. */
export const Effects = z.object({
  /** everything on the device is replaced */
  erases: z.boolean(),
  /** what would be lost and is nowhere else on this link */
  gone: z.array(Lot),
  /** what would be restored */
  back: z.array(Lot),
  /** a backup that this would replace */
  replacesBackup: z.string().max(80).nullable(),
})
export type Effects = z.infer<typeof Effects>

export const ActionParameters = z.object({
  /** a backup or an earlier state, as "link/keep" */
  from: z.string().max(160).default(''),
  /** opens an encrypted backup; never stored */
  password: z.string().max(200).default(''),
  /** items, for actions on some of them */
  items: z.array(z.string().max(300)).max(100_000).default([]),
  types: z.array(DataType).default([]),
})
export type ActionParameters = z.infer<typeof ActionParameters>

/** An action of a link, with its preconditions and its effects; computed again for each choice of parameters. */
export const ActionOffer = z.object({
  action: ActionName,
  title: z.string().max(160),
  says: z.string().max(400),
  /** whether a backup or state must be named */
  wantsFrom: z.boolean(),
  needs: z.array(Precondition).max(12),
  effects: Effects,
  minutes: z.number().min(0),
})
export type ActionOffer = z.infer<typeof ActionOffer>

/** An action that runs, or is done. */
export const Task = z.object({
  id: z.string().max(60),
  action: ActionName,
  title: z.string().max(200),
  state: z.enum(['running', 'done', 'failed']),
  begun: instant,
  /** when it will be done, or was done */
  ends: instant,
  done: z.int().min(0),
  total: z.int().min(0),
  says: z.string().max(400),
})
export type Task = z.infer<typeof Task>

/** True where an action destroys something that it does not restore. */
export const isDestructive = (effects: Effects) =>
  effects.erases || effects.gone.some((lot) => lot.count > 0) || effects.replacesBackup !== null
