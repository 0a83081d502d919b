import { countedIn, lotsOf, missingFrom } from '../../holding'
import { need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Account } from '../../things'
import { stateNamed } from '../keeps'

const contactsOf = (account: Account) => account.keeps.find((one) => one.id === 'contacts')

export const turnBack: ActionRule<Account> = {
  title: 'Turn the contacts back to an earlier day',
  says: 'Replaces the contacts of today by those of the chosen day, on the account and on every device that syncs with it.',
  wantsFrom: true,
  isOffered: (account) => account.keeps.some((one) => one.kind === 'earlier-state'),
  needs: (account, world, { from }) => [
    need('account', account.stage === 'in', 'The account is signed in.'),
    ...(from === ''
      ? []
      : [need('kind', stateNamed(account, world, from) !== null, 'The account still has that day.')]),
  ],
  effects: (account, world, { from }) => {
    const then = from === '' ? null : stateNamed(account, world, from)
    const current = contactsOf(account)
    if (!then || !current) return NO_EFFECTS
    const now = countedIn([current], world.contents)
    const earlier = countedIn([then], world.contents)
    return { ...NO_EFFECTS, gone: lotsOf(missingFrom(earlier, now)), back: lotsOf(missingFrom(now, earlier)) }
  },
  minutes: () => 2,
  advance: (account, world, task) => {
    const then = stateNamed(account, world, task.parameters.from)
    const current = contactsOf(account)
    if (!then || !current) return
    current.items = then.items.map((one) => ({ ...one }))
    account.revision++
    task.says = `There are ${current.items.length} contacts again, as on ${then.asOf?.slice(0, 10)}.`
  },
}
