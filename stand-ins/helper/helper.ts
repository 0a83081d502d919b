import type { ActionName, ActionOffer, ActionParameters, Task } from '../../core/bench/action'
import { MINUTE_MS } from '../../core/cases/shape/moment'
import { linkFailure } from '../../core/bench/fault'
import { linkItem, type ItemPage, type LinkItem } from '../../core/bench/item'
import type { PutBack } from '../../core/bench/link'
import type { Answer, LinkState, LinkSummary } from '../../core/bench/state'
import { accountBehaviour } from './account/account'
import { computerBehaviour } from './computer/computer'
import { contentOf, itemOf, itemView, keepOf, visible } from './holding'
import { phoneBehaviour } from './phone/phone'
import { putBackInto } from './putting-back'
import type { ActionRule, Behaviour } from './rules'
import type { Faults, StoredBackup, StoredTask, Thing, World } from './things'

/** Items that one page of a list holds. */
const PAGE = 500

const BEHAVIOURS = { phone: phoneBehaviour, account: accountBehaviour, computer: computerBehaviour }
const behaviourOf = (thing: Thing) => BEHAVIOURS[thing.kind] as unknown as Behaviour<Thing>

export function summaryOf(thing: Thing): LinkSummary {
  return {
    id: thing.id,
    kind: thing.kind,
    title: thing.title,
    platform: thing.kind === 'account' ? 'account' : thing.platform,
    isStandIn: true,
  }
}

export function thingOf(world: World, id: string): Thing {
  const thing = world.things.get(id)
  if (!thing) throw linkFailure('not-found', 'Nothing with this name is connected.')
  return thing
}

/** Advances to the present: nightly backups, tasks, expiry of bins. */
export function liveOn(world: World): void {
  for (const thing of world.things.values()) {
    if (world.now <= thing.lived) continue
    const from = thing.lived
    thing.lived = world.now
    for (const task of thing.tasks) if (task.state === 'running') goOn(thing, world, task)
    behaviourOf(thing).live(thing, world, from, world.now)
  }
}

function goOn(thing: Thing, world: World, task: StoredTask) {
  const rule = ruleOf(thing, task.action)
  const fraction = task.ends <= task.begun ? 1 : Math.min(1, (world.now - task.begun) / (task.ends - task.begun))
  const to = fraction === 1 ? task.total : Math.floor(task.total * fraction)
  if (to > task.done) {
    rule.advance(thing, world, task, task.done, to)
    task.done = to
  }
  if (to < task.total || task.state !== 'running') return
  task.state = 'done'
}

export function stateOf(world: World, thing: Thing): LinkState {
  const behaviour = behaviourOf(thing)
  const state = behaviour.state(thing, world)
  const offers =
    state.state === 'lost' || state.state === 'asleep'
      ? []
      : (Object.keys(behaviour.actions) as ActionName[]).filter((name) =>
          behaviour.actions[name]!.isOffered(thing, world),
        )
  return {
    ...summaryOf(thing),
    ...state,
    actions: offers.map((name) => offerOf(world, thing, name, NO_PARAMETERS)),
    tasks: thing.tasks.map(taskView),
    mark: `${thing.revision}.${thing.keeps.reduce((sum, one) => sum + visible(one, world.now).length, 0)}`,
    now: new Date(world.now).toISOString(),
  }
}

export const NO_PARAMETERS: ActionParameters = { from: '', password: '', items: [], types: [] }

export function answerTo(world: World, thing: Thing, answer: Answer): void {
  behaviourOf(thing).answer(thing, world, answer)
}

const backupOf = (thing: Thing, keepId: string) => thing.backups.find((one) => `backup.${one.id}` === keepId) ?? null

/** Whether a keep is a backup whose archive has still to be made before it can be listed or read. */
export function archiveToMake(thing: Thing, keepId: string): StoredBackup | null {
  const backup = backupOf(thing, keepId)
  return backup && backup.archive === null ? backup : null
}

export function pageOf(world: World, thing: Thing, keepId: string, after: number): ItemPage {
  const backup = backupOf(thing, keepId)
  if (backup) {
    assertOpen(world, thing)
    return { items: [archiveItem(backup)], next: null }
  }
  const keep = keepOf(thing, keepId)
  behaviourOf(thing).opened(thing, world, keep)
  const items = visible(keep, world.now)
  return {
    items: items.slice(after, after + PAGE).map((item) => itemView(keep, item)),
    next: after + PAGE < items.length ? after + PAGE : null,
  }
}

