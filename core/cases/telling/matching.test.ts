import { describe, expect, it } from 'vitest'
import { askingOf } from './asking'
import { optionsOf, PLACE_OPTIONS } from './answering'
import { optionFor, optionsMatching } from './matching'

const of = (fact: string) => optionsOf(askingOf(fact)!.control)

describe('near words', () => {
  it.each([
    ['wanted.w1.lived', 'on the card', 'card'],
    ['wanted.w1.lived', 'the memory card', 'card'],
    ['wanted.w1.lived', 'on my laptop', 'device'],
    ['devices.d1.condition', 'workng', 'working'],
    ['devices.d1.condition', 'won’t boot', 'system-crashed'],
    ['devices.d1.condition', "won't start", 'no-power'],
    ['devices.d1.kind', 'a mobile', 'phone'],
    ['devices.d1.kind', 'usb stick', 'stick'],
    ['devices.d1.kind', 'notebok', 'laptop'],
    ['loss.how', 'the bin emptied', 'bin-emptied'],
    ['loss.how', 'wiped', 'deleted-in-bulk'],
    ['loss.how', 'stolen', 'device-gone'],
    ['wanted.w1.type', 'pictures', 'photos'],
    ['wanted.w1.type', 'conversations', 'chats'],
    ['copies.c1.encrypted', 'yes', 'yes'],
    ['copies.c1.encrypted', 'no', 'no'],
  ])('%s: “%s”', (fact, typed, value) => expect(optionFor(of(fact), typed)?.value).toBe(value))

  it.each([
    ['devices.d1.platform', '256 GB'],
    ['wanted.w1.lived', 'not on the card'],
    ['devices.d1.condition', 'wxyz'],
  ])('%s: “%s” is none of the answers', (fact, typed) => expect(optionFor(of(fact), typed)).toBeNull())

  it('every other way of saying it leads to its own answer', () => {
    for (const fact of [
      'devices.d1.kind',
      'loss.how',
      'wanted.w1.type',
      'copies.c1.kind',
      'devices.d1.condition',
      'limits.money',
    ])
      for (const option of of(fact))
        for (const said of option.also ?? [])
          expect(optionFor(of(fact), said)?.value, `${fact}: ${said}`).toBe(option.value)
    for (const option of PLACE_OPTIONS)
      for (const said of option.also ?? []) expect(optionFor(PLACE_OPTIONS, said)?.value, said).toBe(option.value)
  })

  it('a slip counts only where nothing else fits, and never for a short word', () => {
    const options = [
      { value: 'a', words: 'phone' },
      { value: 'b', words: 'phones' },
      { value: 'c', words: 'on' },
    ]
    expect(optionsMatching(options, 'phone').map(({ value }) => value)).toEqual(['a', 'b'])
    expect(optionsMatching(options, 'phohe').map(({ value }) => value)).toEqual(['a'])
    expect(optionFor(options, 'of')).toBeNull()
    expect(optionFor(options, 'fhone')).toBeNull()
  })
})
