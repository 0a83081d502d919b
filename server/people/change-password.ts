import type { H3Event } from 'h3'
import type { z } from 'zod'
import type { OwnPassword, Person } from '../../core/people/person'
import { invalid, refused } from '../failure'
import { requireStrong } from './common-passwords'
import { forgetDevices } from './known-devices'
import { addressFrom, type Desk } from './sign-in'
import { endSessionsOf, tellSessionsChanged, type FoundSession } from './sessions'
import { findPersonById, setPassword } from './store'

/** Sets one's own password, given the present one. Wrong guesses count like those at sign-in. */
export async function changeOwnPassword(
  event: H3Event,
  { database, hashes, tries }: Desk,
  { id, person }: FoundSession,
  { old, password }: z.infer<typeof OwnPassword>,
): Promise<void> {
  requireStrong(password, person)
  const origin = { address: addressFrom(event), device: `session ${id}` }
  await tries.begin(person.signIn, origin)
  const before = findPersonById(database, person.id)!.passwordHash
  if (!(await hashes.fits(before, old, 'known', origin.address)))
    throw invalid([{ path: 'old', message: 'is not your password' }])
  await tries.wasRight(person.signIn, origin)
  const hash = await hashes.hash(password)
  database.transaction(() => {
    if (findPersonById(database, person.id)?.passwordHash !== before)
      throw refused('The password was changed in the meantime.')
    setPassword(database, person.id, hash)
    endSessionsOf(database, person.id)
  })
  tellSessionsChanged()
}

/** Sets somebody else's password: their sessions end, and their browsers are no longer known. */
export async function setPasswordOf(
  { database, hashes }: Pick<Desk, 'database' | 'hashes'>,
  person: Person,
  password: string,
): Promise<void> {
  requireStrong(password, person)
  replacePassword({ database }, person.id, await hashes.hash(password))
  tellSessionsChanged()
}

/** Stores a password, already hashed, and ends every session that used the old one, in one transaction. */
export function replacePassword({ database }: Pick<Desk, 'database'>, personId: number, hash: string): void {
  database.transaction(() => {
    setPassword(database, personId, hash)
    endSessionsOf(database, personId)
    forgetDevices(database, personId)
  })
}
