import { describe, expect, it } from 'vitest'
import { bindingsOf } from '../../playbook/bind'
import { defaultPlaybook } from '../../playbook/playbook'
import { DAY_MS } from '../../cases/shape/moment'
import { ago, ahead, caseWith, endedRun, NOW } from '../../testing/case-with'
import { axesOf } from '../situation/axis'
import { coverageOf } from '../figures/coverage/coverage'
import { gatesOf } from '../figures/gates'
import { lossRangeOf } from '../situation/loss-range'
import { mediumOf, optionOf } from '../figures/options'
import { situationOf } from '../situation/situation'
import { windowOf } from '../figures/windows/windows'

const playbook = defaultPlaybook()
const weights = playbook.shop.weights
type Facts = Record<string, unknown>

function bound(facts: Facts, id: string) {
  const ofCase = caseWith(facts)
  const binding = bindingsOf(ofCase, playbook).find((one) => one.id === id)
  if (!binding) throw new Error(`no ${id}`)
  return { binding, situation: situationOf(ofCase, playbook, NOW), axes: axesOf(ofCase, weights) }
}

describe('the axis of a wanted set', () => {
  it('has a slice for each day where that gives enough, else 24, and one for items without dates', () => {
    const slices = (made: unknown) =>
      axesOf(caseWith({ 'wanted.w1': { type: 'photos', made } }), weights)[0]!.slices.length
    expect([slices(ago(30, 5)), slices(ago(400, 5)), slices(ago(3, 1)), slices('unknown'), slices(ago(3))]).toEqual([
      25, 24, 24, 1, 1,
    ])
  })

  it('shares the worth over the sets alike, and must-haves weigh three times the rest', () => {
    const [plain, must] = axesOf(
      caseWith({ 'wanted.w1': { type: 'photos', mustHave: 'none' }, 'wanted.w2': { type: 'notes', mustHave: 'all' } }),
      weights,
    )
    expect(plain!.slices[0]!.worth).toBeCloseTo(75, 9)
    expect(must!.slices[0]!.worth).toBeCloseTo(225, 9)
  })

  it('a must-have range weighs only the slices in it', () => {
    const [axis] = axesOf(
      caseWith({ 'wanted.w1': { type: 'photos', made: ago(30, 10), mustHave: ago(20, 10) }, 'limits.worth': 400 }),
      weights,
    )
    expect(axis!.slices.reduce((sum, slice) => sum + slice.worth, 0)).toBeCloseTo(400, 9)
    expect(axis!.slices.at(-1)!.worth / axis!.slices[0]!.worth).toBeCloseTo(3, 9)
  })

  it('credits what a run recovered to the slices that it reached', () => {
    const begun = caseWith({ 'wanted.w1': { type: 'photos', count: 100, made: ago(30, 10) } })
    const reach = { w1: Array.from({ length: 20 }, (_, index) => (index < 10 ? 1 : 0)) }
    const run = endedRun([{ wanted: 'w1', back: 40, whole: 40, unverified: 0 }], {
      predicted: { chance: 1, share: 0.5, reach, gates: [], place: null },
    })
    const missing = axesOf({ ...begun, runs: [run] }, weights)[0]!.slices.map((slice) => slice.missing)
    expect(missing.slice(0, 10).every((value) => Math.abs(value - 0.2) < 1e-9)).toBe(true)
    expect(missing.slice(10).every((value) => value === 1)).toBe(true)
    const more = axesOf(
      { ...begun, runs: [{ ...run, results: [{ wanted: 'w1', back: 80, whole: 80, unverified: 0 }] }] },
      weights,
    )[0]!.slices.map((slice) => slice.missing)
    expect(more.reduce((sum, value) => sum + value, 0) / 20).toBeCloseTo(0.2, 9)
  })
})

describe('the loss range', () => {
  it('is never later than it was noticed, nor than now', () => {
    expect(lossRangeOf(caseWith({ 'loss.when': ago(10, 2), 'loss.noticed': ago(5) }), NOW)).toMatchObject({
      to: NOW - 5 * DAY_MS,
      isKnown: true,
    })
    expect(lossRangeOf(caseWith({ 'loss.when': ago(2, -3) }), NOW).to).toBe(NOW)
  })

  it('an unknown one falls after the newest items and within two months', () => {
    expect(lossRangeOf(caseWith({ 'wanted.w1': { made: ago(90, 20) } }), NOW)).toEqual({
      from: NOW - 20 * DAY_MS,
      to: NOW,
      isKnown: false,
    })
    expect(lossRangeOf(caseWith({}), NOW).from).toBe(NOW - 60 * DAY_MS)
  })
})

