import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Case } from '../cases/shape/case'
import { heldFor, lentTo, placeOf, whereabouts } from '../cases/shape/custody'
import { accountOf } from '../cases/shape/money'
import { openingStop } from '../cases/shape/permission'
import { defaultPlaybook } from '../playbook/playbook'
import { caseWith, endedRun, NOW } from '../testing/case-with'
import { agreementWords } from './agreement-words'
import { applied, priceLimit, type HandoverContext } from './apply'
import { receiptCode, sameCode } from './code'
import { HandoverWrite, type HandoverInput } from './writes'

const { shop } = defaultPlaybook({ name: 'Lamp & Lock' })
const context: HandoverContext = {
  by: 'Bram',
  at: new Date(NOW).toISOString(),
  shop,
  codes: ['7KQ2-M4XD'],
  receipt: 'R-2026-0001',
}
const FACTS = {
  'client.name': 'Maud Oxley',
  'authority.basis': 'own',
  'devices.d1': { kind: 'phone', make: 'Korvane 7' },
  'wanted.w1': { type: 'photos', count: 10 },
}
const begun = caseWith(FACTS)

/** The case after these things, each of which has to be accepted; it stays a valid case. */
function after(ofCase: Case, ...writes: HandoverInput[]): Case {
  return writes.reduce((before, write) => {
    const done = applied(before, HandoverWrite.parse(write), context)
    if (!done.ok) throw new Error(`${write.do}: ${done.why}`)
    return Case.parse(done.after)
  }, ofCase)
}
function why(ofCase: Case, write: HandoverInput): string {
  const done = applied(ofCase, HandoverWrite.parse(write), context)
  return done.ok ? 'accepted' : done.why
}

const phone = { part: 'd1', words: 'Korvane 7', serial: 'KV7-1', condition: 'cracked', accessories: 'case' }
const receive = {
  do: 'receive' as const,
  things: [phone],
  place: 'drawer 4',
  person: 'Maud Oxley',
} satisfies HandoverInput
const back = (more: object = {}) =>
  ({
    do: 'give-back',
    things: ['t1'],
    person: 'Maud Oxley',
    against: 'receipt',
    code: '7kq2 m4xd',
    ...more,
  }) as HandoverInput
const agree = (what: ('look-through' | 'erase' | 'price')[], more: object = {}, ofCase = begun) =>
  ({
    do: 'agree',
    what,
    person: 'Maud Oxley',
    how: 'in-words',
    text: agreementWords(what, ofCase, shop, (more as { limit?: number }).limit ?? null),
    ...more,
  }) as HandoverInput

describe('what a client hands in', () => {
  it('is in the shop at its place until it is given back, and can come in again', () => {
    const held = after(begun, receive, { do: 'move', thing: 't1', place: 'bench 2' })
    expect(heldFor(held.things).map(placeOf)).toEqual(['bench 2'])
    expect(why(held, receive)).toContain('already in the shop')
    const gone = after(held, back())
    expect([heldFor(gone.things), gone.things.map(whereabouts)]).toEqual([[], ['with-client']])
    expect(why(gone, { do: 'move', thing: 't1', place: 'bench 2' })).toContain('not in the shop')
    const again = after(gone, { ...receive, things: [{ ...phone, serial: '' }] })
    expect(again.things).toHaveLength(1)
    expect([again.things[0]!.steps.map(({ step }) => step), again.things[0]!.serial]).toEqual([
      ['received', 'moved', 'returned', 'received'],
      'KV7-1',
    ])
  })

  it('goes back only against its receipt or another proof, and to a person', () => {
    const held = after(begun, receive)
    expect(why(held, back({ code: 'AAAA-AAAA' }))).toContain('not the code of a receipt')
    expect(why(held, back({ code: '' }))).toContain('not the code of a receipt')
    expect(why(held, back({ against: 'identity', code: '' }))).toBe('accepted')
    expect(HandoverWrite.safeParse(back({ person: ' ' })).success).toBe(false)
    expect(HandoverWrite.safeParse(back({ against: null })).success).toBe(false)
    expect(why(held, back({ things: ['t1', 't2'] }))).toContain('Not all of that')
    const working = { ...held, runs: [endedRun([], { ended: null })] }
    expect(why(working, back())).toContain('A run is still open')
  })

  it('is disposed of only where nobody collected it; a loan comes back wiped or not', () => {
    const held = after(begun, receive, { do: 'lend', words: 'Loan phone 2', person: 'Maud Oxley' })
    expect(why(held, { do: 'dispose', thing: 't1', isWiped: true, note: 'recycled' })).toContain('uncollected')
    const left = Case.parse({ ...held, state: { name: 'uncollected' } })
    const done = after(
      left,
      { do: 'dispose', thing: 't1', isWiped: true, note: 'recycled' },
      { do: 'take-loan-back', thing: 't2', isWiped: false },
    )
    expect(done.things.map(whereabouts)).toEqual(['disposed', 'in-shop'])
    expect([heldFor(done.things), lentTo(done.things)]).toEqual([[], []])
    expect(done.things.map(({ steps }) => steps.at(-1)!.isWiped)).toEqual([true, false])
  })
})

