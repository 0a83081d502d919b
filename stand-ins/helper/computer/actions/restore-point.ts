import { need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Computer } from '../../things'
import { freeBytes } from '../room'

export const restorePoint: ActionRule<Computer> = {
  title: 'Turn the system back to a restore point',
  says: 'Turns system files and settings back. It recovers no documents, and writes to the disk.',
  wantsFrom: true,
  isOffered: (computer) => computer.keeps.some((one) => one.kind === 'restore-point'),
  needs: (computer) => [need('room', freeBytes(computer) > 0, 'There is room on its disk.')],
  effects: () => NO_EFFECTS,
  minutes: () => 20,
  advance: (computer, _, task) => {
    computer.revision++
    task.says = 'System files and settings are as they were. No document came back.'
  },
}
