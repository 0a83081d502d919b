import { SignIn } from '../../../core/people/person'
import { Failure } from '../../failure'
import { findPerson } from '../../people/store'

/** Checked when nobody has that name, so that the answer takes as long as for a wrong password. */
let nobodysHash: Promise<string> | null = null

export default defineOpenRoute({ body: SignIn }, async ({ event, body, now }) => {
  const { database, tries } = useLantern()
  const wait = tries.secondsToWait(body.signIn, now)
  if (wait > 0) throw new Failure('too-many-tries', `Too many wrong passwords; try again in ${wait} seconds.`)
  const found = findPerson(database, body.signIn)
  nobodysHash ??= hashPassword('nobody has this password')
  const isRight = await verifyPassword(found?.passwordHash ?? (await nobodysHash), body.password)
  if (!found || !isRight) {
    tries.wasWrong(body.signIn, now)
    throw new Failure('wrong-sign-in', 'That name and password do not belong together.', {
      fields: [{ path: 'password', message: 'does not fit this name' }],
    })
  }
  tries.wasRight(body.signIn)
  const person = { id: found.id, name: found.name, signIn: found.signIn, role: found.role }
  await replaceUserSession(event, { user: person })
  return { person }
})
