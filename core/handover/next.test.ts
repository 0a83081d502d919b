import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Case } from '../cases/shape/case'
import { DAY_MS, isoOf } from '../cases/shape/moment'
import { defaultPlaybook } from '../playbook/playbook'
import { caseWith, endedRun, NOW } from '../testing/case-with'
import { ATTACHMENT_TYPES, attachmentTypeOf } from './attachment'
import { litDays } from './lit-days'
import { nextWithClient, reminderOf, reminderText, uncollectedFrom } from './next'
import { isSigned, signatureSvg } from './signature'

const { shop } = defaultPlaybook({ name: 'Lamp & Lock' })
const FACTS = {
  'client.name': 'Maud Oxley',
  'authority.basis': 'own',
  'consent.lookThrough.answer': 'given',
  'devices.d1': { kind: 'phone', make: 'Korvane 7' },
}
const received = { step: 'received', at: isoOf(NOW), by: 'Bram', place: 'drawer 4' }
const things = [{ id: 't1', part: 'd1', words: 'Korvane 7', steps: [received] }]
const ready = (days: number, more: object = {}) =>
  Case.parse({ ...caseWith(FACTS), things, state: { name: 'ready', since: isoOf(NOW - days * DAY_MS) }, ...more })
const called = (days: number) => ({ at: isoOf(NOW - days * DAY_MS), by: 'Bram', way: 'no-answer', says: 'rang' })

describe('what comes next with the client', () => {
  const next = (ofCase: Case) => nextWithClient(ofCase, shop, NOW)

  it('goes from taking in over the agreement to the reminder, the check, the outcome, the money and the return', () => {
    expect(next(caseWith(FACTS))).toBe('take-in')
    const asked = caseWith({ ...FACTS, 'consent.lookThrough.answer': 'unknown' })
    expect(next(Case.parse({ ...asked, things }))).toBe('agree')
    expect(next(Case.parse({ ...caseWith(FACTS), things }))).toBeNull()
    expect(next(ready(0))).toBe('remind')
    const runs = [endedRun([{ wanted: 'w1', back: 3, whole: 3 }])]
    const told = { contacts: [called(0)] }
    expect(next(ready(0, { ...told, runs }))).toBe('check')
    expect(next(ready(0, told))).toBe('outcome')
    const outcome = { ending: 'nothing', delivered: [], at: isoOf(NOW), by: 'Bram' }
    const charges = [{ id: 'p1', words: 'work', amount: 5, at: isoOf(NOW), by: 'Bram' }]
    expect(next(ready(0, { ...told, outcome, money: { charges } }))).toBe('pay')
    expect(next(ready(0, { ...told, outcome }))).toBe('give-back')
  })

  it('reminds on its days, one after each try to reach the client, and then no more', () => {
    const due = (days: number, tries: number) =>
      reminderOf(ready(days, { contacts: Array.from({ length: tries }, () => called(days)) }), shop, NOW)
    expect(due(0, 0)).toMatchObject({ number: 1, isDue: true })
    expect(due(6, 1)).toMatchObject({ number: 2, isDue: false })
    expect(due(7, 1)).toMatchObject({ number: 2, isDue: true })
    expect(due(50, 3)).toMatchObject({ number: 4, isDue: true })
    expect(due(50, 4)).toBeNull()
    // A contact from before it was ready is none of these.
    expect(reminderOf(ready(3, { contacts: [called(5)] }), shop, NOW)?.number).toBe(1)
    expect(reminderOf(caseWith(FACTS), shop, NOW)).toBeNull()
    expect(uncollectedFrom(ready(3), shop)).toBe(NOW + 87 * DAY_MS)
    expect(reminderText(ready(0), shop, 2)).toContain('Korvane 7 is still here')
  })
})

