import { describe, expect, it } from 'vitest'
import { caseWith, NOW } from '../../testing/case-with'
import { answer, valueWords } from './answering'
import { optionsMatching } from './matching'
import { emptyCase } from '../shape/case'
import { withFacts } from '../facts/facts'

const context = { now: NOW, zone: 'Europe/London', currency: 'GBP' }
const begun = caseWith({
  'devices.d1': { kind: 'phone' },
  'wanted.w1': { type: 'photos' },
  'copies.c1': { kind: 'computer-backup' },
})
const value = (path: string, typed: string) => {
  const read = answer(begun, path, typed, context)
  return read.ok ? read.changes[0]!.is : read.message
}

describe('what is typed for a fact', () => {
  it.each([
    ['devices.d1.kind', 'ph', 'phone'],
    ['devices.d1.kind', 'external', 'external-disk'],
    ['devices.d1.kind', 'disk', 'external-disk'],
    ['devices.d1.platform', 'open', 'open-phone'],
    ['devices.d1.lock', 'unl', 'unlocked'],
    ['loss.how', 'saved', 'saved-over'],
    ['loss.how', 'reset', 'factory-reset'],
    ['copies.c1.password', 'thought', 'thought-known'],
    ['devices.d1.storage.capacityBytes', '128', 128e9],
    ['wanted.w1.count', 'about 310', 310],
    ['limits.money', '£120', 120],
    ['wanted.w1.mustHave', 'all', 'all'],
    ['client.name', '  Maud Oxley ', 'Maud Oxley'],
    ['loss.how', '?', 'unknown'],
    ['loss.how', '', 'unknown'],
    ['loss.when', 'not sure', 'unknown'],
    ['loss.when', 'she doesn’t know', 'unknown'],
    ['devices.d1.make', 'don’t know', 'unknown'],
    ['with', '?', null],
    ['title', '?', ''],
  ])('%s: “%s”', (path, typed, expected) => expect(value(path, typed)).toEqual(expected))

  it('a must-have can be a range of time', () => {
    expect(value('wanted.w1.mustHave', '3 to 8 nov')).toMatchObject({
      from: '2026-11-03T00:00:00.000Z',
      to: '2026-11-08T23:59:00.000Z',
    })
  })

  it('several kinds are separated by commas', () => {
    expect(value('copies.c1.keeps', 'photos, messages and notes')).toEqual(['photos', 'messages', 'notes'])
    expect(value('copies.c1.keeps', 'photos, gold')).toContain('Choose only from')
  })

  it('the day from which a card was used goes into where the items lived', () => {
    const set = withFacts(begun, [
      { fact: 'wanted.w1.lived', is: [{ place: 'device' }, { place: 'card', from: 'unknown' }] },
    ])
    if (!set.ok) throw new Error('not set')
    const read = answer(set.changed, 'wanted.w1.lived#card-since', '1 nov', context)
    expect(read.ok && read.changes[0]).toMatchObject({
      fact: 'wanted.w1.lived',
      is: [{ place: 'device' }, { place: 'card', from: { from: '2026-11-01T00:00:00.000Z' } }],
    })
  })

  it.each([
    ['loss.how', 'vaporised'],
    ['loss.when', 'when the boat came'],
    ['devices.d1.storage.capacityBytes', 'large'],
    ['limits.money', 'plenty'],
    ['wanted.w1.lived', 'under the bed'],
  ])('%s: “%s” is refused in a sentence', (path, typed) =>
    expect(value(path, typed)).toMatch(/^(This is not|Choose one of).*\.$/),
  )

  it('a fact that there is not is refused too', () => {
    expect(answer(emptyCase(), 'loss.colour', 'red', context)).toEqual({ ok: false, message: 'There is no such fact.' })
  })

  it('answers that begin with the text come before those that only contain it', () => {
    const options = [
      { value: 'a', words: 'without a lock' },
      { value: 'b', words: 'locked' },
      { value: 'c', words: 'a lock of hair' },
    ]
    expect(optionsMatching(options, 'lock').map((option) => option.value)).toEqual(['b', 'c', 'a'])
    expect(optionsMatching(options, '')).toHaveLength(3)
    expect(optionsMatching(options, 'zzz')).toEqual([])
  })
})

describe('a value in words', () => {
  it.each([
    ['limits.money', 120, '£120'],
    ['limits.money', 99.5, '£99.50'],
    ['devices.d1.storage.freeBytes', 9e9, '9 GB'],
    ['wanted.w1.count', 310, '310'],
    ['loss.how', 'bin-emptied', 'deleted and the bin emptied'],
    ['copies.c1.keeps', ['photos', 'call-records'], 'photos, call records'],
    ['loss.how', 'unknown', null],
    ['title', '', null],
    ['with', null, null],
  ])('%s = %j', (path, is, words) => expect(valueWords(path, is, context)).toBe(words))
})
