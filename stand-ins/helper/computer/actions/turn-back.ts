import { linkFailure } from '../../../../core/bench/fault'
import { countedIn, lotsOf, missingFrom } from '../../holding'
import { NO_EFFECTS, type ActionRule } from '../../rules'
import type { Computer, StoredKeep } from '../../things'

const FOR_BOOKMARKS = 'bookmarks'

export const turnBack: ActionRule<Computer> = {
  title: 'Load an older state of the bookmarks',
  says: 'Replaces the bookmarks of today by those of the chosen archive.',
  wantsFrom: true,
  isOffered: (computer) => computer.keeps.some((one) => one.kind === 'earlier-state'),
  needs: () => [],
  effects: (computer, world, { from }) => {
    const then = stateNamed(computer, from)
    const current = computer.keeps.find((one) => one.id === FOR_BOOKMARKS)
    if (!then || !current) return NO_EFFECTS
    const now = countedIn([current], world.contents)
    const earlier = countedIn([then], world.contents)
    return { ...NO_EFFECTS, gone: lotsOf(missingFrom(earlier, now)), back: lotsOf(missingFrom(now, earlier)) }
  },
  minutes: () => 0,
  advance: (computer, _, task) => {
    const then = stateNamed(computer, task.parameters.from)
    const current = computer.keeps.find((one) => one.id === FOR_BOOKMARKS)
    if (!then || !current) throw linkFailure('not-found', 'That archive is not there.')
    current.items = then.items.map((one) => ({ ...one }))
    computer.revision++
    task.says = `There are ${current.items.length} bookmarks again.`
  },
}

function stateNamed(computer: Computer, from: string): StoredKeep | null {
  const id = from.split('/').at(-1)
  return computer.keeps.find((one) => one.kind === 'earlier-state' && one.id === id) ?? null
}
