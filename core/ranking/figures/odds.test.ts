import { describe, expect, it } from 'vitest'
import type { RunCause } from '../../cases/shape/run'
import { evidenceOf, outcomesOf, type RunOutcome } from '../situation/evidence'
import { gatePriorOf, oddsOf } from './odds'
import { endedRun, caseWith } from '../../testing/case-with'
import { chanceFrom } from '../../testing/chance-from'

const PLATFORMS = ['closed-phone', 'open-phone', 'desktop-pc'] as const
const TYPES = ['photos', 'messages', 'documents'] as const
const kind = (id: string, chance: number) => ({ id, prior: { chance, weight: 12, note: 'A guess.' } })
const KINDS = [kind('gallery-bin', 0.9), kind('deep-scan', 0.5), kind('rows', 0.7), kind('ask', 0.3)]

describe('odds that learn', () => {
  const random = chanceFrom(20_261_124)
  // The truth differs from the priors by kind, within a kind by family, and within that by type.
  const truth = new Map<string, number>()
  for (const one of KINDS)
    for (const platform of PLATFORMS)
      for (const type of TYPES)
        truth.set(
          `${one.id}|${platform}|${type}`,
          Math.min(0.98, Math.max(0.02, one.prior.chance - 0.25 + random() * 0.5)),
        )

  const seen: RunOutcome[] = []
  const told: { predicted: number; true: number; came: number }[] = []
  let evidence = evidenceOf([])
  for (let run = 0; run < 5000; run++) {
    const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)]!
    const [one, platform, type] = [pick(KINDS), pick(PLATFORMS), pick(TYPES)]
    const chance = truth.get(`${one.id}|${platform}|${type}`)!
    if (run % 50 === 0) evidence = evidenceOf(seen)
    const came = random() < chance ? 1 : 0
    told.push({ predicted: oddsOf(one, { platform, type }, evidence)[1], true: chance, came })
    seen.push({ kind: one.id, platform, type, came, failedOn: null, open: [] })
  }
  const brier = (from: number, to: number, of: (one: (typeof told)[number]) => number) =>
    told.slice(from, to).reduce((sum, one) => sum + (of(one) - one.came) ** 2, 0) / (to - from)

  it('fall towards the Brier score of the truth over 5,000 runs of a simulated shop', () => {
    const above = (from: number, to: number) =>
      brier(from, to, (one) => one.predicted) - brier(from, to, (one) => one.true)
    expect(above(0, 500)).toBeGreaterThan(above(4000, 5000))
    expect(above(4000, 5000)).toBeLessThan(0.004)
  })

  it('agree with what came of it in ten bins, within sampling error', () => {
    const late = told.slice(2000)
    for (let bin = 0; bin < 10; bin++) {
      const inBin = late.filter((one) => Math.min(9, Math.floor(one.predicted * 10)) === bin)
      if (inBin.length < 20) continue
      const mean = (of: (one: (typeof late)[number]) => number) =>
        inBin.reduce((sum, one) => sum + of(one), 0) / inBin.length
      const predicted = mean((one) => one.predicted)
      const error = Math.sqrt((predicted * (1 - predicted)) / inBin.length)
      expect(Math.abs(predicted - mean((one) => one.came)), `bin ${bin}`).toBeLessThan(3.5 * error + 0.01)
    }
  })

  it('hold the truth in their range about four times out of five', () => {
    const evidenceNow = evidenceOf(seen)
    const held = [...truth].filter(([key, chance]) => {
      const [id, platform, type] = key.split('|')
      const range = oddsOf(
        KINDS.find((one) => one.id === id)!,
        { platform: platform!, type: type! },
        evidenceNow,
      )
      return range[0] <= chance && chance <= range[2]
    })
    expect(held.length / truth.size).toBeGreaterThan(0.65)
  })
})

