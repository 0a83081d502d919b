import type { H3Event } from 'h3'
import type { Person } from '../../core/people/person'
import { logSecurity, type Happened } from './security-log'
import { addressFrom } from './sign-in'

/** Notes in the security log what a signed-in person has changed. */
export function logForPerson(
  event: H3Event,
  { name }: Pick<Person, 'name'>,
  happened: Pick<Happened, 'event' | 'about'>,
) {
  const { database, clock } = useLantern()
  logSecurity(database, { ...happened, by: name, address: addressFrom(event) }, clock.now())
}
