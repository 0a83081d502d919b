import { need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Phone } from '../../things'
import { isOpen } from '../state'

export const syncOff: ActionRule<Phone> = {
  title: 'Switch sync off',
  says: 'Nothing more is sent; its contents stay.',
  wantsFrom: false,
  isOffered: (phone) => phone.sync.isOn,
  needs: (phone) => [need('passcode', isOpen(phone), 'The passcode is entered.')],
  effects: () => NO_EFFECTS,
  minutes: () => 0,
  advance: (phone, _, task) => {
    phone.sync.isOn = false
    task.says = 'Sync is off.'
  },
}
