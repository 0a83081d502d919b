import { describe, expect, it } from 'vitest'
import { DAY_MS, isoOf } from '../cases/shape/moment'
import { planOf } from '../ranking/explain/plan'
import { caseWith, NOW } from '../testing/case-with'
import { DraftChange, withChange, withDraft, type Draft } from './draft'
import { mergedKind, nextBase } from './merging'
import { periodsOf } from './periods'
import { defaultPlaybook, Playbook } from './playbook'
import { clashesOf, shippedKinds, upToDate } from './up-to-date'

const shop = defaultPlaybook()
const BIN = 'gallery-bin'
const bin = shop.kinds.find(({ id }) => id === BIN)!
const empty: Draft = { kinds: [], removed: [], settled: [], by: 'Ottilie', at: '2026-11-24T10:00:00Z' }
const drafted = (change: DraftChange, draft = empty, playbook = shop) => {
  const done = withChange(playbook, draft, change)
  if (!done.ok) throw new Error(`${done.fault.path} ${done.fault.message}`)
  return done.draft
}
const fault = (change: DraftChange, draft = empty) => {
  const done = withChange(shop, draft, change)
  return done.ok ? null : done.fault.message
}
const kindIn = (playbook: typeof shop, id = BIN) => playbook.kinds.find((kind) => kind.id === id)
const own = { ...bin, id: 'our-own-bin', title: 'Our own bin on {device}' }

describe('a draft', () => {
  it('changes nothing until it is taken, and is empty again when a kind is as it was', () => {
    const draft = drafted({ what: 'period', kind: BIN, which: 'kept', period: { minDays: 3, maxDays: 4 } })
    expect(kindIn(shop)!.window).toEqual(bin.window)
    expect(kindIn(withDraft(shop, draft))!.window).toMatchObject({ period: { minDays: 3, maxDays: 4 } })
    expect(drafted({ what: 'kind', kind: bin }, draft).kinds).toEqual([])
    expect(drafted({ what: 'drop', kind: BIN }, draft).kinds).toEqual([])
  })

  it('takes the shop’s own kinds in and out, and leaves shipped ones there', () => {
    const draft = drafted({ what: 'kind', kind: own })
    const taken = withDraft(shop, draft)
    expect(taken.kinds).toHaveLength(shop.kinds.length + 1)
    expect(taken.bases).toEqual([])
    expect(fault({ what: 'remove', kind: BIN })).toMatch(/ships with the program/)
    const without = drafted({ what: 'remove', kind: own.id }, empty, taken)
    expect(withDraft(taken, without).kinds).toHaveLength(shop.kinds.length)
    expect(fault({ what: 'kind', kind: { ...own, nested: 'nowhere' } })).toMatch(/is no kind of route/)
    expect(fault({ what: 'shipped', kind: 'nowhere' })).toMatch(/is not in the playbook/)
  })

  it('brings a kind back as it ships', () => {
    const changed = { ...bin, title: 'Another title' }
    const taken = withDraft(shop, drafted({ what: 'kind', kind: changed }))
    expect(taken.bases.map(({ id }) => id)).toEqual([BIN])
    const back = withDraft(taken, drafted({ what: 'shipped', kind: BIN }, empty, taken))
    expect([kindIn(back), back.bases]).toEqual([bin, []])
  })
})

