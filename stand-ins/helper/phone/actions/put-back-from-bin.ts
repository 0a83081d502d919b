import { keepOf, visible } from '../../holding'
import { need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Phone } from '../../things'
import { putRecords } from '../apps'
import { isOpen } from '../state'

export const putBackFromBin: ActionRule<Phone> = {
  title: 'Restore from a bin',
  says: 'Moves items from a bin back to where they were.',
  wantsFrom: true,
  isOffered: (phone) => phone.stage === 'in-use',
  needs: (phone) => [need('passcode', isOpen(phone), 'The passcode is entered.')],
  effects: () => NO_EFFECTS,
  minutes: () => 0,
  advance: (phone, world, task) => {
    const bin = keepOf(phone, task.parameters.from.split('/')[1] ?? '')
    const chosen = new Set(task.parameters.items)
    const back = visible(bin, world.now).filter((one) => chosen.has(one.id))
    const records = back.flatMap((one) => (one.record ? [one.record] : []))
    if (records.length > 0) putRecords(phone, world, records)
    const home = phone.keeps.find((one) => one.id === (bin.types.includes('photos') ? 'library' : 'files'))
    for (const one of back.filter((found) => !found.record))
      home?.items.push({ ...one, deleted: null, presence: 'present' })
    bin.items = bin.items.filter((one) => !back.includes(one))
    phone.revision++
    task.says = `${back.length} are back where they were.`
  },
}
