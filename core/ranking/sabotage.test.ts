import { afterEach, describe, expect, it, vi } from 'vitest'
import { defaultPlaybook } from '../playbook/playbook'
import { contradictions, workedCases } from '../testing/worked-cases'

const playbook = defaultPlaybook()
const cases = workedCases()
const ONE = [1, 1, 1] as const

type Module = Record<string, unknown>

/** A dozen mechanisms of the engine, each broken by hand: the module, and what it answers instead. */
const BROKEN: Record<string, { readonly module: string; readonly instead: (real: Module) => Module }> = {
  'writing over destroys nothing': { module: './overwriting', instead: () => ({ wholeAfterWriting: () => 1 }) },
  'filling a card from its start destroys nothing': {
    module: './overwriting',
    instead: () => ({ wholeAfterFilling: () => 1 }),
  },
  'periods never end': { module: './spread', instead: () => ({ sumIsAfter: () => 1 }) },
  'nothing happens at its time': { module: './spread', instead: () => ({ shareAfter: () => 1 }) },
  'media keep everything': {
    module: './survival',
    instead: () => ({ survivalOf: () => ({ value: ONE, fact: null, says: () => 'x' }) }),
  },
  'every copy covers everything': {
    module: './coverage',
    instead: () => ({
      coverageOf: (_: unknown, axis: { slices: unknown[] }) => ({
        bySlice: axis.slices.map(() => ONE),
        fact: null,
        says: () => 'x',
      }),
    }),
  },
  'every gate is open': { module: './gates', instead: () => ({ gatesOf: () => [] }) },
  'every window stays open': {
    module: './windows',
    instead: ({ NEVER }) => ({ windowOf: () => NEVER }),
  },
  'nothing has to come before a restore': {
    module: './preparations',
    instead: () => ({ preparationsOf: () => [], preparationsFor: () => [] }),
  },
  'the loss was just now': {
    module: './loss-range',
    instead: () => ({ lossRangeOf: (_: unknown, now: number) => ({ from: now, to: now, isKnown: true }) }),
  },
  'nothing is forbidden': { module: './holds', instead: () => ({ holdsOf: () => [] }) },
  'nothing is unknown': { module: './unknowns', instead: () => ({ unknownsOf: () => [] }) },
  'waiting costs nothing': {
    module: './waiting',
    instead: () => ({ costOfWaiting: () => ({ hours: 24, money: 0, items: {}, opening: null }) }),
  },
  'the first order found is taken': {
    module: './order',
    instead: () => ({
      bestOrders: ({ steps }: { steps: unknown[] }, parts: unknown[] = []) => {
        const first = { steps: steps.map((_, index) => index), value: 0 }
        return { whole: first, parts: parts.map(() => first), worths: new Float64Array(steps.length << steps.length) }
      },
    }),
  },
}

afterEach(() => {
  for (const { module } of Object.values(BROKEN)) vi.doUnmock(module)
  vi.resetModules()
})

describe('with one mechanism broken, some of the worked cases fail:', () => {
  it.each(Object.entries(BROKEN))('%s', async (_name, { module, instead }) => {
    vi.resetModules()
    vi.doMock(module, async (original) => {
      const real = await original<Module>()
      return { ...real, ...instead(real) }
    })
    const { planOf } = await import('./plan')
    const fails = cases.some((one) => {
      const depth = one.expect.asks || one.expect.asksAmong ? 'whole' : 'order'
      return contradictions(one, planOf(one.ofCase, playbook, one.now, { depth })).length > 0
    })
    expect(fails).toBe(true)
  })
})