describe('an update of the shipped playbook', () => {
  /** A shop that changed a kind of an older version: that version differs from the present one in the fields given. */
  const shopOf = (older: object, changes: object) => {
    const base = { ...bin, ...older }
    return {
      ...shop,
      kinds: shop.kinds.map((kind) => (kind.id === BIN ? { ...base, ...changes } : kind)),
      bases: [base],
    }
  }

  it('comes in by field: what the shop changed stays, what it left alone is new', () => {
    const stored = shopOf({ says: 'Old words of the bin.' }, { prior: { ...bin.prior, chance: 0.5 } })
    const now = upToDate(stored)
    expect(kindIn(now)).toEqual({ ...bin, prior: { ...bin.prior, chance: 0.5 } })
    expect(clashesOf(stored)).toEqual([])
    // What came in is no change of the shop's: the next version may change it again.
    expect(now.bases).toEqual([bin])
    expect(upToDate(now)).toEqual(now)
  })

  it('asks where both changed the same field, until somebody decides', () => {
    const stored = upToDate(shopOf({ prior: { ...bin.prior, chance: 0.3 } }, { prior: { ...bin.prior, chance: 0.5 } }))
    const clash = { kind: BIN, field: 'prior.chance', own: 0.5, shipped: bin.prior.chance }
    expect(clashesOf(stored)).toEqual([clash])
    const settle = (takes: 'own' | 'shipped') =>
      withDraft(stored, drafted({ what: 'settle', kind: BIN, field: clash.field, takes }, empty, stored))
    expect([clashesOf(settle('own')), kindIn(settle('own'))!.prior.chance]).toEqual([[], 0.5])
    expect([clashesOf(settle('shipped')), kindIn(settle('shipped'))!.prior.chance]).toEqual([[], bin.prior.chance])
    // A change of another field settles nothing.
    const other = withDraft(
      stored,
      drafted({ what: 'kind', kind: { ...kindIn(stored)!, says: 'Our words.' } }, empty, stored),
    )
    expect(clashesOf(other)).toEqual([clash])
  })

  it('merges every shipped kind with itself to itself', () => {
    for (const kind of shippedKinds()) {
      const merged = mergedKind(kind, kind, kind)
      expect(merged).toEqual({ kind, clashes: [] })
      expect(nextBase(kind, merged, kind, () => false)).toEqual(kind)
    }
  })
})

describe('the periods of a playbook', () => {
  const after = (period: Pick<Extract<DraftChange, { what: 'period' }>, 'kind' | 'which' | 'period'>) =>
    withDraft(shop, drafted({ what: 'period', ...period }))

  it('names each once, in words that need no case, as it is and as it ships', () => {
    const periods = periodsOf(shop)
    expect(periods.length).toBeGreaterThan(20)
    expect(new Set(periods.map(({ kind, which }) => `${kind} ${which}`)).size).toBe(periods.length)
    for (const { title, period, shipped } of periods) {
      expect(title).not.toMatch(/[{}]/)
      expect(period).toEqual(shipped)
    }
    expect(periods.find(({ kind }) => kind === 'cloud-drive-bin')?.title).toBe('Bin of the cloud drive')
  })

  it.each(periodsOf(shop).map(({ kind, which }) => [kind, which] as const))('changes %s, %s, alone', (kind, which) => {
    const changed = after({ kind, which, period: { minDays: 3, maxDays: 44 } })
    const before = periodsOf(shop)
    for (const [at, one] of periodsOf(changed).entries())
      expect(one.period).toEqual(
        one.kind === kind && one.which === which ? { minDays: 3, maxDays: 44 } : before[at]!.period,
      )
    expect(Playbook.parse(changed)).toEqual(changed)
  })

  it('are what windows close by', () => {
    const lost = (days: number) => isoOf(NOW - days * DAY_MS)
    const ofCase = caseWith({
      'devices.d1': { kind: 'phone', platform: 'open-phone', lock: 'unlocked', bins: { photos: 'on' } },
      'wanted.w1': { type: 'photos', count: 50 },
      'loss.how': 'deleted-in-bulk',
      'loss.when': { from: lost(20), to: lost(20) },
    })
    const chance = (of: Playbook) =>
      planOf(ofCase, of, NOW).options.find(({ kind }) => kind === 'gallery-bin')!.chance[1]
    const short = after({ kind: BIN, which: 'kept', period: { minDays: 10, maxDays: 14 } })
    expect(chance(shop)).toBeGreaterThan(0.5)
    expect(chance(short)).toBe(0)
  })

  it('refuses a period that ends before it begins, is no length of time, or of a kind that has none', () => {
    const asked = (minDays: number, maxDays: number) =>
      DraftChange.safeParse({ what: 'period', kind: BIN, which: 'kept', period: { minDays, maxDays } }).success
    expect(asked(10, 9)).toBe(false)
    expect(asked(-1, 9)).toBe(false)
    expect(asked(1, Number.NaN)).toBe(false)
    expect(asked(10, 10)).toBe(true)
    const period = { minDays: 1, maxDays: 2 }
    expect(fault({ what: 'period', kind: 'ask-sender', which: 'kept', period })).toBe('has no such period')
    expect(fault({ what: 'period', kind: 'nobody', which: 'kept', period })).toBe('is not in the playbook')
  })
})
