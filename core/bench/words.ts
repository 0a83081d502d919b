import type { DataType } from '../cases/shape/data-types'
import { countWords, TYPE_WORDS } from '../cases/telling/words'
import type { Lot } from './action'
import type { KeepKind } from './keep'
import type { AnswerKind, LinkStateName } from './state'

/** What a state is called at the bench. */
export const LINK_STATE_WORDS: Record<LinkStateName, string> = {
  lost: 'not answering',
  asleep: 'asleep',
  locked: 'locked',
  'asks-to-trust': 'asks to be trusted',
  'debugging-off': 'open, app data locked',
  'signed-out': 'not signed in',
  'asks-second-factor': 'asks for a second factor',
  'first-set-up': 'at first setup',
  'battery-low': 'battery low',
  charging: 'open, charging',
  ready: 'open',
}

/** States in which something must be done before anything can be read. */
export const isShut = (state: LinkStateName) =>
  ['lost', 'asleep', 'locked', 'asks-to-trust', 'signed-out', 'asks-second-factor'].includes(state)

/** The button of each answer. */
export const ANSWER_WORDS: Record<AnswerKind, string> = {
  passcode: 'Unlock',
  password: 'Sign in',
  'second-factor': 'Enter code',
  trust: 'Confirm trust',
  debugging: 'Debugging is on',
  wake: 'It is awake',
  charger: 'On the charger',
  network: 'On the network',
  'plug-in': 'Try again',
  'sign-out': 'Sign out',
}

/** The name of each typed answer. */
export const ANSWER_FIELDS: Partial<Record<AnswerKind, string>> = {
  passcode: 'passcode',
  password: 'password',
  'second-factor': 'code',
}

export const KEEP_WORDS: Record<KeepKind, string> = {
  files: 'current contents',
  library: 'current contents',
  bin: 'deleted items',
  apps: 'live and deleted rows',
  'earlier-state': 'an earlier day',
  versions: 'earlier versions',
  snapshot: 'snapshot of the disk',
  'restore-point': 'system files and settings, no documents',
  recovery: 'saved automatically by programs',
  image: 'a whole disk',
  backup: 'a whole device',
  export: 'data export of an account',
  sim: 'names and numbers',
}

/** "photos, video clips and notes". */
export function typesWords(types: readonly DataType[]): string {
  const words = types.map((type) => TYPE_WORDS[type])
  return words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`
}

/** "12 notes, made 3 Nov to 9 Nov", with days in words. */
export function lotWords(lot: Lot, day: (iso: string) => string): string {
  const what = countWords(lot.count, TYPE_WORDS[lot.type])
  if (lot.from === null || lot.to === null) return what
  const [from, to] = [day(lot.from), day(lot.to)]
  return from === to ? `${what}, made ${from}` : `${what}, made ${from} to ${to}`
}
