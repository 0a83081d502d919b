import { describe, expect, it } from 'vitest'
import { CASE_STATES, movesFrom, refusalOf, type MoveFacts } from './states'

const facts: MoveFacts = { wantedKnown: true, clientKnown: true, runsOpen: 0, runsEnded: 1, dayCountInState: 20 }

describe('the states of a case', () => {
  it('goes from the counter to the end, step by step', () => {
    const road = ['logged', 'at-bench', 'ready', 'handed-over', 'closed'] as const
    for (let step = 1; step < road.length; step++)
      expect(refusalOf(road[step - 1]!, { to: road[step]! }, facts)).toBeNull()
  })

  it('refuses every move that is in no list, by name', () => {
    for (const from of CASE_STATES)
      for (const to of CASE_STATES)
        if (!movesFrom(from).includes(to))
          expect(refusalOf(from, { to, reason: 'because' }, facts)).toContain('cannot become')
  })

  it('says what a waiting case waits for', () => {
    expect(refusalOf('at-bench', { to: 'waiting' }, facts)).toContain('waits for')
    expect(refusalOf('at-bench', { to: 'waiting', waitingFor: 'part' }, facts)).toBeNull()
  })

  it('does not end while a run is open, nor without a reason before anything was tried', () => {
    expect(refusalOf('at-bench', { to: 'ready' }, { ...facts, runsOpen: 1 })).toContain('still open')
    expect(refusalOf('at-bench', { to: 'ready' }, { ...facts, runsEnded: 0 })).toContain('Nothing was tried')
    expect(refusalOf('at-bench', { to: 'ready', reason: 'found it at home' }, { ...facts, runsEnded: 0 })).toBeNull()
    expect(refusalOf('at-bench', { to: 'closed' }, facts)).toContain('Say why')
  })

  it('the bench begins only once something is wanted, and a hand-over needs somebody to take it', () => {
    expect(refusalOf('logged', { to: 'at-bench' }, { ...facts, wantedKnown: false })).toContain('wanted')
    expect(refusalOf('ready', { to: 'handed-over' }, { ...facts, clientKnown: false })).toContain('client')
  })

  it('is uncollected after two weeks, not before', () => {
    expect(refusalOf('ready', { to: 'uncollected' }, { ...facts, dayCountInState: 13.9 })).toContain('13')
    expect(refusalOf('ready', { to: 'uncollected' }, { ...facts, dayCountInState: 14 })).toBeNull()
  })
})