describe('gates', () => {
  const library = (copy: object, how = 'deleted-in-bulk') => ({
    'devices.d1': { kind: 'phone', platform: 'open-phone' },
    'wanted.w1': { type: 'photos' },
    'loss.how': how,
    'copies.c1': { kind: 'cloud-library', ...copy },
  })
  const backup = (copy: object) => ({
    'wanted.w1': { type: 'photos' },
    'copies.c1': { kind: 'computer-backup', ...copy },
  })
  const chance = (facts: Facts, id: string, gate: string) => {
    const { binding, situation } = bound(facts, id)
    return gatesOf(binding, situation).find((one) => one.factor.name === gate)!.factor.value[1]
  }

  it.each([
    ['on', 1, 0],
    ['off', 0, 1],
    ['thought-on', 0.65, 0.35],
  ])('sync %s: the bin has them with %d, the library kept them with %d', (sync, bin, kept) => {
    expect(chance(library({ sync }), 'cloud-library-bin:c1', 'sync-was-on')).toBe(bin)
    expect(chance(library({ sync }), 'cloud-library-kept:c1', 'sync-was-off')).toBe(kept)
  })

  it('after a loss that is no deletion, the library kept them whatever sync was', () => {
    expect(chance(library({ sync: 'on' }, 'broken'), 'cloud-library-kept:c1', 'sync-was-off')).toBe(1)
  })

  it.each([
    [{ encrypted: 'no' }, 1],
    [{ encrypted: 'yes', password: 'opened' }, 1],
    [{ encrypted: 'yes', password: 'thought-known' }, 0.75],
    [{ encrypted: 'yes', password: 'not-known' }, 0],
    [{ encrypted: 'yes' }, 0.55],
    [{}, 0.775],
  ])('a backup that is %j opens with %d', (copy, opens) =>
    expect(chance(backup(copy), 'backup-selective:c1', 'backup-password')).toBeCloseTo(opens, 9),
  )

  it('an unknown account is worth a reset, which takes minutes', () => {
    const { binding, situation } = bound(library({ account: 'not-known' }), 'cloud-library-bin:c1')
    const gate = gatesOf(binding, situation).find((one) => one.factor.name === 'account')!
    expect(gate).toMatchObject({ cureMinutes: 20, cure: 'Reset the account’s password with the client first' })
    expect(gate.factor.value[1]).toBe(0.75)
    expect(chance(library({ account: 'known' }), 'cloud-library-bin:c1', 'account')).toBe(1)
  })

  it('every gate has a sentence for each of its states', () => {
    for (const facts of [
      library({}),
      library({ sync: 'on', account: 'known' }),
      backup({}),
      {
        ...backup({ encrypted: 'no', selective: 'no' }),
        'devices.d1': { kind: 'phone', lock: 'locked', passcode: 'not-known', condition: 'wet' },
        'consent.erase.answer': 'refused',
      },
    ]) {
      const ofCase = caseWith(facts)
      for (const binding of bindingsOf(ofCase, playbook))
        for (const gate of gatesOf(binding, situationOf(ofCase, playbook, NOW)))
          expect(gate.factor.says(), gate.factor.name).toMatch(/^[A-Z].+\.$/)
    }
  })
})

describe('windows', () => {
  const versions = (replaced: unknown, more: Facts = {}) =>
    bound(
      {
        'devices.d1': { kind: 'laptop', platform: 'desktop-pc' },
        'wanted.w1': { type: 'documents' },
        'copies.c1': { kind: 'earlier-versions', replaced },
        ...more,
      },
      'earlier-versions:c1',
    )
  const open = ({ binding, situation }: ReturnType<typeof bound>, minutes = 0) =>
    windowOf(binding, mediumOf(binding), { handsOn: minutes, waiting: [0, 0] }, situation)

  it('what is replaced closes across the range of the run', () => {
    const window = open(versions(ahead(1, 2)))
    expect([0, 1, 1.5, 2, 3].map((days) => window.survival(NOW + days * DAY_MS))).toEqual([1, 1, 0.5, 0, 0])
    expect(window.says()).toContain('A newer one replaces it')
    expect(open(versions('unknown')).latest).toBeNull()
  })

  it('what has to be done, not begun, needs its own length before it closes', () => {
    expect(open(versions(ahead(1)), 0).survival(NOW + 0.99 * DAY_MS)).toBe(1)
    expect(open(versions(ahead(1)), 60).survival(NOW + 0.99 * DAY_MS)).toBe(0)
  })

  it('a wait against a deadline is a range, and so is the chance that it is over in time', () => {
    const asked = bound(
      { 'wanted.w1': { type: 'photos' }, 'copies.c1': { kind: 'social-account' }, 'limits.deadline': ahead(2) },
      'social-export:c1',
    )
    const inTime = (low: number, high: number) =>
      windowOf(asked.binding, null, { handsOn: 0, waiting: [low * 1440, high * 1440] }, asked.situation).survival(NOW)
    expect([inTime(1, 1.9), inTime(2.1, 3)]).toEqual([1, 0])
    expect(inTime(1, 3)).toBeCloseTo(0.5, 9)
    expect(inTime(1, 5)).toBeCloseTo(0.25, 9)
  })

  it('the client’s deadline closes everything that is not done by then', () => {
    const window = open(versions('unknown', { 'limits.deadline': ahead(2, 3) }), 12 * 60)
    expect([1, 2, 2.6].map((days) => window.survival(NOW + days * DAY_MS))).toEqual([1, 0.5, 0])
    expect(window.says()).toContain('Has to be done by')
    expect(open(versions(ahead(1), { 'limits.deadline': ahead(2, 3) })).says()).toContain('replaces it')
  })

  it('a medium in use fades, and one that is kept out does not', () => {
    const card = {
      'devices.d1': { kind: 'card', storage: { capacityBytes: 32e9 } },
      'wanted.w1': { type: 'photos' },
      'loss.how': 'deleted-singly',
      'loss.when': ago(2),
      'loss.since.used': 'yes',
      'loss.since.writtenBytes': 2e9,
    }
    const fading = bound(card, 'medium-deep-scan:d1')
    expect(open(fading).survival(NOW)).toBe(1)
    expect(open(fading).survival(NOW + 5 * DAY_MS)).toBeLessThan(0.8)
    const ticked = { ...fading, situation: { ...fading.situation, ticked: new Set(['keep-medium-out']) } }
    expect(open(ticked).survival(NOW + 5 * DAY_MS)).toBe(1)
  })
})

