import { describe, expect, it } from 'vitest'
import { chances } from '../../stand-ins/content/chance'
import { simulatedYear } from '../../stand-ins/shop/simulated-year'
import { NOW } from '../testing/case-with'
import { driftOf, type Lesson } from './drift'
import type { EndedRun } from './ended-run'

const PRIOR = { chance: 0.7, weight: 10 }
const lessons = (runs: readonly EndedRun[], kind: string): Lesson[] =>
  runs.flatMap(({ kind: of, ended, outcome }) =>
    of === kind && outcome && outcome.came !== null ? [{ ended, came: outcome.came }] : [],
  )
const everFlagged = (prior: typeof PRIOR, list: readonly Lesson[]) =>
  list.some((_, at) => driftOf(prior, list.slice(0, at + 1)) !== null)

describe('drift', () => {
  it('is flagged within 40 runs where the true odds of a kind fell by 0.3, nine times out of ten', () => {
    const random = chances(7)
    const stream = (odds: number, runs: number) =>
      Array.from({ length: runs }, (_, ended) => ({ ended, came: random() < odds ? 1 : 0 }))
    const flagged = Array.from({ length: 60 }, (_, at) => {
      const odds = [0.9, 0.8, 0.7][at % 3]!
      const [before, after] = [stream(odds, 200), stream(odds - 0.3, 40)]
      return after.some((_, more) => driftOf(PRIOR, [...before, ...after.slice(0, more + 1)]) !== null)
    })
    expect(flagged.filter(Boolean).length).toBeGreaterThanOrEqual(48)
  })

  it('is flagged within 40 runs in three simulated years', () => {
    for (const seed of [101, 102, 103]) {
      const falls = { kind: 'ask-sender', by: 0.3, after: 0.5 }
      const { runs, kinds } = simulatedYear({ seed, runs: 5000, now: NOW, people: ['Bram'], falls })
      const half = runs[2500]!.ended
      const all = lessons(runs, falls.kind)
      const before = all.filter(({ ended }) => ended < half).length
      const { prior } = kinds.find(({ id }) => id === falls.kind)!
      const delay = Array.from({ length: 40 }, (_, at) => at + 1).find(
        (more) => driftOf(prior, all.slice(0, before + more)) !== null,
      )
      expect(delay, `seed ${seed}`).toBeDefined()
    }
  }, 60_000)

  it('is flagged for fewer than 1 in 20 of the kinds left alone, in a year', () => {
    const [flagged, all] = [[] as string[], [] as string[]]
    for (const seed of [11, 12, 13]) {
      const { runs, kinds } = simulatedYear({ seed, runs: 5000, now: NOW, people: ['Bram'] })
      for (const { id, prior } of kinds) {
        all.push(id)
        if (everFlagged(prior, lessons(runs, id))) flagged.push(id)
      }
    }
    expect(flagged.length / all.length).toBeLessThan(1 / 20)
  }, 60_000)

  it('names the runs that disagree and what was promised of them', () => {
    const worked = Array.from({ length: 80 }, (_, at) => ({ ended: at, came: at % 10 < 7 ? 1 : 0 }))
    expect(driftOf(PRIOR, worked)).toBeNull()
    const fallen = Array.from({ length: 25 }, (_, at) => ({ ended: 80 + at, came: at % 5 === 0 ? 1 : 0 }))
    const drift = driftOf(PRIOR, [...worked, ...fallen])!
    expect(drift.since).toBeGreaterThan(70)
    expect(drift.came / drift.runs).toBeLessThan(0.35)
    expect(drift.expected / drift.runs).toBeCloseTo(0.7, 1)
    // A change that is long past is no warning any more: the odds have learned it.
    const since = Array.from({ length: 400 }, (_, at) => ({ ended: 200 + at, came: at % 5 === 0 ? 1 : 0 }))
    expect(driftOf(PRIOR, [...worked, ...fallen, ...since])).toBeNull()
  })

  it('is shown by no run of bad luck that is shorter than five', () => {
    const sure = { chance: 0.95, weight: 400 }
    const bad = Array.from({ length: 5 }, (_, ended) => ({ ended, came: 0 }))
    expect(driftOf(sure, bad.slice(0, 4))).toBeNull()
    expect(driftOf(sure, bad)).toMatchObject({ runs: 5, came: 0 })
    expect(driftOf({ chance: 1, weight: 20 }, bad)).toBeNull()
  })
})
