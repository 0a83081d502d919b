import { z } from 'zod'
import { Agreement } from './agreement'
import { Client } from './client'
import { Contact } from './contact'
import { Copy } from './copy'
import { Thing } from './custody'
import { ClientCheck, Outcome } from './delivery'
import { Device } from './device'
import { name, text } from './fact'
import { Freeze } from './freeze'
import { HoldMark } from './hold-mark'
import { Loss } from './loss'
import { instant } from './moment'
import { Money } from './money'
import { Run } from './run'
import { Secret } from './secret'
import { CaseState } from './states'
import { Authority, Consent, Limits } from './terms'
import { WantedSet } from './wanted'
import { Wiping } from './wiping'

export const CASE_FORMAT = 'russet-lantern/case'
export const CASE_VERSION = 2

const distinctIds = (parts: readonly { id: string }[]) => new Set(parts.map((part) => part.id)).size === parts.length
const distinct = { error: 'two of them have the same id' }

/**
 * One case, whole: what is stored, exchanged and planned from. Only `format` and `version` are required; what is
 * missing is unknown. Sizes are bytes, moments are ranges in UTC.
 */
export const Case = z.object({
  format: z.literal(CASE_FORMAT),
  /** version 1 had fewer facts; it is read and written again as version 2 */
  version: z.literal([1, 2]).transform((): 2 => 2),
  code: text(20).default(''),
  /** the same in every shop that the case comes to; codes are each shop's own */
  identity: z.uuid().nullable().default(null),
  title: text(80).default(''),
  state: CaseState.prefault({}),
  logged: instant.nullable().default(null),
  /** somebody practises on it: the odds and the ledger never count it */
  isTraining: z.boolean().default(false),
  /** who has it on the bench, by sign-in name */
  with: text(80).nullable().default(null),
  client: Client.prefault({}),
  authority: Authority.prefault({}),
  devices: z.array(Device).max(20).refine(distinctIds, distinct).default([]),
  wanted: z.array(WantedSet).max(50).refine(distinctIds, distinct).default([]),
  loss: Loss.prefault({}),
  copies: z.array(Copy).max(60).refine(distinctIds, distinct).default([]),
  /** what several copies are opened with */
  secrets: z.array(Secret).max(60).refine(distinctIds, distinct).default([]),
  limits: Limits.prefault({}),
  consent: Consent.prefault({}),
  holds: z.array(HoldMark).max(100).default([]),
  /** the order that somebody preferred to the best one, and why */
  override: z
    .object({
      order: z.array(z.string().min(1).max(120)).min(1).max(60),
      reason: name(400),
      by: name(80),
      at: instant,
    })
    .nullable()
    .default(null),
  runs: z.array(Run).max(500).refine(distinctIds, distinct).default([]),
  agreements: z.array(Agreement).max(200).refine(distinctIds, distinct).default([]),
  /** devices, media and loans that changed hands */
  things: z.array(Thing).max(100).refine(distinctIds, distinct).default([]),
  contacts: z.array(Contact).max(1000).default([]),
  money: Money.prefault({}),
  /** what the client said of what came back; the last one of a group counts */
  checks: z.array(ClientCheck).max(2000).default([]),
  outcome: Outcome.nullable().default(null),
  freezes: z.array(Freeze).max(50).default([]),
  wiping: Wiping.prefault({}),
  /** the case that this one is a return of, within the shop's promise */
  returnOf: z.string().max(20).nullable().default(null),
  /** facts that were asked for and that the client does not know */
  notKnown: z.array(z.string().max(120)).max(500).default([]),
})
export type Case = z.infer<typeof Case>

/** A case about which nothing is known yet. */
export function emptyCase(): Case {
  return Case.parse({ format: CASE_FORMAT, version: CASE_VERSION })
}
