import { countedIn, lotsOf } from '../../holding'
import { need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Phone } from '../../things'
import { eraseAll } from '../erasing'
import { commonNeeds, isOpen } from '../state'

export const erase: ActionRule<Phone> = {
  title: 'Erase the device',
  says: 'Removes everything on it; it starts at its first screen.',
  wantsFrom: false,
  isOffered: (phone) => phone.stage === 'in-use',
  needs: (phone) => [...commonNeeds(phone), need('passcode', isOpen(phone), 'The passcode is entered.')],
  effects: (phone, world) => ({ ...NO_EFFECTS, erases: true, gone: lotsOf(countedIn(phone.keeps, world.contents)) }),
  minutes: () => 4,
  advance: (phone, _, task) => {
    eraseAll(phone)
    task.says = 'Everything on it is gone.'
  },
}
