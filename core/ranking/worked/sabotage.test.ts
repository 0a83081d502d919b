import { afterEach, describe, expect, it, vi } from 'vitest'
import { defaultPlaybook } from '../../playbook/playbook'
import { contradictions, workedCases } from '../../testing/worked-cases'

const playbook = defaultPlaybook()
const cases = workedCases()
const ONE = [1, 1, 1] as const

type Module = Record<string, unknown>

/** A dozen mechanisms of the engine, each broken by hand: the module, and what it answers instead. */
const BROKEN: Record<string, { readonly module: string; readonly instead: (real: Module) => Module }> = {
  'writing over destroys nothing': {
    module: '../figures/overwriting',
    instead: () => ({ wholeAfterWriting: () => 1 }),
  },
  'filling a card from its start destroys nothing': {
    module: '../figures/overwriting',
    instead: () => ({ wholeAfterFilling: () => 1 }),
  },
  'periods never end': { module: '../situation/spread', instead: () => ({ sumIsAfter: () => 1 }) },
  'nothing happens at its time': { module: '../situation/spread', instead: () => ({ shareAfter: () => 1 }) },
  'media keep everything': {
    module: '../figures/survival',
    instead: () => ({ survivalOf: () => ({ value: ONE, fact: null, says: () => 'x' }) }),
  },
  'every copy covers everything': {
    module: '../figures/coverage/coverage',
    instead: () => ({
      coverageOf: (_: unknown, axis: { slices: unknown[] }) => ({
        bySlice: axis.slices.map(() => ONE),
        fact: null,
        says: () => 'x',
      }),
    }),
  },
  'every gate is open': { module: '../figures/gates', instead: () => ({ gatesOf: () => [] }) },
  'every window stays open': {
    module: '../figures/windows/windows',
    instead: () => ({
      windowOf: () => ({ survival: () => 1, earliest: null, latest: null, fact: null, says: () => 'x' }),
    }),
  },
  'nothing has to come before a restore': {
    module: '../order/preparations',
    instead: () => ({ preparationsOf: () => [], preparationsFor: () => [] }),
  },
  'the loss was just now': {
    module: '../situation/loss-range',
    instead: () => ({ lossRangeOf: (_: unknown, now: number) => ({ from: now, to: now, isKnown: true }) }),
  },
  'nothing is forbidden': { module: '../explain/holds', instead: () => ({ holdsOf: () => [] }) },
  'nothing is unknown': { module: '../order/unknowns', instead: () => ({ unknownsOf: () => [] }) },
  'waiting costs nothing': {
    module: '../explain/waiting',
    instead: () => ({ costOfWaiting: () => ({ hours: 24, money: 0, items: {}, opening: null }) }),
  },
  'the first order found is taken': {
    module: '../order/order',
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
    const { planOf } = await import('../explain/plan')
    const fails = cases.some((one) => {
      const depth = one.expect.asks || one.expect.asksAmong ? 'whole' : 'order'
      return contradictions(one, planOf(one.ofCase, playbook, one.now, { depth })).length > 0
    })
    expect(fails).toBe(true)
  })
})
