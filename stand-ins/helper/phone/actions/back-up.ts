import { pushedOut } from '../../backups'
import { need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Phone } from '../../things'
import { backUpNow } from '../nightly'
import { accountOf, commonNeeds } from '../state'

export const backUp: ActionRule<Phone> = {
  title: 'Back up into its account',
  says: 'Makes a backup in the account that it is signed in to.',
  wantsFrom: false,
  isOffered: (phone) => phone.nightly.account !== null && phone.stage === 'in-use',
  needs: (phone) => [...commonNeeds(phone), need('network', phone.isOnline, 'It is on the network.')],
  effects: (phone, world) => {
    const account = accountOf(world, phone.nightly.account)
    const out = account ? pushedOut(account.backups, phone.id, phone.nightly.slots) : null
    return { ...NO_EFFECTS, replacesBackup: out ? `backup.${out.id}` : null }
  },
  minutes: () => 6,
  advance: (phone, world, task) => {
    backUpNow(phone, world, task.ends)
    task.says = 'The backup is made.'
  },
}
