import type { ActionName, ActionParameters, Effects, Precondition } from '../../core/bench/action'
import type { Answer, LinkState } from '../../core/bench/state'
import type { StoredKeep, StoredTask, Thing, World } from './things'

/** What an action needs and does on one kind of thing. */
export interface ActionRule<One extends Thing> {
  readonly title: string
  readonly says: string
  readonly wantsFrom: boolean
  /** whether this one has it at all */
  readonly isOffered: (thing: One, world: World) => boolean
  readonly needs: (thing: One, world: World, parameters: ActionParameters) => Precondition[]
  readonly effects: (thing: One, world: World, parameters: ActionParameters) => Effects
  readonly minutes: (thing: One, world: World, parameters: ActionParameters) => number
  /** steps in which it goes forward; 1 where all of it happens at the end */
  readonly steps?: (thing: One, world: World, parameters: ActionParameters) => number
  /** does the steps from `from` up to `to`, of `task.total` */
  readonly advance: (thing: One, world: World, task: StoredTask, from: number, to: number) => void
}

/** How one kind of thing behaves. */
export interface Behaviour<One extends Thing> {
  state(
    thing: One,
    world: World,
  ): Omit<LinkState, 'actions' | 'tasks' | 'mark' | 'now' | 'id' | 'kind' | 'title' | 'isStandIn'>
  /** throws a LinkFailure where the answer is wrong or comes at the wrong time */
  answer(thing: One, world: World, answer: Answer): void
  /** throws a LinkFailure where a keep cannot be listed yet */
  opened(thing: One, world: World, keep: StoredKeep): void
  readonly actions: Partial<Record<ActionName, ActionRule<One>>>
  /** what happens by itself between two moments, ms */
  live(thing: One, world: World, from: number, to: number): void
}

export const NO_EFFECTS: Effects = { erases: false, gone: [], back: [], replacesBackup: null }

export const need = (name: Precondition['name'], isMet: boolean, says: string): Precondition => ({ name, isMet, says })

/** Whether anything of a thing is being worked on. */
export const isBusy = (thing: Thing) => thing.tasks.some((task) => task.state === 'running')