describe('what a run teaches', () => {
  const outcome = (more: Partial<RunOutcome>): RunOutcome => ({
    kind: 'gallery-bin',
    platform: 'open-phone',
    type: 'photos',
    came: 1,
    failedOn: null,
    open: [],
    ...more,
  })
  const asked = { platform: 'open-phone', type: 'photos' }
  const one = kind('gallery-bin', 0.6)

  it('moves the odds of its own kind most, of other families less, of other kinds not at all', () => {
    const evidence = evidenceOf(Array.from({ length: 20 }, () => outcome({})))
    const chance = (platform: string, type: string) => oddsOf(one, { platform, type }, evidence)[1]
    expect(chance('open-phone', 'photos')).toBeGreaterThanOrEqual(chance('open-phone', 'videos'))
    expect(chance('open-phone', 'videos')).toBeGreaterThanOrEqual(chance('closed-phone', 'videos'))
    expect(chance('closed-phone', 'videos')).toBeGreaterThan(0.6)
    expect(oddsOf(kind('deep-scan', 0.6), asked, evidence)[1]).toBe(0.6)
  })

  it('that failed on a gate teaches the gate and not the odds', () => {
    const evidence = evidenceOf(Array.from({ length: 10 }, () => outcome({ came: null, failedOn: 'bin-on' })))
    expect(oddsOf(one, asked, evidence)[1]).toBe(0.6)
    const prior = [0.45, 0.7, 0.85] as const
    expect(gatePriorOf('gallery-bin', 'bin-on', prior, evidence)[1]).toBeCloseTo(0.35, 9)
    const met = evidenceOf(Array.from({ length: 10 }, () => outcome({ open: ['bin-on'] })))
    expect(gatePriorOf('gallery-bin', 'bin-on', prior, met)[1]).toBeCloseTo(0.85, 9)
    expect(gatePriorOf('other', 'bin-on', prior, met)).toEqual(prior)
  })

  it('counts as the part of what was reachable that came back', () => {
    const ofCase = caseWith({
      'devices.d1': { kind: 'phone', platform: 'open-phone' },
      'wanted.w1': { type: 'photos', count: 100 },
    })
    const run = (back: number, reach: number[] | null) =>
      outcomesOf({
        ...ofCase,
        runs: [
          endedRun([{ wanted: 'w1', back, whole: back, unverified: 0 }], {
            predicted: reach && { chance: 1, share: 1, reach: { w1: reach }, gates: ['bin-on'], place: 1 },
          }),
        ],
      })[0]!
    expect(run(30, [1, 0.2])).toMatchObject({ platform: 'open-phone', type: 'photos', came: 0.5, open: ['bin-on'] })
    expect(run(90, [1, 0.2]).came).toBe(1)
    expect(run(1, null).came).toBe(1)
    expect(run(0, null).came).toBe(0)
  })

  it('learns from the cause of a failure what it shows, and nothing else', () => {
    const taught = (cause: RunCause, gates: string[] = ['bin-on', 'passcode']) =>
      outcomesOf({
        ...caseWith({ 'devices.d1': { kind: 'phone', platform: 'open-phone' } }),
        runs: [
          endedRun([], { hasFailed: true, cause, predicted: { chance: 1, share: 1, reach: {}, gates, place: null } }),
        ],
      })
    // Nobody knows what it would have recovered.
    expect([taught('out-of-time'), taught('client-stopped')]).toEqual([[], []])
    for (const cause of ['nothing-there', 'damaged', 'overwritten'] as const)
      expect(taught(cause)).toMatchObject([{ came: 0, failedOn: null, open: ['bin-on', 'passcode'] }])
    // Refused access teaches the one access gate that was unknown, and says nothing about the bin behind it.
    expect(taught('access')).toMatchObject([{ came: null, failedOn: 'passcode', open: [] }])
    expect(taught('access', ['account', 'passcode'])).toMatchObject([{ came: null, failedOn: null, open: [] }])
    const { routes, gates } = evidenceOf([...taught('access'), ...taught('access', ['account', 'passcode'])])
    expect([routes, Object.values(gates)]).toEqual([{}, [{ runs: 1, came: 0 }]])
  })
})
