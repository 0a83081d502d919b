import type { H3Event } from 'h3'
import { getRequestHeader } from 'h3'
import type { Person, SignIn } from '../../core/people/person'
import type { Database } from '../db/open'
import { Failure } from '../failure'
import type { HashQueue } from './hash-queue'
import { isKnownDevice, rememberDevice } from './known-devices'
import { COST, isOfOldCost } from './password-hash'
import { logSecurity } from './security-log'
import { deviceCookie, sessionCookie } from './session-cookie'
import { beginSession, digestOf, endSession, findSession, newSecret, tellSessionsChanged } from './sessions'
import { findPerson, setPassword } from './store'
import { addressOf, type Tries } from './tries'
import { logFault } from '../log-fault'

/** What signing in needs. */
export interface Desk {
  readonly database: Database
  readonly tries: Tries
  readonly hashes: HashQueue
}

/** Checked where nobody has that name, so that the answer takes as long as for a wrong password. */
const NOBODYS_HASH = `$scrypt$n=${COST.n},r=${COST.r},p=${COST.p}$${'A'.repeat(22)}$${'A'.repeat(86)}`

export const addressFrom = (event: H3Event) => addressOf(event.node.req.socket.remoteAddress)

/**
 * Signs somebody in, in place of the person who was signed in with this browser; throws a Failure where it is refused.
 */
export async function signInWith(
  event: H3Event,
  { database, tries, hashes }: Desk,
  { signIn, password }: SignIn,
  now: () => number,
): Promise<Person> {
  const found = findPerson(database, signIn)
  const address = addressFrom(event)
  const secret = deviceCookie.read(event)
  const digest = secret === null ? null : digestOf(secret)
  const isKnown = found !== undefined && digest !== null && isKnownDevice(database, digest, found.id, now())
  const [origin, lane] = [{ address, device: isKnown ? digest : null }, isKnown ? 'known' : 'strange'] as const
  // A password may have been typed as a name: only names that exist are logged.
  const log = (event: 'too-many-tries' | 'wrong-password' | 'unknown-name' | 'signed-in') =>
    logSecurity(database, { event, by: found?.name ?? null, address }, now())

  hashes.requireRoom(lane)
  await tries.begin(signIn, origin).catch((error) => {
    if (error instanceof Failure) log('too-many-tries')
    throw error
  })
  const isRight = await hashes.fits(found?.passwordHash ?? NOBODYS_HASH, password, lane, address)
  // An older hash takes less time; the time of the answer must not reveal which names exist.
  if (!isRight && found && isOfOldCost(found.passwordHash)) await hashes.fits(NOBODYS_HASH, password, lane, address)
  const still = findPerson(database, signIn)
  // The password may have been changed or the access removed in the meantime.
  if (!isRight || !found || still?.passwordHash !== found.passwordHash) {
    log(found ? 'wrong-password' : 'unknown-name')
    throw new Failure('wrong-sign-in', 'That name and password do not belong together.', {
      fields: [{ path: 'password', message: 'does not fit this name' }],
    })
  }
  await tries.wasRight(signIn, origin)
  if (isOfOldCost(found.passwordHash)) await renewHash(database, hashes, found, password)
  openSession(event, database, found.id, now())
  log('signed-in')
  return { id: found.id, name: found.name, signIn: found.signIn, role: still.role }
}

/** Replaces a hash of an earlier version while the password is known; if that fails, the old one still fits. */
async function renewHash(
  database: Database,
  hashes: HashQueue,
  { id, signIn, passwordHash }: { id: number; signIn: string; passwordHash: string },
  password: string,
): Promise<void> {
  try {
    const renewed = await hashes.hash(password)
    if (findPerson(database, signIn)?.passwordHash === passwordHash) setPassword(database, id, renewed)
  } catch (error) {
    logFault(error)
  }
}

/** Starts a session in this browser, in place of its earlier one; the browser is known from now on. */
export function openSession(event: H3Event, database: Database, personId: number, now: number): void {
  const before = sessionCookie.read(event)
  const device = deviceCookie.read(event) ?? newSecret()
  const secret = database.transaction(
    (handle) => {
      const old = before === null ? null : findSession(database, before)
      if (old) endSession(handle, old.id)
      rememberDevice(handle, digestOf(device), personId, now)
      const agent = getRequestHeader(event, 'user-agent') ?? ''
      return beginSession(handle, personId, { address: addressFrom(event), agent }, now)
    },
    { behavior: 'immediate' },
  )
  sessionCookie.write(event, secret)
  deviceCookie.write(event, device)
  tellSessionsChanged()
}
