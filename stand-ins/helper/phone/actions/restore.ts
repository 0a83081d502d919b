import { backupNamed } from '../../backups'
import { countedIn, lotsOf, missingFrom } from '../../holding'
import { need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Phone } from '../../things'
import { eraseAll } from '../erasing'
import { commonNeeds, isOpen } from '../state'

const RESTORE_MINUTES = 12

export const restore: ActionRule<Phone> = {
  title: 'Restore the whole device from a backup',
  says: 'Erases everything on it and sets it up again as it was when the backup was made.',
  wantsFrom: true,
  isOffered: () => true,
  needs: (phone, world, parameters) => {
    const named = parameters.from === '' ? null : backupNamed(world, parameters)
    const holder = named ? world.things.get(named.holder) : null
    const bytes =
      named?.backup.keeps.reduce((sum, keep) => sum + keep.items.reduce((all, one) => all + one.bytes, 0), 0) ?? 0
    return [
      ...commonNeeds(phone),
      need('passcode', isOpen(phone), 'The passcode is entered.'),
      ...(holder?.kind === 'account'
        ? [
            need('account', holder.stage === 'in', 'The account that holds the backup is signed in.'),
            need('network', phone.isOnline, 'It is on the network, to fetch the backup.'),
          ]
        : []),
      ...(named
        ? [need('kind', named.backup.platform === phone.platform, 'The backup is of this family of devices.')]
        : []),
      ...(named?.backup.password
        ? [need('password', parameters.password === named.backup.password, 'The backup opens with its password.')]
        : []),
      need(
        'room',
        bytes <= phone.room.capacity - phone.room.other && !phone.faults.isFull,
        'There is room for what the backup holds.',
      ),
    ]
  },
  effects: (phone, world, parameters) => {
    const now = countedIn(phone.keeps, world.contents)
    if (parameters.from === '') return { ...NO_EFFECTS, erases: true, gone: lotsOf(now) }
    const then = countedIn(backupNamed(world, parameters).backup.keeps, world.contents)
    return {
      erases: true,
      gone: lotsOf(missingFrom(then, now)),
      back: lotsOf(missingFrom(now, then)),
      replacesBackup: null,
    }
  },
  minutes: () => RESTORE_MINUTES,
  advance: (phone, world, task) => {
    const { backup } = backupNamed(world, task.parameters)
    eraseAll(phone)
    for (const keep of backup.keeps) {
      const own = phone.keeps.find((one) => one.id === keep.id)
      if (own) own.items = keep.items.map((one) => ({ ...one }))
    }
    phone.stage = 'in-use'
    phone.isUnlocked = true
    phone.trusts = ['bench']
    task.says = `It is as it was on ${backup.taken.slice(0, 10)}.`
  },
}
