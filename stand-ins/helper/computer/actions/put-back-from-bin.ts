import { keepOf, visible } from '../../holding'
import { NO_EFFECTS, type ActionRule } from '../../rules'
import type { Computer } from '../../things'

export const putBackFromBin: ActionRule<Computer> = {
  title: 'Restore from the bin',
  says: 'Moves files from the bin back to where they were.',
  wantsFrom: true,
  isOffered: (computer) => computer.keeps.some((one) => one.kind === 'bin'),
  needs: () => [],
  effects: () => NO_EFFECTS,
  minutes: () => 0,
  advance: (computer, world, task) => {
    const bin = keepOf(computer, task.parameters.from.split('/')[1] ?? '')
    const home = computer.keeps.find((one) => one.id === 'files')
    const chosen = new Set(task.parameters.items)
    const back = visible(bin, world.now).filter((one) => chosen.has(one.id))
    for (const one of back) home?.items.push({ ...one, deleted: null, presence: 'present' })
    bin.items = bin.items.filter((one) => !back.includes(one))
    computer.revision++
    task.says = `${back.length} are back where they were.`
  },
}
