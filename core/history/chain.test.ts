import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CHAIN_START, chainDigest, printedHead, verifyChain, type ChainEntry } from './chain'

const KEY = Buffer.alloc(32, 7)
const facts = fc.record({
  caseId: fc.integer({ min: 1, max: 9 }),
  version: fc.integer({ min: 1, max: 90 }),
  at: fc.constantFrom('2026-11-24T10:42:00.000Z', '2026-11-25T09:00:00.000Z'),
  by: fc.string({ maxLength: 12 }),
  kind: fc.constantFrom('fact', 'bench', 'moved'),
  isEarlier: fc.boolean(),
  sealed: fc.uint8Array({ minLength: 1, maxLength: 40 }),
})
type Facts = Omit<ChainEntry, 'id' | 'content' | 'digest'>

function chainOf(all: readonly Facts[], key: Uint8Array = KEY): ChainEntry[] {
  let before = CHAIN_START
  return all.map((one, at) => {
    const entry = { ...one, id: at + 1, content: createHash('sha256').update(one.sealed).digest('hex') }
    before = chainDigest(key, before, entry)
    return { ...entry, digest: before }
  })
}
const chains = fc.array(facts, { minLength: 3, maxLength: 12 }).map((all) => chainOf(all))
const at = (all: readonly ChainEntry[], random: number) => Math.min(Math.floor(random * all.length), all.length - 1)
const unit = fc.integer({ min: 0, max: 999 }).map((one) => one / 1000)

describe('the chain of the history', () => {
  it('fits as it was written, to each of its heads', () => {
    fc.assert(
      fc.property(chains, unit, (all, random) => {
        const entry = all[at(all, random)]!
        for (const head of [
          printedHead({ count: entry.id, digest: entry.digest }),
          entry.digest,
          entry.digest.slice(0, 16),
        ])
          expect(verifyChain(KEY, all, { head, expected: all.length })).toMatchObject({
            fits: true,
            head: { count: all.length, digest: all.at(-1)!.digest },
            earlier: all.filter((one) => one.isEarlier).length,
          })
      }),
    )
  })

  it('names the first entry of which any field was changed', () => {
    const changes: readonly ((entry: ChainEntry) => Partial<ChainEntry>)[] = [
      ({ caseId }) => ({ caseId: caseId + 1 }),
      ({ version }) => ({ version: version + 1 }),
      () => ({ at: '2026-11-24T10:42:00.001Z' }),
      ({ by }) => ({ by: `${by}x` }),
      ({ kind }) => ({ kind: `${kind}s` }),
      ({ isEarlier }) => ({ isEarlier: !isEarlier }),
      ({ content }) => ({ content: content.replace(/^./, (one) => (one === '0' ? '1' : '0')) }),
      ({ sealed }) => ({ sealed: Uint8Array.from(sealed, (byte, place) => (place === 0 ? byte ^ 1 : byte)) }),
      ({ digest }) => ({ digest: digest.replace(/^./, (one) => (one === '0' ? '1' : '0')) }),
    ]
    fc.assert(
      fc.property(chains, unit, fc.constantFrom(...changes), (all, random, change) => {
        const place = at(all, random)
        const changed = all.map((entry, index) => (index === place ? { ...entry, ...change(entry) } : entry))
        expect(verifyChain(KEY, changed)).toMatchObject({ fits: false, entry: { id: place + 1 } })
      }),
    )
  })

  it('does not confuse fields whose texts run into each other', () => {
    const [one] = chainOf([
      { caseId: 1, version: 12, at: 'x', by: 'ab', kind: 'c', isEarlier: false, sealed: Uint8Array.of(1) },
    ])
    expect(chainDigest(KEY, CHAIN_START, { ...one!, by: 'a', kind: 'bc' })).not.toBe(one!.digest)
    expect(chainDigest(KEY, CHAIN_START, { ...one!, caseId: 11, version: 2 })).not.toBe(one!.digest)
  })

  it('names the entry behind one that was removed, and says which is missing', () => {
    fc.assert(
      fc.property(chains, unit, (all, random) => {
        const place = at(all.slice(0, -1), random)
        const report = verifyChain(KEY, [...all.slice(0, place), ...all.slice(place + 1)])
        expect(report).toMatchObject({
          fits: false,
          entry: { id: place + 2 },
          why: `entry ${place + 1} is missing before it`,
        })
      }),
    )
  })

  it('does not fit either where the ones behind a removed entry were numbered again', () => {
    const all = chainOf(fc.sample(facts, { numRuns: 6, seed: 5 }))
    const closed = all.filter((_, index) => index !== 2).map((entry, index) => ({ ...entry, id: index + 1 }))
    expect(verifyChain(KEY, closed)).toMatchObject({ fits: false, entry: { id: 3 } })
  })

  it('whose end was cut is recognised by the number of entries written, and by any head from the end', () => {
    fc.assert(
      fc.property(chains, unit, (all, random) => {
        const cut = all.slice(0, at(all, random))
        expect(verifyChain(KEY, cut, { expected: all.length })).toMatchObject({
          fits: false,
          why: expect.stringContaining('the end is missing'),
        })
        const { id: count, digest } = all.at(-1)!
        for (const head of [printedHead({ count, digest }), digest])
          expect(verifyChain(KEY, cut, { head })).toMatchObject({
            fits: false,
            why: expect.stringContaining('does not contain'),
          })
      }),
    )
  })

  it('that was rebuilt without the key fits at no entry; rebuilt with it, not to a head that was printed', () => {
    fc.assert(
      fc.property(chains, (all) => {
        const { id: count, digest } = all.at(-1)!
        const rebuilt = (key: Uint8Array) =>
          chainOf(
            all.map((one) => ({ ...one, by: 'nobody' })),
            key,
          )
        expect(verifyChain(KEY, rebuilt(Buffer.alloc(32, 8)))).toMatchObject({ fits: false, entry: { id: 1 } })
        fc.pre(all.some(({ by }) => by !== 'nobody'))
        expect(verifyChain(KEY, rebuilt(KEY), { head: printedHead({ count, digest }) })).toMatchObject({
          fits: false,
          why: expect.stringContaining('written anew'),
        })
      }),
    )
  })

  it('takes nothing for a head that is none', () => {
    for (const head of ['', 'x', '12', 'abcdef', '12-abcde', '5-0a1b2-c3d4e-5f607-1829z'])
      expect(verifyChain(KEY, [], { head })).toMatchObject({
        fits: false,
        why: expect.stringContaining('is not a head'),
      })
    expect(verifyChain(KEY, [])).toEqual({ fits: true, head: { count: 0, digest: CHAIN_START }, earlier: 0 })
  })
})
