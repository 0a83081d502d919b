import { describe, expect, it } from 'vitest'
import { caseWith, ago, NOW } from '../../testing/case-with'
import { answer, optionsOf, wordsOf } from './answering'
import { askingOf } from './asking'
import { emptyCase, type Case } from '../shape/case'
import { COPY_KINDS } from '../shape/copy'
import { withFacts } from '../facts/facts'
import { readBack, tellingOf } from './telling'

const context = { now: NOW, zone: 'Europe/London', currency: 'GBP' }
const factsIn = (ofCase: Case) =>
  tellingOf(ofCase).flatMap((sentence) => sentence.pieces.flatMap((piece) => ('fact' in piece ? [piece.fact] : [])))
const story = {
  'client.name': 'Maud Oxley',
  'devices.d1': { kind: 'phone', make: 'Korvane 7', platform: 'open-phone', lock: 'locked' },
  'wanted.w1': { type: 'photos', count: 300, lived: [{ place: 'device' }, { place: 'card', from: 'unknown' }] },
  'loss.how': 'formatted',
  'loss.when': ago(3, 2),
  'copies.c1': { kind: 'cloud-library' },
}

describe('the telling', () => {
  it('begins with the client and asks for every fact by a word of its own', () => {
    const facts = factsIn(emptyCase())
    expect(facts[0]).toBe('client.name')
    for (const fact of facts) expect(askingOf(fact), fact).not.toBeNull()
    expect(new Set(facts).size).toBe(facts.length)
  })

  it('grows with the story: a lock asks for the passcode, a format for its kind, a card for its day', () => {
    const short = factsIn(emptyCase())
    const long = factsIn(caseWith(story))
    for (const fact of [
      'devices.d1.passcode',
      'loss.format',
      'wanted.w1.lived#card-since',
      'loss.since.sync',
      'copies.c1.account',
    ]) {
      expect(short).not.toContain(fact)
      expect(long).toContain(fact)
    }
  })

  it('asks for a bin only where it can decide: not after a format, nor where the family always has it', () => {
    const bin = 'devices.d1.bins.photos'
    const deleted = { ...story, 'loss.how': 'deleted-in-bulk' }
    expect(factsIn(caseWith(deleted))).toContain(bin)
    expect(factsIn(caseWith(story))).not.toContain(bin)
    expect(factsIn(caseWith({ ...deleted, 'loss.how': 'deleted-past-bin' }))).not.toContain(bin)
    expect(factsIn(caseWith({ ...deleted, 'devices.d1.platform': 'closed-phone' }))).not.toContain(bin)
  })

  it('asks a bare card neither for a lock nor for a family', () => {
    const facts = factsIn(caseWith({ 'devices.d1': { kind: 'card' } }))
    expect(facts).not.toContain('devices.d1.lock')
    expect(facts).not.toContain('devices.d1.platform')
  })

  it.each(COPY_KINDS)('has a sentence for a copy of the kind %s, which can be taken out again', (kind) => {
    const sentence = tellingOf(caseWith({ 'copies.c1': { kind } })).find((one) => one.id === 'copy-c1')!
    expect(sentence.part).toMatchObject({ list: 'copies', id: 'c1' })
    const [first] = sentence.pieces
    expect('text' in first! && first.text).toMatch(
      /^There (is (an? |another |somebody)|are (the |copies|earlier|snapshots))/,
    )
  })

  it('is read back with what is not known said to be', () => {
    const lines = readBack(caseWith(story), context)
    expect(lines[0]).toBe(
      'Maud Oxley, (phone number not known), brings a phone, Korvane 7, open platform, (capacity not known) with (free space not known) free. It is (condition not known), locked, its passcode (passcode not known), wrong codes so far (number of tries not known), (encryption not known).',
    )
    expect(lines.join(' ')).toContain('They were lost in a format, a (kind of format not known) one, 21 to 22 Nov')
    expect(lines.join(' ')).not.toContain('unknown')
  })

  it('every answer of every word, typed as it is shown, is read back as the same word', () => {
    const begun = caseWith(story)
    const words = factsIn(begun).flatMap((fact) =>
      optionsOf(askingOf(fact)!.control).map((option) => ({ fact, words: option.words })),
    )
    expect(words.length).toBeGreaterThan(80)
    for (const { fact, words: typed } of words) {
      const read = answer(begun, fact, typed, context)
      if (!read.ok) throw new Error(`${fact}: ${read.message}`)
      const set = withFacts(begun, read.changes)
      if (!set.ok) throw new Error(`${fact}: ${set.faults[0]?.message}`)
      expect(wordsOf(set.changed, fact, context), fact).toBe(typed)
    }
  })

  it('every word can be said to be not known', () => {
    const begun = caseWith(story)
    for (const fact of factsIn(begun)) {
      const read = answer(begun, fact, '?', context)
      if (!read.ok) throw new Error(fact)
      const set = withFacts(begun, read.changes)
      expect(set.ok && wordsOf(set.changed, fact, context), fact).toBeNull()
    }
  })
})
