import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CASE_STATES, movesFrom, refusalOf } from '../../cases/shape/states'
import { defaultPlaybook, Playbook } from '../../playbook/playbook'
import { ago, ahead, caseWith, NOW } from '../../testing/case-with'
import { fullPlanOf, planOf } from './plan'

const playbook = defaultPlaybook()
type Facts = Record<string, unknown>
const plan = (facts: Facts, book = playbook) => planOf(caseWith(facts), book, NOW)
const option = (facts: Facts, id: string, book = playbook) => {
  const found = plan(facts, book).options.find((one) => one.id === id)
  if (!found) throw new Error(`no ${id}`)
  return found
}

const phone = {
  kind: 'phone',
  platform: 'closed-phone',
  lock: 'unlocked',
  condition: 'working',
  storage: { encryption: 'per-file' },
}
const photos = { type: 'photos', count: 300, made: ago(40, 12) }
const gone = { 'devices.d1': phone, 'wanted.w1': photos, 'loss.how': 'bin-emptied', 'loss.when': ago(10, 9) }
const backup = (taken: unknown, more: object = {}) => ({
  kind: 'computer-backup',
  encrypted: 'no',
  selective: 'yes',
  keepsBin: 'no',
  keeps: ['photos'],
  taken,
  ...more,
})

describe('traps that a fixed order falls into', () => {
  it('the newest backup is the wrong one where it was made after the loss', () => {
    const facts = { ...gone, 'copies.c1': backup(ago(11)), 'copies.c2': backup(ago(2)) }
    expect(plan(facts).order[0]).toBe('backup-selective:c1')
    expect(option(facts, 'backup-selective:c2')).toMatchObject({
      standing: 'closed',
      says: expect.stringContaining('after the loss'),
    })
  })

  it('the oldest is wrong too, where it was made before the items', () => {
    const facts = { ...gone, 'copies.c1': backup(ago(90)), 'copies.c2': backup(ago(11)) }
    expect(plan(facts).order[0]).toBe('backup-selective:c2')
    expect(option(facts, 'backup-selective:c1').says).toContain('before any of them was made')
  })

  it('a backup that was to be replaced is gone, unless that run failed', () => {
    expect(
      option({ ...gone, 'copies.c1': backup(ago(11), { replaced: ago(1, 0.9) }) }, 'backup-selective:c1'),
    ).toMatchObject({
      chance: [expect.any(Number), expect.closeTo(0.22, 1), expect.any(Number)],
      says: expect.stringContaining('unless that run failed'),
    })
    expect(
      option({ ...gone, 'copies.c1': backup(ago(11), { replaced: ahead(3) }) }, 'backup-selective:c1').standing,
    ).toBe('plan')
  })

  it('what is still there beats every scan', () => {
    const laptop = {
      kind: 'laptop',
      platform: 'desktop-pc',
      condition: 'working',
      lock: 'unlocked',
      storage: { kind: 'spinning-disk', encryption: 'none' },
    }
    const facts = {
      'devices.d1': laptop,
      'wanted.w1': photos,
      'loss.how': 'reinstalled',
      'loss.when': ago(3),
      'copies.c1': { kind: 'cloud-library', account: 'known', syncedUntil: ago(4) },
    }
    const { order } = plan(facts)
    expect(order[0]).toBe('cloud-library-kept:c1')
    expect(order.slice(1)).not.toContain('cloud-library-kept:c1')
  })

  it('a locked phone of an encrypted kind has no scan and no laboratory, but its backup opens', () => {
    const locked = { ...phone, lock: 'locked', passcode: 'not-known', spare: 'no' }
    const facts = {
      ...gone,
      'devices.d1': locked,
      'loss.how': 'locked-out',
      'copies.c1': backup(ago(11)),
      'consent.laboratory.answer': 'given',
      'limits.money': 2000,
      'limits.seenBy': 'anyone',
    }
    expect(plan(facts).order).toEqual(['backup-selective:c1'])
    expect(option(facts, 'laboratory:d1').standing).toBe('closed')
    expect(option(facts, 'phone-storage-scan:d1').says).toContain('passcode')
  })

  it('a document that was saved over is in no bin, and its earlier version is', () => {
    const laptop = {
      kind: 'laptop',
      platform: 'desktop-pc',
      condition: 'working',
      lock: 'unlocked',
      bins: { files: 'on' },
      storage: { kind: 'solid-state' },
    }
    const facts = {
      'devices.d1': laptop,
      'wanted.w1': { type: 'documents', count: 1 },
      'loss.how': 'saved-over',
      'loss.when': ago(0.2),
      'copies.c1': { kind: 'earlier-versions', taken: ago(0.6) },
    }
    expect(plan(facts).order[0]).toBe('earlier-versions:c1')
    expect(option(facts, 'computer-bin:d1').standing).toBe('closed')
  })

  it('no expensive route comes before a free one that almost surely recovers the same', () => {
    const facts = {
      ...gone,
      'loss.how': 'deleted-in-bulk',
      'devices.d1': { ...phone, bins: { photos: 'on' } },
      'limits.seenBy': 'anyone',
      'limits.money': 2000,
      'consent.laboratory.answer': 'given',
    }
    const { order, expected } = plan(facts)
    expect(order[0]).toBe('device-photo-bin:d1')
    expect(order).not.toContain('laboratory:d1')
    expect(expected.money).toBe(0)
  })

  it('waiting costs what expires during it, and nothing where nothing expires', () => {
    const tonight = fullPlanOf(
      caseWith({ ...gone, 'copies.c1': backup(ago(11), { replaced: ahead(0.6, 0.62) }) }),
      playbook,
      NOW,
    )
    expect(tonight.plan.waiting.items.w1).toBeGreaterThan(200)
    expect(tonight.plan.waiting.money).toBeGreaterThan(150)
    const never = fullPlanOf(caseWith({ ...gone, 'copies.c1': backup(ago(11)) }), playbook, NOW)
    expect(never.plan.waiting).toMatchObject({ hours: 24, money: 0, items: { w1: 0 } })
  })

  it('what the data is worth to the client moves the stopping point', () => {
    const facts = (worth: number) => ({
      ...gone,
      'devices.d1': {
        ...phone,
        kind: 'external-disk',
        platform: 'removable',
        condition: 'no-power',
        storage: { kind: 'spinning-disk' },
      },
      'loss.how': 'broken',
      'limits.worth': worth,
      'limits.money': 2000,
      'limits.seenBy': 'anyone',
      'consent.laboratory.answer': 'given',
    })
    const [little, much] = [plan(facts(100)), plan(facts(5000))]
    const { worthFrom, says } = little.options.find((option) => option.id === 'laboratory:d1')!
    expect(little.order).toEqual(['laboratory:d1'])
    expect(worthFrom!).toBeGreaterThan(300)
    expect(says).toMatch(`Worth it from about ${worthFrom} up.`)
    expect(plan(facts(worthFrom! * 1.01)).options.find((option) => option.id === 'laboratory:d1')!.worthFrom).toBeNull()
    expect(
      plan(facts(worthFrom! * 0.9)).options.find((option) => option.id === 'laboratory:d1')!.worthFrom,
    ).not.toBeNull()
    expect(much.order).toEqual(['laboratory:d1'])
    expect(much.options.find((option) => option.id === 'laboratory:d1')!.worthFrom).toBeNull()
  })
})

