import { z } from 'zod'
import { name } from '../cases/fact'

export const ROLES = ['owner', 'technician', 'counter'] as const
export type Role = (typeof ROLES)[number]

/** What people do here; which role may do it is said once, below. */
export type Deed = 'log' | 'work' | 'close' | 'people' | 'playbook'

const MAY: Record<Role, readonly Deed[]> = {
  owner: ['log', 'work', 'close', 'people', 'playbook'],
  technician: ['log', 'work', 'close'],
  counter: ['log'],
}

/** True where people of this role may do it: counter staff log and look, technicians work, owners also keep the people. */
export function may(role: Role, deed: Deed): boolean {
  return MAY[role].includes(deed)
}

const signInName = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z][a-z0-9.-]{1,29}$/, 'is not a sign-in name (2 to 30 letters, digits, dots or hyphens)')

/** The least length of a password; length protects better than rules about its characters. */
export const LEAST_PASSWORD = 10
const newPassword = z
  .string()
  .min(LEAST_PASSWORD, `is shorter than ${LEAST_PASSWORD} characters`)
  .max(200, 'is longer than 200 characters')

export const NewPerson = z.object({ name: name(80), signIn: signInName, password: newPassword, role: z.enum(ROLES) })
export type NewPerson = z.infer<typeof NewPerson>

export const NewPassword = NewPerson.pick({ password: true })

export const Person = z.object({ id: z.int(), name: z.string(), signIn: z.string(), role: z.enum(ROLES) })
export type Person = z.infer<typeof Person>

export const SignIn = z.object({
  signIn: z.string().trim().toLowerCase().min(1, 'is empty').max(60),
  password: z.string().min(1, 'is empty').max(200),
})

/** "IM" for Ines Moreau. */
export function initialsOf(person: Pick<Person, 'name'>): string {
  const words = person.name.split(/\s+/).filter((word) => word !== '')
  const letters = words.length > 1 ? [words[0]!, words.at(-1)!] : [words[0] ?? '?']
  return letters.map((word) => word.charAt(0).toUpperCase()).join('')
}
