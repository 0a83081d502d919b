import { EnterAnswer } from '../../../core/people/session'
import { SignIn } from '../../../core/people/person'
import { signInWith } from '../../people/sign-in'

/** Signs somebody in, in place of the person who was signed in with this browser. */
export default defineOpenRoute({ answers: EnterAnswer, body: SignIn }, async ({ event, body }) => {
  const lantern = useLantern()
  return { person: await signInWith(event, lantern, body, lantern.clock.now) }
})