describe('the strip of days', () => {
  const set = caseWith({
    'wanted.w1': {
      type: 'photos',
      count: 50,
      made: { from: '2026-11-01T00:00:00Z', to: '2026-11-05T23:59:00Z' },
      mustHave: { from: '2026-11-02T00:00:00Z', to: '2026-11-02T23:59:00Z' },
    },
  }).wanted[0]!
  const group = (day: string | null, count: number) => ({ day, count, damaged: 0, unverified: 0, samples: [] })

  it('has every day of the wanted time, dark where nothing came back, and says which matter most', () => {
    const days = litDays(
      set,
      [group('2026-11-02', 10), group('2026-11-04', 5), group(null, 3), group('2026-12-24', 40)],
      'UTC',
    )
    expect(days.map(({ day, lit, isMust }) => [day.slice(5), lit, isMust])).toEqual([
      ['11-01', 0, false],
      ['11-02', 1, true],
      ['11-03', 0, false],
      ['11-04', 0.5, false],
      ['11-05', 0, false],
      ['12-24', 1, false],
    ])
  })

  it('begins its days where the shop’s zone does', () => {
    const summer = caseWith({
      'wanted.w1': { type: 'photos', made: { from: '2026-10-10T23:00:00Z', to: '2026-10-12T22:59:00Z' } },
    }).wanted[0]!
    expect(litDays(summer, [], 'Europe/London').map(({ day }) => day)).toEqual(['2026-10-11', '2026-10-12'])
  })

  it('makes no strip of centuries', () => {
    const long = caseWith({
      'wanted.w1': { type: 'photos', made: { from: '0001-01-01T00:00:00Z', to: '9999-01-01T00:00:00Z' } },
    }).wanted[0]!
    expect(litDays(long, [group('2026-11-02', 1)], 'UTC')).toHaveLength(1)
  })

  it('measures by the fullest day where no number is known, and is empty where no day is', () => {
    const any = caseWith({ 'wanted.w1': { type: 'photos' } }).wanted[0]!
    expect(litDays(any, [group('2026-11-02', 10), group('2026-11-04', 5)], 'UTC').map(({ lit }) => lit)).toEqual([
      1, 0.5,
    ])
    expect(litDays(any, [group(null, 10)], 'UTC')).toEqual([])
  })
})

describe('a signature', () => {
  const point = fc.tuple(fc.double({ min: 0, max: 4000, noNaN: true }), fc.double({ min: 0, max: 4000, noNaN: true }))

  it('is drawn from points alone: nothing but paths is in it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(point, { minLength: 1, maxLength: 9 }), { minLength: 1, maxLength: 5 }),
        (strokes) => {
          const svg = signatureSvg({ width: 600, height: 150, strokes })
          expect(svg.match(/<path d="[ML0-9. ]+"\/>/g)).toHaveLength(strokes.length)
          expect(svg.replace(/<path d="[ML0-9. ]+"\/>/g, '')).toMatch(/^<svg [^<>]+><g [^<>]+><\/g><\/svg>$/)
        },
      ),
    )
  })

  it('is more than a slip of the pen', () => {
    expect(isSigned({ strokes: [[[1, 1]]] })).toBe(false)
    expect(isSigned({ strokes: [Array.from({ length: 9 }, (_, at): [number, number] => [at, at])] })).toBe(true)
  })
})

it('an attachment is what its first bytes say, not what its name says', () => {
  const of = (text: string) => attachmentTypeOf(Buffer.from(text, 'latin1'))
  expect(of('\xff\xd8\xff\xe0')).toBe('image/jpeg')
  expect(of('\x89PNG\r\n\x1a\n')).toBe('image/png')
  expect(of('RIFF\0\0\0\0WEBP')).toBe('image/webp')
  expect(of('%PDF-1.7')).toBe('application/pdf')
  for (const other of ['<svg xmlns="http://www.w3.org/2000/svg">', '<html>', 'GIF89a', 'RIFF\0\0\0\0WAVE', ''])
    expect(of(other), other).toBeNull()
  expect(Object.keys(ATTACHMENT_TYPES)).toContain('image/svg+xml')
})
