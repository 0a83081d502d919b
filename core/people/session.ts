import { z } from 'zod'
import { instant } from '../cases/shape/moment'
import { ShopTerms } from '../playbook/shop-terms'
import { Person } from './person'

const MINUTE_MS = 60_000

/** A session ends after this time, however much it is used. */
export const MAX_SESSION_MS = 12 * 60 * MINUTE_MS

/** Minutes without use after which a session locks; each shop sets its own. */
export const IdleLimit = z.object({ minutes: z.int().min(2, 'is less than 2').max(240, 'is more than 240') })
export const DEFAULT_IDLE_MINUTES = 30

/** When a session began and when it was last used, both in ms. */
export interface SessionTimes {
  readonly begun: number
  readonly used: number
}

/**
 * The state of a session: `open`, `idle` (its person has to sign in again), or `over`. One that begins in the future,
 * since the clock was set back by more than a session's length, is over.
 */
export function standingOf({ begun, used }: SessionTimes, now: number, idleMinutes: number): 'open' | 'idle' | 'over' {
  if (Math.abs(now - begun) >= MAX_SESSION_MS) return 'over'
  return now - used >= idleMinutes * MINUTE_MS ? 'idle' : 'open'
}

/**
 * How long ago the person at the page last touched a key or the screen, ms; on requests that a page makes by itself.
 */
export const USED_HEADER = 'lantern-used'
/** The person that a page was loaded for: the server refuses where somebody else has signed in. */
export const PERSON_HEADER = 'lantern-person'

/** One of a person's sessions, for themselves to see. */
export const SessionShape = z.object({
  id: z.int(),
  begun: instant,
  used: instant,
  address: z.string(),
  machine: z.string(),
  isThis: z.boolean(),
  isIdle: z.boolean(),
})
export type SessionShape = z.infer<typeof SessionShape>

/** Who is signed in, and what pages must know before anybody is. */
export const SessionAnswer = z.object({
  person: Person.nullable(),
  now: instant,
  needsOwner: z.boolean(),
  idleMinutes: z.int(),
  /** for the first start: where shelves are unless another folder is named, and the bytes free there; null once there is an owner */
  start: z.object({ dataFolder: z.string(), free: z.number() }).nullable(),
  /** the shop's zone, currency and language; null while nobody is signed in */
  shop: ShopTerms.nullable(),
  demoPeople: z.array(z.object({ name: z.string(), signIn: z.string(), password: z.string(), role: z.string() })),
})
export type SessionAnswer = z.infer<typeof SessionAnswer>

/** Who has just signed in. */
export const EnterAnswer = z.object({ person: Person })

/** Nobody is signed in any more. */
export const LeaveAnswer = z.object({ person: z.null() })

/** One's own sessions. */
export const SessionList = z.object({ sessions: z.array(SessionShape) })

/** The server's time. */
export const ClockAnswer = z.object({ now: instant })

/** The device of a session, from what its program says about itself (RFC 9110, section 10.1.5). */
export const machineWords = (agent: string) => (/\bMobile\b/.test(agent) ? 'a phone or tablet' : 'a computer')
