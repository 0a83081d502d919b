import { createHash } from 'node:crypto'
import { beforeAll, describe, expect, it } from 'vitest'
import { DAY_MS, HOUR_MS, MINUTE_MS } from '../../core/cases/shape/moment'
import type { LinkFailure } from '../../core/bench/fault'
import type { Answer } from '../../core/bench/state'
import { act, answerTo, liveOn, NO_PARAMETERS, offerOf, pageOf, stateOf, thingOf } from '../../stand-ins/helper/helper'
import type { Contents, Phone, Thing, World } from '../../stand-ins/helper/things'
import { makeStandIns } from './make'

const NOW = Date.parse('2026-11-24T10:42:00Z')
const bytes = new Map<string, Uint8Array>()
const contents: Contents = {
  put: (content) => {
    const sha256 = createHash('sha256').update(content).digest('hex')
    bytes.set(sha256, content)
    return sha256
  },
  get: (sha256) => bytes.get(sha256)!,
}

let made: Thing[]
beforeAll(async () => {
  const wanted = [
    'korvane-3',
    'korvane-5',
    'korvane-air',
    'carrick-account',
    'pelloon-slate',
    'byrne-account',
    'guild-account',
    'ashby-account',
    'korvane-7',
  ]
  made = await makeStandIns(contents, NOW, 'Europe/London', new Set(wanted))
})

/** The bench as it is at first, on which time goes by. */
function bench() {
  const things = new Map(structuredClone(made).map((thing) => [thing.id, thing]))
  let now = NOW
  const world = (): World => ({ things, contents, now, zone: 'Europe/London' })
  return {
    thing: (id: string) => thingOf(world(), id),
    phone: (id: string) => thingOf(world(), id) as Phone,
    pass: (ms: number) => {
      now += ms
      liveOn(world())
    },
    state: (id: string) => stateOf(world(), thingOf(world(), id)),
    answer: (id: string, answer: Answer['answer'], value = '') =>
      answerTo(world(), thingOf(world(), id), { answer, value }),
    list: (id: string, keep: string) => pageOf(world(), thingOf(world(), id), keep, 0).items,
    offer: (id: string, action: Parameters<typeof act>[2], from = '') =>
      offerOf(world(), thingOf(world(), id), action, { ...NO_PARAMETERS, from }),
    act: (id: string, action: Parameters<typeof act>[2], from = '') =>
      act(world(), thingOf(world(), id), action, { ...NO_PARAMETERS, from }),
  }
}
const faultOf = (work: () => unknown) => {
  try {
    work()
  } catch (error) {
    return (error as LinkFailure).fault
  }
  return null
}