describe('coverage', () => {
  const mean = (facts: Facts, id: string) => {
    const { binding, situation, axes } = bound(facts, id)
    const { bySlice } = coverageOf(binding, axes[0]!, situation)
    return bySlice.reduce((sum, value) => sum + value[1], 0) / bySlice.length
  }
  const photos = { type: 'photos', count: 200, made: ago(40, 20) }

  it('a person has what was sent to them', () => {
    const asked = (count: unknown) =>
      mean({ 'wanted.w1': photos, 'copies.c1': { kind: 'person', count } }, 'ask-sender:c1')
    expect(asked(50)).toBeCloseTo(0.25, 9)
    expect(asked(900)).toBe(1)
    expect(asked('unknown')).toBeCloseTo(0.25, 9)
  })

  it('a card holds what was made since it was put in, and the device what was made before', () => {
    const lived = [{ place: 'device' }, { place: 'card', from: ago(25) }]
    const facts = {
      'devices.d1': { kind: 'phone', platform: 'open-phone' },
      'wanted.w1': { ...photos, lived },
      'copies.c1': { kind: 'medium' },
    }
    expect(mean(facts, 'medium-deep-scan:c1')).toBeCloseTo(0.25, 2)
    expect(mean(facts, 'phone-storage-scan:d1')).toBeCloseTo(0.75, 2)
    expect(mean({ ...facts, 'wanted.w1': { ...photos, lived: [{ place: 'device' }] } }, 'medium-deep-scan:c1')).toBe(0)
  })

  it('a copy that covers only some dates reaches only those', () => {
    const copy = { kind: 'computer-backup', taken: ago(15), covers: ago(40, 30) }
    expect(
      mean(
        { 'wanted.w1': photos, 'loss.how': 'bin-emptied', 'loss.when': ago(10), 'copies.c1': copy },
        'backup-selective:c1',
      ),
    ).toBeCloseTo(0.5, 9)
  })

  it('a library still has what had been sent, but not the items from before a change', () => {
    const facts = (how: string) => ({
      'wanted.w1': photos,
      'loss.how': how,
      'loss.when': ago(10),
      'copies.c1': { kind: 'cloud-library', syncedUntil: ago(30) },
    })
    expect(mean(facts('factory-reset'), 'cloud-library-kept:c1')).toBeCloseTo(0.5, 9)
    expect(mean(facts('malware'), 'cloud-library-kept:c1')).toBe(0)
    expect(mean(facts('factory-reset'), 'cloud-library-bin:c1')).toBe(0)
  })

  it('an automatic copy usually exists after a crash, and hardly ever after anything else', () => {
    const facts = (how: string) => ({
      'devices.d1': { kind: 'laptop', platform: 'desktop-pc' },
      'wanted.w1': { type: 'documents' },
      'loss.how': how,
      'loss.when': ago(1),
    })
    expect(mean(facts('crashed-before-saving'), 'automatic-recovery:d1')).toBeGreaterThan(0.7)
    expect(mean(facts('deleted-singly'), 'automatic-recovery:d1')).toBeLessThan(0.1)
    expect(mean(facts('unknown'), 'look-around:d1')).toBeGreaterThan(mean(facts('deleted-singly'), 'look-around:d1'))
  })
})

describe('harm', () => {
  const restore = (facts: Facts) => {
    const { binding, situation, axes } = bound(
      {
        'devices.d1': { kind: 'phone', platform: 'closed-phone' },
        'wanted.w1': { type: 'photos' },
        'loss.when': ago(10),
        ...facts,
      },
      'computer-backup-full:c1',
    )
    return optionOf(binding, axes, situation)
  }

  it('a restore erases the days since its backup, or since the reset that emptied the device', () => {
    expect(restore({ 'copies.c1': { kind: 'computer-backup', taken: ago(12) } }).harm).toBeCloseTo(120, 9)
    expect(
      restore({ 'copies.c1': { kind: 'computer-backup', taken: ago(12) }, 'loss.how': 'factory-reset' }).harm,
    ).toBeCloseTo(100, 9)
    expect(
      restore({
        'copies.c1': { kind: 'computer-backup', taken: ago(12) },
        'loss.how': 'factory-reset',
        'loss.since.used': 'no',
      }).harm,
    ).toBe(0)
  })
})
