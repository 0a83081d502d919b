import { z } from 'zod'
import { name } from '../cases/shape/fact'

export const ROLES = ['owner', 'technician', 'counter'] as const
export type Role = (typeof ROLES)[number]

/** What people do here; the table below says which roles may do it. */
export const DEEDS = ['see', 'log', 'work', 'close', 'people', 'playbook'] as const
export type Deed = (typeof DEEDS)[number]

const MAY: Record<Role, readonly Deed[]> = {
  owner: DEEDS,
  technician: ['see', 'log', 'work', 'close'],
  counter: ['see', 'log'],
}

/**
 * True where people of this role may do it: counter staff see cases and log them, technicians also work at the bench with
 * what clients brought, and owners keep the staff and the playbook.
 */
export function may(role: Role, deed: Deed): boolean {
  return MAY[role].includes(deed)
}

const signInName = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z][a-z0-9.-]{1,29}$/, 'is not a sign-in name (2 to 30 letters, digits, dots or hyphens)')

/** The minimum length of a password; length protects better than rules about its characters. */
export const MIN_PASSWORD = 10
const newPassword = z
  .string()
  .min(MIN_PASSWORD, `is shorter than ${MIN_PASSWORD} characters`)
  .max(200, 'is longer than 200 characters')

export const NewPerson = z.object({ name: name(80), signIn: signInName, password: newPassword, role: z.enum(ROLES) })
export type NewPerson = z.infer<typeof NewPerson>

export const NewPassword = NewPerson.pick({ password: true })

export const NewRole = NewPerson.pick({ role: true })

/** A new password of one's own: somebody passing an open bench does not know the old one. */
export const OwnPassword = z.object({ old: z.string().min(1, 'is empty').max(200), password: newPassword })

export const Person = z.object({ id: z.int(), name: z.string(), signIn: z.string(), role: z.enum(ROLES) })
export type Person = z.infer<typeof Person>

/** The staff of the shop. */
export const Staff = z.array(Person)

export const SignIn = z.object({
  signIn: z.string().trim().toLowerCase().min(1, 'is empty').max(60),
  password: z.string().min(1, 'is empty').max(200),
})
export type SignIn = z.infer<typeof SignIn>

/** "IM" for Ines Moreau. */
export function initialsOf(person: Pick<Person, 'name'>): string {
  const words = person.name.split(/\s+/).filter((word) => word !== '')
  const letters = words.length > 1 ? [words[0]!, words.at(-1)!] : [words[0] ?? '?']
  return letters.map((word) => word.charAt(0).toUpperCase()).join('')
}