/** A link whose backups are read has to be open like for anything else. */
function assertOpen(world: World, thing: Thing) {
  const { state, says } = behaviourOf(thing).state(thing, world)
  if (state === 'lost') throw linkFailure('lost', says)
  if (state !== 'ready') throw linkFailure('not-ready', says)
}

function archiveItem(backup: StoredBackup): LinkItem {
  return linkItem({
    id: 'archive',
    name: `${backup.id}.zip`,
    type: 'files',
    mime: 'application/zip',
    bytes: backup.archiveBytes,
    made: backup.taken,
    whole: 'intact',
    sha256: backup.archive,
    opensAs: 'backup',
  })
}

/** The bytes of an item from an offset on, with what the line does to them. */
export function bytesOf(
  world: World,
  thing: Thing,
  keepId: string,
  itemId: string,
): { bytes: Uint8Array; dropAfter: number | null; bytesPerSecond: number | null } {
  const { faults } = thing
  const backup = backupOf(thing, keepId)
  let bytes: Uint8Array
  if (backup) {
    assertOpen(world, thing)
    if (!backup.isSelective)
      throw linkFailure('not-met', 'This backup can only be restored whole; it gives no file out.')
    bytes = world.contents.get(backup.archive!)
  } else {
    const keep = keepOf(thing, keepId)
    behaviourOf(thing).opened(thing, world, keep)
    bytes = contentOf(itemOf(keep, itemId, world.now), world.contents)
  }
  if (faults.corrupt.includes(itemId)) {
    bytes = bytes.slice()
    for (let at = Math.floor(bytes.length / 2); at < bytes.length; at += 7) bytes[at] = bytes[at]! ^ 0x55
  }
  const dropAfter = faults.dropAfter
  faults.dropAfter = null
  return { bytes, dropAfter, bytesPerSecond: faults.slow ?? (thing.kind === 'account' ? thing.bytesPerSecond : null) }
}

export function putBack(world: World, thing: Thing, keepId: string, what: PutBack): void {
  const keep = keepOf(thing, keepId)
  behaviourOf(thing).opened(thing, world, keep)
  putBackInto(world, thing, keep, what)
  thing.revision++
}

function ruleOf(thing: Thing, action: ActionName): ActionRule<Thing> {
  const rule = behaviourOf(thing).actions[action]
  if (!rule) throw linkFailure('not-found', 'It has no such action.')
  return rule
}

export function offerOf(world: World, thing: Thing, action: ActionName, parameters: ActionParameters): ActionOffer {
  const rule = ruleOf(thing, action)
  return {
    action,
    title: rule.title,
    says: rule.says,
    wantsFrom: rule.wantsFrom,
    needs: rule.needs(thing, world, parameters),
    effects: rule.effects(thing, world, parameters),
    minutes: rule.minutes(thing, world, parameters),
  }
}

export function act(world: World, thing: Thing, action: ActionName, parameters: ActionParameters): Task {
  const rule = ruleOf(thing, action)
  const { state, says } = behaviourOf(thing).state(thing, world)
  if (['lost', 'asleep'].includes(state)) throw linkFailure(state === 'lost' ? 'lost' : 'not-ready', says)
  if (!rule.isOffered(thing, world)) throw linkFailure('not-met', 'That cannot be done in its present state.')
  if (rule.wantsFrom && parameters.from === '') throw linkFailure('bad-request', 'Choose what to take it from.')
  const unmet = rule.needs(thing, world, parameters).filter((one) => !one.isMet)
  if (unmet.length > 0) throw linkFailure('not-met', `Not ready yet: ${unmet.map((one) => one.says).join(' ')}`)
  const task: StoredTask = {
    id: `t${thing.tasks.length + 1}`,
    action,
    title: rule.title,
    state: 'running',
    begun: world.now,
    ends: Math.round(world.now + rule.minutes(thing, world, parameters) * MINUTE_MS),
    done: 0,
    total: rule.steps?.(thing, world, parameters) ?? 1,
    says: 'It continues by itself.',
    // The password is left out: it was already checked.
    parameters: { from: parameters.from, items: parameters.items, types: parameters.types },
  }
  thing.tasks = [...thing.tasks.slice(-150), task]
  goOn(thing, world, task)
  return taskView(task)
}

function taskView(task: StoredTask): Task {
  return {
    id: task.id,
    action: task.action,
    title: task.title,
    state: task.state,
    begun: new Date(task.begun).toISOString(),
    ends: new Date(task.ends).toISOString(),
    done: task.done,
    total: task.total,
    says: task.says,
  }
}

export function setFaults(thing: Thing, faults: Partial<Faults>): void {
  thing.faults = { ...thing.faults, ...faults }
}
