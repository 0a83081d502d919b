import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { DATABASE, DataFault } from '../db/data-folder'
import { connect } from '../db/open'
import { replacePassword } from './change-password'
import { requireStrong } from './common-passwords'
import { hashPassword } from './password-hash'
import { logSecurity } from './security-log'
import { findPerson, listPeople } from './store'

/**
 * Sets a person's password from the shop's machine itself, for an owner who has lost theirs: anybody who may write to
 * the data folder may do this. Their sessions end, also while the server runs. Returns their name; throws an Error with
 * the reason.
 */
export function recoverPassword(folder: string, signIn: string, password: string, now: number): string {
  if (!existsSync(join(folder, DATABASE)))
    throw new DataFault(`There is no shop in ${folder}. Name its data folder: LANTERN_DATA=FOLDER`)
  const database = connect(folder)
  try {
    const isCurrent = database.$client.prepare("select 1 from sqlite_master where name = 'security_log'").get()
    if (!isCurrent)
      throw new DataFault('The shop was last opened by an earlier version. Start the server once, then try again.')
    const person = findPerson(database, signIn.trim().toLowerCase())
    if (!person) {
      const names = listPeople(database).map((one) => `${one.signIn} (${one.role})`)
      throw new DataFault(`Nobody signs in as ${signIn}. There is ${names.join(', ') || 'nobody yet'}.`)
    }
    requireStrong(password, person)
    const hash = hashPassword(password)
    database.transaction(() => {
      replacePassword({ database }, person.id, hash)
      logSecurity(database, { event: 'password-recovered', about: person.name }, now)
    })
    return person.name
  } finally {
    database.$client.close()
  }
}