describe('stand-ins behave as the real things do', () => {
  it('bins run out by the clock, and one that was never switched on holds nothing', () => {
    const { list, pass, state, answer } = bench()
    const [file] = list('korvane-3', 'file-bin')
    expect(Date.parse(file!.goneAt!) - NOW).toBeLessThan(DAY_MS)
    pass(23 * HOUR_MS)
    expect(list('korvane-3', 'file-bin')).toEqual([])
    expect(list('korvane-3', 'photo-bin')).toHaveLength(9)
    answer('korvane-7', 'passcode', '190677')
    expect(state('korvane-7').keeps.find((keep) => keep.id === 'file-bin')).toMatchObject({ isOn: false, count: 0 })
  })

  it('the nightly backup takes the place of the good one, unless the device is kept off the network', () => {
    const away = bench()
    away.pass(3 * DAY_MS)
    expect(away.thing('byrne-account').backups.map((one) => one.id)).toEqual(['before', 'after'])

    const there = bench()
    there.answer('pelloon-slate', 'passcode', '140925')
    there.answer('pelloon-slate', 'charger', 'on')
    there.answer('pelloon-slate', 'network', 'on')
    there.pass(12 * HOUR_MS)
    expect(there.thing('byrne-account').backups.map((one) => one.id)).toEqual(['before', 'after'])
    there.pass(6 * HOUR_MS)
    const kept = there.thing('byrne-account').backups
    expect(kept).toHaveLength(2)
    expect(kept.map((one) => one.id)).not.toContain('before')
    expect(kept.at(-1)!.taken).toBe('2026-11-25T02:30:00.000Z')
  })

  it('sync restores what the cloud still holds, and passes on what was deleted in the meantime', () => {
    const { phone, thing, answer, offer, act: start, pass } = bench()
    const library = (id: string) => thing(id).keeps.find((keep) => keep.id === 'library')!.items
    const dropped = library('carrick-account')
      .slice(0, 3)
      .map((one) => one.id)
    phone('korvane-air').sync.deletions = dropped
    answer('korvane-air', 'passcode', '777123')
    answer('korvane-air', 'trust')
    answer('korvane-air', 'charger', 'on')
    answer('korvane-air', 'network', 'on')
    const before = library('carrick-account').length
    const { effects } = offer('korvane-air', 'sync-on')
    expect(effects.gone).toMatchObject([{ type: 'photos', count: 3 }])
    start('korvane-air', 'sync-on')
    pass(2 * MINUTE_MS)
    const half = library('korvane-air').length
    pass(30 * MINUTE_MS)
    expect(library('korvane-air').length).toBeGreaterThan(half)
    expect(library('carrick-account')).toHaveLength(before - 3)
    expect(
      thing('carrick-account')
        .keeps.find((keep) => keep.id === 'library-bin')!
        .items.map((one) => one.id),
    ).toEqual(dropped)
    // Where the deletion had synced, nothing is restored.
    const synced = phone('korvane-7')
    synced.sync.isOn = false
    expect(offer('korvane-7', 'sync-on').effects.back).toEqual([])
  })

  it('a passcode counted down to nothing erases everything', () => {
    const { answer, state, phone } = bench()
    for (const left of [3, 2, 1])
      expect(faultOf(() => answer('korvane-5', 'passcode', '000000'))).toMatchObject({
        fault: 'wrong-passcode',
        triesLeft: left,
      })
    expect(faultOf(() => answer('korvane-5', 'passcode', '000000'))).toMatchObject({
      fault: 'too-many-tries',
      triesLeft: 0,
    })
    expect(state('korvane-5').state).toBe('first-set-up')
    expect(phone('korvane-5').keeps.flatMap((keep) => keep.items)).toEqual([])
  })

  it('reading the rows of apps breaks off when somebody touches the phone', () => {
    const { answer, act: start, pass, list, state } = bench()
    answer('korvane-3', 'debugging')
    start('korvane-3', 'read-apps')
    pass(MINUTE_MS)
    answer('korvane-3', 'charger', 'on')
    pass(5 * MINUTE_MS)
    expect(state('korvane-3').tasks.at(-1)).toMatchObject({ state: 'failed' })
    expect(faultOf(() => list('korvane-3', 'apps'))).toMatchObject({ fault: 'not-ready' })
    start('korvane-3', 'read-apps')
    pass(3 * MINUTE_MS)
    expect(list('korvane-3', 'apps').map((one) => one.opensAs)).toEqual(['rows', 'rows', 'rows'])
  })

  it('an account ends its sessions, locks after wrong passwords, and lets the link of an export end', () => {
    const { answer, act: start, pass, state } = bench()
    for (let left = 4; left > 0; left--)
      expect(faultOf(() => answer('guild-account', 'password', 'x'))).toMatchObject({
        fault: 'wrong-password',
        triesLeft: left,
      })
    expect(faultOf(() => answer('guild-account', 'password', 'x'))).toMatchObject({ fault: 'too-many-tries' })
    expect(faultOf(() => answer('guild-account', 'password', 'hexagon-rose'))).toMatchObject({
      fault: 'too-many-tries',
    })
    pass(16 * MINUTE_MS)
    answer('guild-account', 'password', 'hexagon-rose')
    start('guild-account', 'ask-export')
    pass(61 * MINUTE_MS)
    expect(state('guild-account').state).toBe('signed-out')
    const exports = () => {
      answer('guild-account', 'password', 'hexagon-rose')
      return state('guild-account').keeps.filter((keep) => keep.kind === 'export').length
    }
    expect(exports()).toBe(0)
    pass(26 * HOUR_MS)
    expect(exports()).toBe(1)
    pass(4 * DAY_MS)
    expect(exports()).toBe(0)
  })
})
