import { isBusy, need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Phone } from '../../things'
import { isOpen } from '../state'

const READ_MINUTES = 2

export const readApps: ActionRule<Phone> = {
  title: 'Read its app databases',
  says: 'Copies the databases of its apps, live and deleted rows alike. Nobody may touch the device until it is done.',
  wantsFrom: false,
  isOffered: (phone) => phone.stage === 'in-use' && phone.keeps.some((one) => one.kind === 'apps'),
  needs: (phone) => [
    need('idle', !isBusy(phone), 'Nothing else is going on with it.'),
    need('passcode', isOpen(phone), 'It is unlocked, or spoken to through a computer that it trusts.'),
    phone.debugging === null
      ? need('kind', phone.via !== null || phone.trusts.includes('bench'), 'It trusts this computer.')
      : need('kind', phone.debugging, 'Its debugging switch is on.'),
  ],
  effects: () => NO_EFFECTS,
  minutes: () => READ_MINUTES,
  advance: (phone, _, task) => {
    phone.appsRead = true
    task.says = 'The databases of its apps have been read.'
  },
}