describe('an agreement', () => {
  it('is the consent that opens what a client brought, and closes it again when it is taken back', () => {
    const agreed = after(begun, agree(['look-through', 'erase']))
    expect(openingStop(agreed)).toBeNull()
    expect(agreed.consent.erase).toMatchObject({ answer: 'given', by: 'Maud Oxley' })
    const [own] = agreed.agreements
    expect(own!.text).toContain('Lamp & Lock may open and look through the data on Korvane 7')
    const taken = after(agreed, { do: 'take-back', agreement: own!.id })
    expect(openingStop(taken)?.code).toBe('refused')
    expect(taken.consent.erase.answer).toBe('refused')
    expect(why(taken, { do: 'take-back', agreement: own!.id })).toContain('already taken back')
    // What another agreement still says stays given.
    const twice = after(begun, agree(['look-through', 'erase']), agree(['look-through']))
    const less = after(twice, { do: 'take-back', agreement: twice.agreements[0]!.id })
    expect([less.consent.lookThrough.answer, less.consent.erase.answer]).toEqual(['given', 'refused'])
  })

  it('holds the words that were shown, and is signed where it says so', () => {
    expect(why(begun, agree(['look-through'], { text: 'Anything goes.' }))).toContain('words have changed')
    expect(why(begun, agree(['look-through'], { how: 'signed-here' }))).toContain('not signed yet')
    expect(why(begun, agree(['look-through'], { how: 'on-paper' }))).toContain('picture of the signed paper')
    expect(why(begun, agree(['price']))).toContain('up to which price')
    const other = caseWith({ ...FACTS, 'authority.basis': 'estate' })
    expect(agreementWords(['look-through'], other, shop, null)).toContain('not mine alone')
    expect(agreementWords(['result'], begun, shop, null)).not.toContain('The data are mine')
  })

  it('to a price is the limit above which nothing is charged', () => {
    const agreed = after(begun, agree(['price'], { limit: 100 }))
    expect([priceLimit(agreed), agreed.limits.money]).toEqual([100, 100])
    const charge = (amount: number) => ({ do: 'charge', words: 'Reading the card', amount }) as const
    const charged = after(agreed, charge(70))
    expect(why(charged, charge(40))).toContain('above the £100.00')
    const more = after(charged, agree(['price'], { limit: 150 }), charge(40))
    expect(accountOf(more.money).total).toBe(110)
    const less = after(more, { do: 'cancel-charge', charge: 'p1', reason: 'not needed' })
    expect(accountOf(less.money).total).toBe(40)
    expect(why(less, { do: 'cancel-charge', charge: 'p1', reason: 'again' })).toContain('already cancelled')
  })
})

