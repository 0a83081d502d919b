import { afterEach, describe, expect, it, vi } from 'vitest'
import { defaultPlaybook } from '../../playbook/playbook'
import { contradictions, workedCases } from '../../testing/worked-cases'
import type { History } from '../order/histories'

const playbook = defaultPlaybook()
const cases = workedCases()
const ONE = [1, 1, 1] as const

type Module = Record<string, unknown>

/** A mechanism of the engine broken by hand: the module, and what it answers instead. */
interface Broken {
  readonly module: string
  readonly instead: (real: Module) => Module
  /** how many of the worked cases fail at least; one where missing */
  readonly atLeast?: number
}

const BROKEN: Record<string, Broken> = {
  'writing over destroys nothing': {
    module: '../figures/overwriting',
    instead: () => ({ wholeAfterWriting: () => 1 }),
  },
  'filling a card from its start destroys nothing': {
    module: '../figures/overwriting',
    instead: () => ({ wholeWhereLaid: () => 1 }),
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
  'nothing is forbidden': { module: '../explain/holds/rules', instead: () => ({ holdsOf: () => [] }) },
  'nothing is unknown': { module: '../order/unknowns', instead: () => ({ unknownsOf: () => [] }) },
  'waiting costs nothing': {
    module: '../explain/waiting',
    instead: () => ({ costOfWaiting: () => ({ hours: 24, money: 0, items: {}, opening: null }) }),
  },
  'encryption is ignored': {
    module: '../figures/encryption',
    instead: () => {
      const none = () => ({ value: ONE, fact: null, says: () => 'x' })
      return {
        encryption: none,
        encryptionWhileThere: none,
        encryptionOdds: () => ({ none: 1, 'whole-device': 0, 'per-file': 0 }),
      }
    },
    // Erased keys are the physics that most often says no.
    atLeast: 3,
  },
  'nothing can be repaired': { module: '../../playbook/repairs', instead: () => ({ repairOf: () => null }) },
  'no condition forbids anything': {
    module: '../explain/holds/by-condition',
    instead: () => ({ byCondition: () => [] }),
  },
  'no way of losing forbids anything': { module: '../explain/holds/by-cause', instead: () => ({ byCause: () => [] }) },
  'nothing is asked for that is not in the case': {
    module: '../explain/not-open-yet',
    instead: () => ({ missingCopies: () => [], reopening: () => [] }),
  },
  'the first step found is taken': {
    module: '../order/planned',
    instead: (real: Record<string, unknown>) => ({
      ...real,
      plannedFor: ({ steps }: { steps: unknown[] }) => ({
        next: ({ worked, failed, void: closed }: History) => {
          const step = steps.findIndex((_, index) => !((worked | failed | closed) & (1 << index)))
          return step < 0 ? null : step
        },
        value: 0,
        exact: steps.map((_, index) => index).slice(0, 8),
      }),
    }),
  },
}

afterEach(() => {
  for (const { module } of Object.values(BROKEN)) vi.doUnmock(module)
  vi.resetModules()
})

describe('with one mechanism broken, some of the worked cases fail:', () => {
  it.each(Object.entries(BROKEN))('%s', async (_name, { module, instead, atLeast = 1 }) => {
    vi.resetModules()
    vi.doMock(module, async (original) => {
      const real = await original<Module>()
      return { ...real, ...instead(real) }
    })
    const { planOf } = await import('../explain/plan')
    let failing = 0
    for (const one of cases) {
      const depth = one.expect.asks || one.expect.asksAmong ? 'whole' : 'order'
      if (contradictions(one, planOf(one.ofCase, playbook, one.now, { depth })).length > 0) failing++
      if (failing === atLeast) break
    }
    expect(failing).toBe(atLeast)
  })
})
