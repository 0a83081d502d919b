import { z } from 'zod'
import { Person } from '~~/core/people/person'

/** Who has signed in on this machine, the latest first, to be offered by name. */
const KNOWN_KEY = 'lantern:people'
const MAX_KNOWN = 8
const Known = z.array(Person.pick({ id: true, name: true, signIn: true }))
export type KnownPerson = z.infer<typeof Known>[number]

export function knownPeople(): KnownPerson[] {
  try {
    return Known.parse(JSON.parse(localStorage.getItem(KNOWN_KEY) ?? '[]'))
  } catch {
    return []
  }
}

export function rememberPerson({ id, name, signIn }: KnownPerson): void {
  const others = knownPeople().filter((one) => one.id !== id)
  localStorage.setItem(KNOWN_KEY, JSON.stringify([{ id, name, signIn }, ...others].slice(0, MAX_KNOWN)))
}
