import { expect, it } from 'vitest'
import { DAY_MS } from '../../../cases/shape/moment'
import type { RouteKind } from '../../../playbook/kinds/route-kind'
import { defaultPlaybook } from '../../../playbook/playbook'
import { ago, ahead, caseWith, NOW } from '../../../testing/case-with'
import { situationOf } from '../../situation/situation'
import { mediumOf } from '../options'
import { WINDOW_RULES, windowOf } from './windows'

type Window = RouteKind['window']
type Facts = Record<string, unknown>

/** Of each rule: the window, and facts with which it closes within the days that are given, and with which it stays open. */
interface Sample<Rule extends Window['rule']> {
  readonly window: Extract<Window, { rule: Rule }>
  readonly closes: Facts | null
  readonly days: number
  readonly stays: Facts
}

const lost = { 'loss.when': ago(10), 'loss.how': 'deleted-in-bulk' }
const stick = { 'devices.d1': { kind: 'stick', storage: { kind: 'stick', capacity: 64e9, free: 1e9 } } }
const backup = { kind: 'computer-backup', taken: ago(12) }

const SAMPLES: { readonly [Rule in Window['rule']]: Sample<Rule> } = {
  open: { window: { rule: 'open' }, closes: null, days: 400, stays: lost },
  kept: {
    window: { rule: 'kept', period: { minDays: 30, maxDays: 40 } },
    closes: { ...lost, 'loss.when': ago(20) },
    days: 21,
    stays: { ...lost, 'loss.when': ago(0) },
  },
  replaced: {
    window: { rule: 'replaced' },
    closes: { ...lost, 'copies.c1': { ...backup, replaced: ahead(1) } },
    days: 2,
    stays: { ...lost, 'copies.c1': backup },
  },
  fades: {
    window: { rule: 'fades', halfLifeDays: 12 },
    closes: { ...lost, 'loss.since.used': 'yes' },
    days: 120,
    stays: { ...lost, 'loss.since.used': 'no' },
  },
  synced: {
    window: { rule: 'synced' },
    closes: { ...lost, 'loss.since.sync': 'on' },
    days: 2,
    stays: { ...lost, 'loss.since.sync': 'off' },
  },
  reused: {
    window: { rule: 'reused' },
    closes: { ...lost, ...stick, 'loss.since.used': 'yes' },
    days: 1000,
    stays: { ...lost, ...stick, 'loss.since.used': 'no' },
  },
  online: {
    window: { rule: 'online' },
    closes: { ...lost, 'copies.c1': { kind: 'other-device', lastOnline: ago(12) } },
    days: 3,
    // No such device, nothing that could go online.
    stays: lost,
  },
  rolled: {
    window: { rule: 'rolled', period: { minDays: 12, maxDays: 14 } },
    closes: { ...lost, 'copies.c1': { kind: 'app-copies' } },
    days: 5,
    stays: { ...lost, 'devices.d1': { kind: 'phone', power: 'off' }, 'copies.c1': { kind: 'app-copies' } },
  },
}

function windowWith(window: Window, facts: Facts) {
  const ofCase = caseWith({ 'devices.d1': { kind: 'phone' }, 'wanted.w1': { type: 'photos' }, ...facts })
  const playbook = defaultPlaybook()
  const scan = playbook.kinds.find(({ brings }) => brings.by === 'storage')!
  const [copy = null, device = null] = [ofCase.copies[0], ofCase.devices[0]]
  const kind = { ...scan, window, by: 'begun' } as const
  const binding = { id: 'x', kind, copy, device, source: 'x', title: 'x', fits: 'sure' } as const
  const closing = windowOf(
    binding,
    mediumOf(binding),
    { handsOn: 10, waiting: [0, 0] },
    situationOf(ofCase, playbook, NOW),
  )
  expect(closing.says()).toMatch(/^[A-Z].*\.$/s)
  return closing
}

it.each(Object.keys(WINDOW_RULES) as Window['rule'][])(
  'the rule “%s” closes, and stays open, as its sample says',
  (rule) => {
    const { window, closes, days, stays } = SAMPLES[rule]
    const open = windowWith(window, stays)
    expect(open.survival(NOW)).toBe(1)
    expect(open.survival(NOW + days * DAY_MS)).toBe(1)
    if (closes === null) return expect(open.earliest).toBeNull()
    const closing = windowWith(window, closes)
    expect(closing.survival(NOW + days * DAY_MS)).toBeLessThan(0.4)
    // It never opens again.
    const course = Array.from({ length: 40 }, (_, at) => closing.survival(NOW + (at * days * DAY_MS) / 20))
    expect([...course].sort((one, other) => other - one)).toEqual(course)
  },
)

it('every rule is used by a kind of route that ships', () => {
  const used = new Set(defaultPlaybook().kinds.map(({ window }) => window.rule))
  expect(Object.keys(WINDOW_RULES).filter((rule) => !used.has(rule as Window['rule']))).toEqual([])
})
