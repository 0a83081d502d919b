import { expect, it } from 'vitest'
import { stateOfReadOnly } from '~~/core/bench/state'
import { caseWith } from '~~/core/testing/case-with'
import { gateLines } from './gate-lines'

const ofCase = caseWith({ 'wanted.w1': { type: 'photos' } })
const kind = { gates: [{ gate: 'passcode' as const }] }
const option = (value: number) => ({
  factors: [
    { name: 'passcode', value, range: [value, value] as [number, number], fact: null, says: `The facts say ${value}.` },
  ],
})
const link = (state: 'locked' | 'ready' | 'asleep') => ({
  ...stateOfReadOnly(
    { id: 'korvane-7', kind: 'phone', title: 'Korvane 7', platform: 'open-phone', isStandIn: true },
    { state, says: `It is ${state}.`, bytesPerSecond: 1, mark: '', now: '2026-11-24T10:42:00Z' },
  ),
})
const lineOf = (...[of, at]: [Parameters<typeof gateLines>[1], Parameters<typeof gateLines>[2]]) =>
  gateLines(kind, of, at, ofCase)[0]

it('the link knows better than an answer from before, in both directions', () => {
  expect(lineOf(option(0), link('ready'))).toMatchObject({ isMet: true, isShut: false, note: 'Korvane 7 answers' })
  expect(lineOf(option(1), link('locked'))).toMatchObject({ isMet: false, isShut: true, note: 'It is locked.' })
})

it('where the link cannot tell, the facts do; where they do not know, the line is ticked by hand', () => {
  expect(lineOf(option(1), link('asleep'))).toMatchObject({ isMet: true, note: 'The facts say 1.' })
  expect(lineOf(option(0), null)).toMatchObject({ isMet: false, isShut: true })
  expect(lineOf(option(0.6), null)).toMatchObject({ isMet: false, isShut: false, note: 'The facts say 0.6.' })
  expect(lineOf(null, null)).toEqual({
    line: 'gate:passcode',
    words: 'The passcode is known',
    isMet: false,
    isShut: false,
    note: '',
  })
})

it('a kind that the playbook lost has no conditions', () => {
  expect(gateLines(null, null, link('ready'), ofCase)).toEqual([])
})