describe('money', () => {
  it('adds up whatever is charged, cancelled, paid and refunded; the tax is within the total', () => {
    const pence = fc.integer({ min: 1, max: 100_000 }).map((sum) => sum / 100)
    fc.assert(
      fc.property(fc.array(pence, { maxLength: 8 }), fc.array(pence, { maxLength: 8 }), (charges, payments) => {
        const money = after(
          begun,
          ...charges.map((amount) => ({ do: 'charge', words: 'x', amount }) as const),
          ...payments.map((amount) => ({ do: 'pay', kind: 'payment', amount, way: 'cash' }) as const),
        ).money
        const { total, paid, open, tax } = accountOf({ ...money, taxPercent: 20 })
        const sum = (all: number[]) => Math.round(all.reduce((so, one) => so + one, 0) * 100) / 100
        expect([total, paid]).toEqual([sum(charges), sum(payments)])
        expect(open).toBeCloseTo(total - paid, 6)
        expect(tax).toBeCloseTo(total / 6, 1)
      }),
    )
  })

  it('is refunded only as far as it was paid, and a quote is a range', () => {
    expect(why(begun, { do: 'pay', kind: 'refund', amount: 1, way: 'cash' })).toContain('more than was paid')
    const paid = after(
      begun,
      { do: 'pay', kind: 'deposit', amount: 30, way: 'cash' },
      { do: 'pay', kind: 'refund', amount: 10, way: 'cash' },
    )
    expect(accountOf(paid.money)).toMatchObject({ total: 0, paid: 20, open: -20 })
    expect(why(begun, { do: 'quote', low: 50, high: 20, nothingBack: 0 })).toContain('above the higher one')
    expect(after(begun, { do: 'quote', low: 20, high: 50, nothingBack: 0 }).money.quote).toMatchObject({ high: 50 })
  })
})

describe('a case that is stopped', () => {
  const stopped = after(begun, receive, agree(['look-through']), { do: 'freeze', cause: 'illegal', says: 'in the bin' })

  it('stays as it is, whatever was agreed to, until an owner lifts the stop', () => {
    expect(openingStop(stopped)?.code).toBe('stopped')
    const nothing: HandoverInput = { do: 'outcome', ending: 'nothing', delivered: [] }
    for (const write of [back(), receive, agree(['erase']), nothing])
      expect(why(stopped, write), write.do).toContain('stopped')
    expect(why(stopped, { do: 'contact', way: 'was-called', says: 'asked when it is ready' })).toBe('accepted')
    const lifted = after(stopped, { do: 'lift', reason: 'cleared' })
    expect(openingStop(lifted)).toBeNull()
    expect(why(lifted, back())).toBe('accepted')
    expect(why(lifted, { do: 'lift', reason: 'again' })).toContain('not stopped')
  })
})

it('what the client said of a group last is what counts', () => {
  const check = (mark: 'right' | 'missing', group = '2026-11-03') =>
    ({ do: 'check', wanted: 'w1', group, mark, note: '' }) as const
  const checked = after(begun, check('missing'), check('right', 'all'), check('right'))
  expect(checked.checks.map(({ group, mark }) => [group, mark])).toEqual([
    ['all', 'right'],
    ['2026-11-03', 'right'],
  ])
  expect(why(begun, { ...check('right'), wanted: 'w9' })).toContain('no longer in the case')
  expect(HandoverWrite.safeParse(check('right', 'yesterday')).success).toBe(false)
})

it('codes are read however they are written, and no letter is likelier than another', () => {
  expect(sameCode('7KQ2-M4XD', ' 7kq2m4xd ')).toBe(true)
  expect([sameCode('', ''), sameCode('7KQ2-M4XD', '7KQ2-M4X')]).toEqual([false, false])
  expect(() => receiptCode(new Uint8Array(4))).toThrow('too few')
  const firsts = Array.from({ length: 240 }, (_, byte) => receiptCode(Uint8Array.from([byte, 1, 2, 3, 4, 5, 6, 7]))[0]!)
  const counts = new Map(firsts.map((letter) => [letter, firsts.filter((one) => one === letter).length]))
  expect([counts.size, ...new Set(counts.values())]).toEqual([30, 8])
  // A byte that would make some letters likelier is left out.
  expect(receiptCode(Uint8Array.from([255, 0, 1, 2, 3, 4, 5, 6, 7]))).toBe('2345-6789')
})
