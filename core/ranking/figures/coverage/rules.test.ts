import { expect, it } from 'vitest'
import type { Brings } from '../../../playbook/kinds/route-kind'
import { defaultPlaybook } from '../../../playbook/playbook'
import { ago, caseWith, NOW } from '../../../testing/case-with'
import { axesOf } from '../../situation/axis'
import { situationOf } from '../../situation/situation'
import { coverageOf, COVERAGE_RULES } from './coverage'

type Facts = Record<string, unknown>

/** Of each rule: what it reads, facts with which it reaches most of a wanted set, and facts with which it reaches little or none. */
interface Sample<By extends Brings['by']> {
  readonly brings: Extract<Brings, { by: By }>
  readonly most: Facts
  readonly little: Facts
}

const lost = { 'loss.when': ago(10), 'loss.how': 'deleted-in-bulk' }
const library = { kind: 'cloud-library', syncedUntil: ago(11) }
const outOfStep = { ...library, syncedUntil: ago(50) }
const SHARE = [0.1, 0.4, 0.9] as const

const SAMPLES: { readonly [By in Brings['by']]: Sample<By> } = {
  bin: { brings: { by: 'bin' }, most: lost, little: { ...lost, 'loss.how': 'factory-reset' } },
  'library-bin': {
    brings: { by: 'library-bin' },
    most: { ...lost, 'copies.c1': library },
    little: { ...lost, 'copies.c1': { ...library, binEmptied: 'yes' } },
  },
  library: {
    brings: { by: 'library' },
    most: { ...lost, 'copies.c1': library },
    little: { ...lost, 'copies.c1': outOfStep },
  },
  versions: {
    brings: { by: 'versions' },
    most: { ...lost, 'copies.c1': library },
    little: { ...lost, 'copies.c1': outOfStep },
  },
  snapshot: {
    brings: { by: 'snapshot' },
    most: { ...lost, 'copies.c1': { kind: 'computer-backup', taken: ago(12) } },
    little: { ...lost, 'copies.c1': { kind: 'computer-backup', taken: ago(5) } },
  },
  storage: {
    brings: { by: 'storage', broken: false },
    most: { ...lost, 'copies.c1': { kind: 'disk-image', taken: ago(8) } },
    little: { ...lost, 'copies.c1': { kind: 'disk-image', taken: ago(60) } },
  },
  person: {
    brings: { by: 'person', share: [...SHARE] },
    most: { ...lost, 'copies.c1': { kind: 'person', count: 200 } },
    little: { ...lost, 'copies.c1': { kind: 'person', count: 2 } },
  },
  place: {
    brings: { by: 'place', share: [...SHARE] },
    most: { 'loss.when': ago(10) },
    little: { ...lost, 'loss.how': 'factory-reset' },
  },
  autosave: {
    brings: { by: 'autosave' },
    most: { ...lost, 'loss.how': 'crashed-before-saving' },
    little: lost,
  },
  rows: {
    brings: { by: 'rows', share: [...SHARE], halfLifeDays: 12 },
    most: { ...lost, 'loss.how': 'locked-out' },
    little: { ...lost, 'loss.how': 'app-removed' },
  },
  account: {
    brings: { by: 'account', share: [...SHARE] },
    most: { ...lost, 'copies.c1': { kind: 'social-account', count: 200 } },
    little: { ...lost, 'copies.c1': { kind: 'social-account', count: 2 } },
  },
  present: { brings: { by: 'present' }, most: { ...lost, 'loss.how': 'not-lost-yet' }, little: lost },
  'other-device': {
    brings: { by: 'other-device' },
    most: { ...lost, 'copies.c1': { kind: 'other-device', lastOnline: ago(11) } },
    little: { ...lost, 'copies.c1': { kind: 'other-device', lastOnline: ago(50) } },
  },
  rolling: {
    brings: { by: 'rolling' },
    most: { ...lost, 'copies.c1': { kind: 'app-copies' } },
    little: { ...lost, 'loss.how': 'factory-reset', 'copies.c1': { kind: 'app-copies' } },
  },
  'kept-folder': {
    brings: { by: 'kept-folder', share: [0.7, 0.8, 0.9] },
    most: lost,
    little: { ...lost, 'copies.c1': { kind: 'file-history', placeholders: 'yes' } },
  },
  // What holds nothing has no case in which it reaches most.
  nothing: { brings: { by: 'nothing' }, most: lost, little: lost },
}

function reached(brings: Brings, facts: Facts) {
  const ofCase = caseWith({
    'devices.d1': { kind: 'phone', platform: 'open-phone' },
    'wanted.w1': { type: 'photos', count: 200, made: ago(40, 12) },
    ...facts,
  })
  const playbook = defaultPlaybook()
  const [copy = null, device = null] = [ofCase.copies[0], ofCase.devices[0]]
  const kind = { ...playbook.kinds[0]!, brings }
  const binding = { id: 'x', kind, copy, device, source: 'x', title: 'x', fits: 'sure' } as const
  const [axis] = axesOf(ofCase, playbook.shop.weights)
  const coverage = coverageOf(binding, axis!, situationOf(ofCase, playbook, NOW))
  expect(coverage.bySlice).toHaveLength(axis!.slices.length)
  expect(coverage.says()).toMatch(/^[A-Z].*\.$/s)
  for (const [low, mid, high] of coverage.bySlice) {
    expect(low).toBeGreaterThanOrEqual(0)
    expect(mid).toBeGreaterThanOrEqual(low)
    expect(high).toBeGreaterThanOrEqual(mid)
    expect(high).toBeLessThanOrEqual(1)
  }
  return coverage.bySlice.reduce((sum, [, mid]) => sum + mid, 0) / coverage.bySlice.length
}

it.each(Object.keys(COVERAGE_RULES) as Brings['by'][])('the rule “%s” reaches what its sample says', (by) => {
  const { brings, most, little } = SAMPLES[by]
  expect(reached(brings, little)).toBeLessThan(0.1)
  if (by === 'nothing') expect(reached(brings, most)).toBe(0)
  else expect(reached(brings, most)).toBeGreaterThan(by === 'place' ? 0.5 : 0.7)
})

it('every rule is used by a kind of route that ships', () => {
  const used = new Set(defaultPlaybook().kinds.map(({ brings }) => brings.by))
  expect(Object.keys(COVERAGE_RULES).filter((by) => !used.has(by as Brings['by']))).toEqual([])
})
