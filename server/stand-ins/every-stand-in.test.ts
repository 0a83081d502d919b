import { createHash } from 'node:crypto'
import { beforeAll, describe, expect, it } from 'vitest'
import { ACTION_NAMES, ActionOffer } from '../../core/bench/action'
import { LinkItem } from '../../core/bench/item'
import { LinkState } from '../../core/bench/state'
import { NO_PARAMETERS, offerOf, pageOf, stateOf } from '../../stand-ins/helper/helper'
import type { Account, Contents, Phone, Thing, World } from '../../stand-ins/helper/things'
import { toldBy } from '../../stand-ins/helper/told'
import { standIns } from '../../stand-ins/things'
import { makeStandIns } from './make'

const NOW = Date.parse('2026-11-24T10:42:00Z')
const stored = new Map<string, Uint8Array>()
const contents: Contents = {
  put: (bytes) => {
    const sha256 = createHash('sha256').update(bytes).digest('hex')
    stored.set(sha256, bytes)
    return sha256
  },
  get: (sha256) => stored.get(sha256)!,
}
let world: World
beforeAll(async () => {
  const made = await makeStandIns(contents, NOW, 'Europe/London')
  world = { things: new Map(made.map((thing) => [thing.id, thing])), contents, now: NOW, zone: 'Europe/London' }
})

/** As it is once its owner has opened it. */
function open(thing: Thing): void {
  if (thing.kind === 'phone')
    Object.assign(thing, { isUnlocked: true, isAsleep: false, trusts: ['bench'] } satisfies Partial<Phone>)
  else if (thing.kind === 'account')
    Object.assign(thing, { stage: 'in', sessionEnds: NOW + 1 } satisfies Partial<Account>)
  else Object.assign(thing, { isSignedIn: true, isAsleep: false })
  if (thing.kind === 'phone') thing.appsRead = true
}

it('no two stand-ins share an id, and each part of a demo case has one stand-in', () => {
  const ids = standIns.map(({ id }) => id)
  expect(new Set(ids).size).toBe(ids.length)
  const parts = standIns.flatMap(({ standsFor }) => (standsFor ?? []).map(({ title, part }) => `${title} ${part}`))
  expect(new Set(parts).size).toBe(parts.length)
})

describe.each(standIns.map(({ id }) => id))('the stand-in %s', (id) => {
  it('gives its state, and its items once it is open', () => {
    const thing = world.things.get(id)!
    expect(() => LinkState.parse(stateOf(world, thing))).not.toThrow()
    expect(toldBy(thing).every((sentence) => sentence.endsWith('.'))).toBe(true)
    open(thing)
    const state = LinkState.parse(stateOf(world, thing))
    expect(state.keeps.length).toBeGreaterThan(0)
    for (const keep of state.keeps.filter(({ closed, kind }) => closed === null && kind !== 'backup')) {
      const { items } = pageOf(world, thing, keep.id, 0)
      expect(items.length, keep.id).toBe(keep.count)
      for (const item of items) {
        expect(() => LinkItem.parse(item)).not.toThrow()
        const { content } = thing.keeps.find((one) => one.id === keep.id)!.items.find((one) => one.id === item.id)!
        // An item's bytes match its length and checksum.
        if (content !== null) expect(contents.get(content).length, item.name).toBe(item.bytes)
      }
    }
  })

  it('says what each of its actions needs and does before it starts', (context) => {
    const thing = world.things.get(id)!
    const { actions } = stateOf(world, thing)
    if (actions.length === 0) context.skip()
    for (const { action } of actions) {
      const offer = ActionOffer.parse(offerOf(world, thing, action, NO_PARAMETERS))
      expect(offer.title, action).not.toBe('')
      expect(offer.says, action).toMatch(/\.$/)
    }
  })
})

it('every action is offered by a stand-in', () => {
  const offered = new Set(
    [...world.things.values()].flatMap((thing) => stateOf(world, thing).actions.map(({ action }) => action)),
  )
  expect(ACTION_NAMES.filter((name) => !offered.has(name))).toEqual([])
})
