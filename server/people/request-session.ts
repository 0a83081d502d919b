import type { H3Event } from 'h3'
import { getRequestHeader } from 'h3'
import { MAX_SESSION_MS, PERSON_HEADER, standingOf, USED_HEADER } from '../../core/people/session'
import type { Database } from '../db/open'
import { Failure } from '../failure'
import { idleMinutes } from '../settings'
import { sessionCookie } from './session-cookie'
import { findSession, noteUse, type FoundSession } from './sessions'

const KEPT = 'Sign in; what was saved is kept.'

/** How a route treats the session of a request. */
export interface SessionUse {
  /** the page asked by itself: it is no sign of use */
  readonly isBackground?: boolean
  /** what was started continues though nobody is at the page */
  readonly goesOnIdle?: boolean
}

/** The session of a request, with the present role of its person; throws a Failure where it has ended. */
export function requireSession(
  event: H3Event,
  database: Database,
  now: number,
  { isBackground = false, goesOnIdle = false }: SessionUse = {},
): FoundSession {
  const secret = sessionCookie.read(event)
  const session = secret === null ? null : findSession(database, secret)
  if (!session) throw new Failure('not-signed-in', 'Nobody is signed in here.', { safe: KEPT })
  const limit = idleMinutes(database)
  const standing = standingOf(session, now, limit)
  if (standing === 'over')
    throw new Failure('not-signed-in', `This session ended after ${MAX_SESSION_MS / 3_600_000} hours.`, { safe: KEPT })
  if (standing === 'idle' && !goesOnIdle)
    throw new Failure('not-signed-in', `This session was not used for ${limit} minutes.`, { safe: KEPT })
  const takenFor = getRequestHeader(event, PERSON_HEADER)
  if (takenFor !== undefined && takenFor !== String(session.person.id))
    throw new Failure('other-person', `${session.person.name} is signed in on this machine now.`, {
      safe: 'Nothing was changed or sent in their name.',
    })
  if (!isBackground && standing === 'open') noteUse(database, session, now - agoOf(event))
  return session
}

/** ms since somebody last did something; a program that does not say does it now. */
function agoOf(event: H3Event): number {
  const ago = Number(getRequestHeader(event, USED_HEADER) ?? 0)
  return Number.isFinite(ago) && ago > 0 ? ago : 0
}
