import { describe, expect, it } from 'vitest'
import { caseWith, endedRun, NOW } from '../../testing/case-with'
import { titleOf } from './title'
import { outcomeOf } from '../shape/outcome'
import { copyWords, countWords, deviceWords, spanWords, withArticle } from './words'

const zone = 'Europe/London'
const span = (from: string, to: string) => spanWords({ from: Date.parse(from), to: Date.parse(to) }, zone, NOW)

describe('ranges of time in words', () => {
  it.each([
    ['2026-11-08T00:00:00Z', '2026-11-08T23:59:00Z', '8 Nov'],
    ['2026-11-03T00:00:00Z', '2026-11-08T23:59:00Z', '3 to 8 Nov'],
    ['2026-09-30T23:00:00Z', '2026-11-08T23:59:00Z', '1 Oct to 8 Nov'],
    ['2026-11-24T02:00:00Z', '2026-11-24T02:30:00Z', '24 Nov 02:00 to 02:30'],
    ['2026-11-24T14:00:00Z', '2026-11-24T14:00:00Z', '24 Nov 14:00'],
    ['2025-03-01T00:00:00Z', '2025-03-05T23:59:00Z', '1 to 5 Mar 2025'],
    ['2026-11-23T22:00:00Z', '2026-11-24T02:00:00Z', '23 Nov 22:00 to 24 Nov 02:00'],
    // Summer time: midnight in London is 23:00 in UTC.
    ['2026-06-30T23:00:00Z', '2026-07-01T22:59:00Z', '1 Jul'],
  ])('%s to %s', (from, to, words) => expect(span(from, to)).toBe(words))
})

describe('things in words', () => {
  it('devices and copies go by what people call them', () => {
    const { devices, copies } = caseWith({
      'devices.d1': { kind: 'phone', make: 'Korvane 7' },
      'devices.d2': { kind: 'external-disk' },
      'devices.d3': {},
      'copies.c1': { kind: 'computer-backup', label: 'laptop at home' },
      'copies.c2': { kind: 'person', label: 'her sister' },
      'copies.c3': { kind: 'medium' },
      'copies.c4': { kind: 'cloud-library' },
    })
    expect(devices.map(deviceWords)).toEqual(['Korvane 7', 'the external disk', 'the device'])
    expect(copies.map(copyWords)).toEqual([
      'the backup on the laptop at home',
      'the sister',
      'the removable medium',
      'the cloud library',
    ])
    expect([withArticle('stick'), withArticle('external disk')]).toEqual(['a stick', 'an external disk'])
  })

  it('a case goes by its own name, else by who and what', () => {
    expect(titleOf(caseWith({}))).toBe('Client not named yet')
    expect(titleOf(caseWith({ 'client.name': 'Maud Oxley', 'wanted.w1': { type: 'notes' } }))).toBe(
      'Maud Oxley · notes',
    )
    expect(titleOf(caseWith({ 'client.name': 'Maud Oxley', 'wanted.w1': { type: 'notes', title: 'recipes' } }))).toBe(
      'Maud Oxley · recipes',
    )
    expect(titleOf(caseWith({ title: 'The regatta' }))).toBe('The regatta')
  })

  it('what came back is summed over all runs, per wanted set', () => {
    const begun = caseWith({ 'wanted.w1': { type: 'photos', count: 10 }, 'wanted.w2': { type: 'notes' } })
    const run = (id: string, back: number, whole: number) =>
      endedRun([{ wanted: 'w1', back, whole, unverified: 0 }], { id })
    expect(outcomeOf({ ...begun, runs: [run('r1', 4, 3), run('r2', 2, 2)] })).toEqual([
      { wanted: 'w1', of: 10, back: 6, whole: 5, unverified: 0 },
      { wanted: 'w2', of: null, back: 0, whole: 0, unverified: 0 },
    ])
  })
})

describe('a count with its noun', () => {
  it.each([
    [1, 'photos', '1 photo'],
    [0.6, 'contacts', '1 contact'],
    [1, 'calendar entries', '1 calendar entry'],
    [1, 'video clips', '1 video clip'],
    [1, 'mail', '1 mail'],
    [1, 'chats of an app', '1 chat of an app'],
    [1, 'spreadsheets', '1 spreadsheet'],
    [9.4, 'photos', '9 photos'],
    [0, 'notes', '0 notes'],
  ])('%d %s', (count, plural, words) => expect(countWords(count, plural)).toBe(words))
})
