import { keepOf, visible } from '../../holding'
import { need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Account } from '../../things'

export const putBackFromBin: ActionRule<Account> = {
  title: 'Restore from a bin',
  says: 'Moves items from a bin of the account to where they were.',
  wantsFrom: true,
  isOffered: (account) => account.keeps.some((one) => one.kind === 'bin'),
  needs: (account) => [need('account', account.stage === 'in', 'The account is signed in.')],
  effects: () => NO_EFFECTS,
  minutes: () => 0,
  advance: (account, world, task) => {
    const bin = keepOf(account, task.parameters.from.split('/')[1] ?? '')
    const home = account.keeps.find((one) => one.id === bin.id.replace(/-bin$/, ''))
    const chosen = new Set(task.parameters.items)
    const back = visible(bin, world.now).filter((one) => chosen.has(one.id))
    for (const one of back) home?.items.push({ ...one, deleted: null, presence: 'present' })
    bin.items = bin.items.filter((one) => !back.includes(one))
    account.revision++
    task.says = `${back.length} are back where they were.`
  },
}
