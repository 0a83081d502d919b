import { dictionary } from '@zxcvbn-ts/language-common'
import type { Person } from '../../core/people/person'
import { weakness } from '../../core/people/password'
import { invalid } from '../failure'

let common: ReadonlySet<string> | null = null

/** Refuses a new password that is easy to guess for this person; `path`: the field it was typed into. */
export function requireStrong(password: string, person: Pick<Person, 'name' | 'signIn'>, path = 'password'): void {
  common ??= new Set((dictionary['passwords-common'] as string[]).map((one) => one.toLowerCase()))
  const fault = weakness(password, { common, words: [person.name, person.signIn, 'russet lantern'] })
  if (fault) throw invalid([{ path, message: fault }])
}