describe('what never happens', () => {
  const bin = (lost: number, minDays: number, maxDays: number) => {
    const kinds = playbook.kinds.map((kind) =>
      kind.id === 'device-photo-bin'
        ? { ...kind, window: { rule: 'kept' as const, period: { minDays, maxDays } } }
        : kind,
    )
    return option(
      { ...gone, 'loss.how': 'deleted-in-bulk', 'loss.when': ago(lost + 2, lost) },
      'device-photo-bin:d1',
      Playbook.parse({ ...playbook, kinds }),
    ).chance[1]
  }

  it('an earlier loss never raises a bin’s chance, and a longer period never lowers it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 50 }),
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 5, max: 40 }),
        fc.integer({ min: 0, max: 20 }),
        (lost, earlier, least, more) => {
          expect(bin(lost + earlier, least, least + 10)).toBeLessThanOrEqual(bin(lost, least, least + 10) + 1e-12)
          expect(bin(lost, least + more, least + more + 10)).toBeGreaterThanOrEqual(
            bin(lost, least, least + 10) - 1e-12,
          )
        },
      ),
      { numRuns: 40 },
    )
  })

  it('no walk of moves leaves the states, and closed is reached from everywhere', () => {
    const facts = { wantedKnown: true, clientKnown: true, runsOpen: 0, runsEnded: 1, dayCountInState: 30 }
    for (const from of CASE_STATES) {
      const seen = new Set([from])
      const queue = [from]
      while (queue.length > 0) {
        const here = queue.shift()!
        for (const to of movesFrom(here)) {
          if (refusalOf(here, { to, waitingFor: 'client', reason: 'because' }, facts) !== null || seen.has(to)) continue
          seen.add(to)
          queue.push(to)
        }
      }
      expect(seen, from).toContain('closed')
    }
  })
})
