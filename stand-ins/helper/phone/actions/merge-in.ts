import type { ActionParameters } from '../../../../core/bench/action'
import { countedIn, keepOf, lotsOf, missingFrom, visible } from '../../holding'
import { isBusy, need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Phone, World } from '../../things'
import { putRecords } from '../apps'
import { isOpen } from '../state'

export const mergeIn: ActionRule<Phone> = {
  title: 'Merge contacts in',
  says: 'Adds the contacts that it does not have; nothing on it is replaced.',
  wantsFrom: true,
  isOffered: (phone) => phone.stage === 'in-use',
  needs: (phone) => [
    need('passcode', isOpen(phone), 'The passcode is entered.'),
    need('idle', !isBusy(phone), 'Nothing else is going on with it.'),
  ],
  effects: (phone, world, parameters) => ({ ...NO_EFFECTS, back: lotsOf(missingContacts(phone, world, parameters)) }),
  minutes: () => 1,
  advance: (phone, world, task) => {
    const missing = missingContacts(phone, world, task.parameters)
    putRecords(
      phone,
      world,
      missing.map((one) => JSON.parse(one.key)),
    )
    task.says = `${missing.length} contacts were added.`
  },
}

function missingContacts(phone: Phone, world: World, { from }: Pick<ActionParameters, 'from'>) {
  const [holder = '', keepId = ''] = from.split('/')
  const thing = world.things.get(holder)
  if (!thing) return []
  const source = keepOf(thing, keepId)
  const own = countedIn(phone.keeps, world.contents)
  return missingFrom(
    own,
    countedIn([{ ...source, kind: 'files', items: visible(source, world.now) }], world.contents),
  ).filter((one) => one.type === 'contacts')
}
