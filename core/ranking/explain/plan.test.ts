import { isDeepStrictEqual } from 'node:util'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyCase, type Case } from '../../cases/shape/case'
import { withFacts } from '../../cases/facts/facts'
import { DAY_MS, isoOf } from '../../cases/shape/moment'
import { ago, ahead, caseWith, endedRun, NOW } from '../../testing/case-with'
import { defaultPlaybook } from '../../playbook/playbook'
import { consider, type Considered } from './consider'
import { isShareFactor } from '../figures/factor'
import { fullPlanOf, planOf } from './plan'
import { isAllBack, Plan, type PlanOption } from '../situation/plan-shape'

const now = NOW
const playbook = defaultPlaybook()

const closedPhone = {
  kind: 'phone',
  platform: 'closed-phone',
  lock: 'unlocked',
  condition: 'working',
  storage: { encryption: 'per-file' },
}
const openPhone = { ...closedPhone, platform: 'open-phone' }
const photos = { type: 'photos', count: 300, made: ago(40, 12), lived: [{ place: 'device' }] }
const deleted = { 'loss.how': 'deleted-in-bulk', 'loss.when': ago(10, 8) }

function optionIn(facts: Record<string, unknown>, id: string, at = now): PlanOption {
  const option = planOf(caseWith(facts), playbook, at, { depth: 'order' }).options.find((one) => one.id === id)
  if (!option) throw new Error(`no option ${id}`)
  return option
}
const meanReach = (option: PlanOption) =>
  option.reach.w1!.reduce((sum, value) => sum + value, 0) / option.reach.w1!.length

describe('bins', () => {
  const facts = { 'devices.d1': closedPhone, 'wanted.w1': photos, ...deleted }

  it('a photo bin comes first after an ordinary deletion', () => {
    expect(planOf(caseWith(facts), playbook, now).order[0]).toBe('device-photo-bin:d1')
  })

  it('closes between the least and the longest period after the loss, never on one false date', () => {
    const bin = optionIn(facts, 'device-photo-bin:d1')
    expect(bin.closes).toEqual([isoOf(now - 10 * DAY_MS + 30 * DAY_MS), isoOf(now - 8 * DAY_MS + 40 * DAY_MS)])
  })

  it('fades while it closes and is closed after that', () => {
    const chanceAfter = (days: number) => optionIn(facts, 'device-photo-bin:d1', now + days * DAY_MS).chance[1]
    expect(chanceAfter(19)).toBeCloseTo(chanceAfter(0), 9)
    expect(chanceAfter(25)).toBeLessThan(chanceAfter(19))
    expect(optionIn(facts, 'device-photo-bin:d1', now + 40 * DAY_MS).standing).toBe('closed')
  })

  it.each(['bin-emptied', 'factory-reset', 'saved-over'])('holds nothing after %s', (how) => {
    expect(optionIn({ ...facts, 'loss.how': how }, 'device-photo-bin:d1').standing).toBe('closed')
  })

  it('a gallery bin that was off kept nothing; on, it is nearly sure; unknown, in between', () => {
    const chance = (photosBin: string) =>
      optionIn({ ...facts, 'devices.d1': { ...openPhone, bins: { photos: photosBin } } }, 'gallery-bin:d1').chance[1]
    expect(chance('off')).toBe(0)
    expect(chance('on')).toBeGreaterThan(0.9)
    expect(chance('unknown')).toBeGreaterThan(0.4)
    expect(chance('unknown')).toBeLessThan(0.8)
  })

  it('is out of reach on a phone that nobody can unlock', () => {
    const bin = optionIn(
      { ...facts, 'devices.d1': { ...closedPhone, lock: 'locked', passcode: 'not-known' } },
      'device-photo-bin:d1',
    )
    expect(bin.standing).toBe('closed')
    expect(bin.says).toContain('passcode')
  })
})

describe('backups', () => {
  const withBackup = (copy: object) => ({
    'devices.d1': closedPhone,
    'wanted.w1': photos,
    ...deleted,
    'copies.c1': { kind: 'computer-backup', encrypted: 'no', selective: 'yes', keeps: ['photos'], ...copy },
  })

  it('one taken after the loss reaches nothing', () => {
    const option = optionIn(withBackup({ taken: ago(5), keepsBin: 'no' }), 'backup-selective:c1')
    expect(option.share[1]).toBe(0)
    expect(option.says).toContain('after the loss')
  })

  it('one taken after the loss helps when it kept the bin', () => {
    expect(optionIn(withBackup({ taken: ago(5), keepsBin: 'yes' }), 'backup-selective:c1').share[1]).toBeGreaterThan(
      0.8,
    )
  })

  it('one from before the loss holds what had been made by then, and no more', () => {
    const { reach } = optionIn(withBackup({ taken: ago(26) }), 'backup-selective:c1')
    expect(reach.w1!.at(0)).toBeGreaterThan(0.9)
    expect(reach.w1!.at(-1)).toBe(0)
    expect(meanReach(optionIn(withBackup({ taken: ago(26) }), 'backup-selective:c1'))).toBeCloseTo(0.48, 1)
  })

  it('one taken inside the loss range counts for how likely the loss came later', () => {
    const shareWhen = (days: number) =>
      optionIn({ ...withBackup({ taken: ago(days), keepsBin: 'no' }), 'loss.when': ago(11, 9) }, 'backup-selective:c1')
        .share[1]
    expect(shareWhen(11.5)).toBeCloseTo(0.99, 2)
    expect(shareWhen(10)).toBeCloseTo(0.495, 2)
    expect(shareWhen(8.5)).toBe(0)
  })

  it('the run that replaces it happens, unless the hold is ticked', () => {
    const facts = withBackup({ taken: ago(11), replaced: ahead(0.6) })
    expect(optionIn(facts, 'backup-selective:c1', now).standing).toBe('plan')
    const passed = withBackup({ taken: ago(11), replaced: ahead(0.6), ran: 'yes' })
    expect(optionIn(passed, 'backup-selective:c1', now + DAY_MS).standing).toBe('closed')
    expect(optionIn(facts, 'backup-selective:c1', now + DAY_MS).chance[1]).toBeLessThan(0.3)
    const held = {
      ...caseWith(facts),
      holds: [{ hold: 'stop-backup-c1', mark: 'ticked' as const, reason: '', by: 'Bram', at: isoOf(now) }],
    }
    const after = planOf(held, playbook, now + 0.5 * DAY_MS)
    expect(after.options.find((option) => option.id === 'backup-selective:c1')!.closes).toEqual([null, null])
  })

  it('leaves out what a cloud library keeps', () => {
    const option = optionIn(
      { ...withBackup({ taken: ago(11), keeps: 'unknown' }), 'wanted.w1': { ...photos, lived: [{ place: 'cloud' }] } },
      'backup-selective:c1',
    )
    expect(option.share[1]).toBeLessThan(0.1)
  })

  it('reading selectively comes before restoring over the device, and that only after a safety copy', () => {
    const plan = planOf(
      caseWith({ ...withBackup({ taken: ago(11) }), 'loss.how': 'bin-emptied', 'devices.d1.spare': 'no' }),
      playbook,
      now,
    )
    expect(plan.order[0]).toBe('backup-selective:c1')
    expect(plan.order.slice(1)).toEqual(['consent-erase:d1', 'safety-copy:d1', 'computer-backup-full:c1'])
  })

  it('a restore that is worth it comes after its safety copy', () => {
    const facts = {
      ...withBackup({ taken: ago(11), selective: 'no' }),
      'loss.how': 'bin-emptied',
      'limits.worth': 3000,
      'consent.erase.answer': 'given',
    }
    const { order } = planOf(caseWith(facts), playbook, now)
    expect(order).toContain('safety-copy:d1')
    expect(order.indexOf('safety-copy:d1')).toBeLessThan(order.indexOf('computer-backup-full:c1'))
  })

  it('is closed where the client does not want the device erased, or where its password is lost', () => {
    expect(
      optionIn({ ...withBackup({ taken: ago(11) }), 'consent.erase.answer': 'refused' }, 'computer-backup-full:c1')
        .standing,
    ).toBe('closed')
    expect(
      optionIn(withBackup({ taken: ago(11), encrypted: 'yes', password: 'not-known' }), 'backup-selective:c1').standing,
    ).toBe('closed')
  })
})

describe('the cloud', () => {
  const withLibrary = (copy: object, more: Record<string, unknown> = {}) => ({
    'devices.d1': closedPhone,
    'wanted.w1': photos,
    ...deleted,
    'copies.c1': { kind: 'cloud-library', account: 'known', ...copy },
    ...more,
  })

  it('with sync on, the deletion went on to the library and its bin has them', () => {
    expect(optionIn(withLibrary({ sync: 'on' }), 'cloud-library-bin:c1').expected).toBeGreaterThan(0.8)
    expect(optionIn(withLibrary({ sync: 'on' }), 'cloud-library-kept:c1').standing).toBe('closed')
  })

  it('with sync off before the loss, the library still has what had been sent', () => {
    const kept = optionIn(withLibrary({ sync: 'off', size: 'full', syncedUntil: ago(26) }), 'cloud-library-kept:c1')
    expect(kept.chance[1]).toBeGreaterThan(0.9)
    expect(kept.share[1]).toBeCloseTo(0.5, 1)
    expect(optionIn(withLibrary({ sync: 'off' }), 'cloud-library-bin:c1').standing).toBe('closed')
  })

  it('after a reset nothing was deleted in the cloud, whatever sync was', () => {
    expect(
      optionIn(withLibrary({ sync: 'on', size: 'full' }, { 'loss.how': 'factory-reset' }), 'cloud-library-kept:c1')
        .expected,
    ).toBeGreaterThan(0.8)
  })

  it('a lost account password is a step, not an end', () => {
    const bin = optionIn(withLibrary({ sync: 'on', account: 'not-known' }), 'cloud-library-bin:c1')
    expect(bin.standing).not.toBe('closed')
    expect(bin.minutes.handsOn).toBe(26)
    expect(bin.says.match(/reset the account/gi)).toHaveLength(1)
  })
})

describe('media', () => {
  const card = {
    kind: 'card',
    condition: 'working',
    storage: { kind: 'card', capacityBytes: 32e9, freeBytes: 20e9, encryption: 'none', discard: 'off' },
  }
  const onCard = (loss: Record<string, unknown>, device: object = card) => ({
    'devices.d1': device,
    'wanted.w1': { ...photos, lived: [{ place: 'card' }] },
    'loss.when': ago(3, 2),
    ...loss,
  })

  it('a card that was not used since is whole', () => {
    expect(
      optionIn(onCard({ 'loss.how': 'deleted-singly', 'loss.since.used': 'no' }), 'medium-deep-scan:d1').share[1],
    ).toBeCloseTo(0.93, 6)
  })

  it('more written never raises what a scan can find', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 }), (less, more) => {
        const share = (gigabytes: number) =>
          optionIn(
            onCard({
              'loss.how': 'deleted-singly',
              'loss.since.used': 'yes',
              'loss.since.writtenBytes': gigabytes * 1e9,
            }),
            'medium-deep-scan:d1',
          ).share[1]
        expect(share(less + more)).toBeLessThanOrEqual(share(less) + 1e-12)
      }),
      { numRuns: 30 },
    )
  })

  it('a full format leaves nothing, a quick one the content but few records', () => {
    expect(
      optionIn(onCard({ 'loss.how': 'formatted', 'loss.format': 'full' }), 'formatted-medium-scan:d1').standing,
    ).toBe('closed')
    const quick = { 'loss.how': 'formatted', 'loss.format': 'quick', 'loss.since.writtenBytes': 0 }
    expect(optionIn(onCard(quick), 'formatted-medium-scan:d1').share[1]).toBeGreaterThan(
      5 * optionIn(onCard(quick), 'medium-quick-pass:d1').share[1],
    )
  })

  it('a deleted file of its own key is gone with the key', () => {
    const scan = optionIn({ 'devices.d1': closedPhone, 'wanted.w1': photos, ...deleted }, 'phone-storage-scan:d1')
    expect(scan.share[1]).toBe(0)
    expect(scan.standing).toBe('closed')
  })

  it('a reset destroys the key of a whole encrypted device', () => {
    const laptop = {
      kind: 'laptop',
      condition: 'working',
      storage: { kind: 'spinning-disk', encryption: 'whole-device' },
    }
    const share = (how: string) =>
      optionIn(
        {
          'devices.d1': laptop,
          'wanted.w1': { ...photos, type: 'documents' },
          'loss.when': ago(3, 2),
          'loss.since.used': 'no',
          'loss.how': how,
        },
        how === 'reinstalled' ? 'reinstalled-disk-scan:d1' : 'inner-storage-scan:d1',
      ).share[1]
    expect(share('reinstalled')).toBe(0)
    expect(share('deleted-singly')).toBeGreaterThan(0.8)
  })

  it.each([
    ['at-once', 0],
    ['off', 0.88],
  ])('freed blocks that are erased %s', (discard, share) => {
    const laptop = {
      kind: 'laptop',
      condition: 'working',
      storage: { kind: 'solid-state', encryption: 'none', discard },
    }
    expect(
      optionIn(
        {
          'devices.d1': laptop,
          'wanted.w1': { ...photos, type: 'documents' },
          'loss.when': ago(3, 2),
          'loss.since.used': 'no',
          'loss.how': 'deleted-singly',
        },
        'inner-storage-scan:d1',
      ).share[1],
    ).toBeCloseTo(share, 6)
  })

  it('with damaged moving parts no scan is offered, and the laboratory is', () => {
    const disk = { kind: 'external-disk', condition: 'clicking', storage: { kind: 'spinning-disk' } }
    const facts = onCard(
      {
        'loss.how': 'broken',
        'limits.money': 900,
        'limits.worth': 3000,
        'consent.laboratory.answer': 'given',
        'limits.seenBy': 'anyone',
      },
      disk,
    )
    expect(
      planOf(caseWith({ ...facts, 'wanted.w1': { ...photos, lived: [{ place: 'device' }] } }), playbook, now).order,
    ).toEqual(['laboratory:d1'])
    expect(optionIn(facts, 'disk-deep-scan:d1').says).toContain('Laboratory first')
  })
})

describe('order and standing', () => {
  it('something unlikely but about to close can come before something likely that waits', () => {
    const laptop = {
      kind: 'laptop',
      platform: 'desktop-pc',
      condition: 'working',
      lock: 'unlocked',
      bins: { files: 'on' },
      storage: { kind: 'spinning-disk', encryption: 'none' },
    }
    const facts = {
      'devices.d1': laptop,
      'wanted.w1': { type: 'documents', count: 40, made: ago(40, 12) },
      'loss.how': 'deleted-in-bulk',
      'loss.when': ago(9, 9),
      'copies.c1': {
        kind: 'earlier-versions',
        taken: ago(10),
        replaced: { from: isoOf(now + 14 * 60_000), to: isoOf(now + 18 * 60_000) },
      },
    }
    const { order } = planOf(
      caseWith({ ...facts, 'devices.d1': { ...laptop, bins: { files: 'unknown' } } }),
      playbook,
      now,
    )
    expect(order[0]).toBe('earlier-versions:c1')
  })

  it('the laboratory is closed where nobody but us may see the data, or where it costs too much', () => {
    const base = { 'devices.d1': openPhone, 'wanted.w1': photos, ...deleted }
    expect(optionIn({ ...base, 'limits.seenBy': 'us-only' }, 'laboratory:d1').standing).toBe('closed')
    expect(optionIn({ ...base, 'limits.money': 100 }, 'laboratory:d1').says).toContain('100')
  })

  it('what is back is not sought again, and the rest is', () => {
    const facts = { 'devices.d1': closedPhone, 'wanted.w1': photos, ...deleted }
    const begun = caseWith(facts)
    const run = (whole: number) =>
      endedRun([{ wanted: 'w1', back: whole, whole, unverified: 0 }], { option: 'device-photo-bin:d1' })
    const half = fullPlanOf({ ...begun, runs: [run(150)] }, playbook, now)
    expect(half.plan.options.find((option) => option.id === 'device-photo-bin:d1')!.standing).toBe('closed')
    expect(half.sets[0]!.share[0]).toBeGreaterThanOrEqual(0.5)
    const all = fullPlanOf({ ...begun, runs: [run(300)] }, playbook, now)
    expect(all.plan.order).toEqual([])
    expect(all.plan.options.every((option) => option.standing === 'covered')).toBe(true)
    expect(all.sets[0]!.share[0]).toBeCloseTo(1, 9)
    expect([isAllBack(half.sets), isAllBack(all.sets)]).toEqual([false, true])
  })

  it('a case about which nothing is known has an empty plan', () => {
    const plan = planOf(emptyCase(), playbook, now)
    expect(plan.order).toEqual([])
    expect(plan.options).toEqual([])
  })
})

const anyCase: fc.Arbitrary<Case> = fc
  .record({
    device: fc.record({
      kind: fc.constantFrom('phone', 'laptop', 'card', 'external-disk', 'unknown'),
      platform: fc.constantFrom('closed-phone', 'open-phone', 'desktop-pc', 'unknown'),
      lock: fc.constantFrom('unlocked', 'locked', 'unknown'),
      condition: fc.constantFrom('working', 'cracked', 'clicking', 'unknown'),
    }),
    type: fc.constantFrom('photos', 'documents', 'contacts', 'notes', 'messages', 'unknown'),
    count: fc.constantFrom(1, 3, 300, 'unknown'),
    how: fc.constantFrom(
      'deleted-in-bulk',
      'bin-emptied',
      'factory-reset',
      'formatted',
      'saved-over',
      'broken',
      'locked-out',
      'unknown',
    ),
    lost: fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 30 })),
    isDated: fc.boolean(),
    copies: fc.array(
      fc.record({
        kind: fc.constantFrom(
          'cloud-library',
          'cloud-backup',
          'computer-backup',
          'medium',
          'person',
          'earlier-versions',
          'contact-archive',
          'cloud-drive',
        ),
        taken: fc.option(fc.integer({ min: 0, max: 90 })),
        sync: fc.constantFrom('on', 'off', 'unknown'),
        encrypted: fc.constantFrom('yes', 'no', 'unknown'),
        replaced: fc.option(fc.integer({ min: -2, max: 20 })),
      }),
      { maxLength: 7 },
    ),
  })
  .map(({ device, type, count, how, lost, isDated, copies }) =>
    caseWith({
      'devices.d1': device,
      'wanted.w1': { type, count, made: isDated ? ago(120, 61) : 'unknown' },
      'loss.how': how,
      'loss.when': ago(lost[0] + lost[1], lost[0]),
      ...Object.fromEntries(
        copies.map(({ taken, replaced, ...copy }, index) => [
          `copies.c${index + 1}`,
          {
            ...copy,
            taken: taken === null ? 'unknown' : ago(taken),
            replaced: replaced === null ? 'unknown' : ahead(replaced, replaced + 0.1),
          },
        ]),
      ),
    }),
  )

const factsOf = ({ joint }: Considered) => joint.dimensions.map(({ unknown }) => unknown.fact).sort()

describe('every plan', () => {
  it('has the documented shape, shares and chances within 0 and 1, and factors that multiply to its figures', () => {
    fc.assert(
      fc.property(anyCase, (ofCase) => {
        const plan = planOf(ofCase, playbook, now, { depth: 'order' })
        expect(Plan.parse(plan)).toEqual(plan)
        for (const option of plan.options.filter((one) => one.family !== 'safety-copy' && one.family !== 'consent')) {
          const multiplied = (isShare: boolean) =>
            option.factors
              .filter((factor) => isShareFactor(factor.name) === isShare)
              .reduce((so, factor) => so * factor.value, 1)
          expect(multiplied(false)).toBeCloseTo(option.chance[1], 9)
          expect(multiplied(true)).toBeCloseTo(option.share[1], 9)
          expect(option.chance[0]).toBeLessThanOrEqual(option.chance[1] + 1e-9)
          expect(option.chance[2]).toBeGreaterThanOrEqual(option.chance[1] - 1e-9)
        }
      }),
      { numRuns: 60 },
    )
  })

  it('is the same for the same input', () => {
    fc.assert(
      fc.property(anyCase, (ofCase) => {
        expect(fullPlanOf(structuredClone(ofCase), playbook, now)).toEqual(fullPlanOf(ofCase, playbook, now))
      }),
      { numRuns: 4 },
    )
  })

  it('one more copy, with no hazard of its own, never lowers its value', () => {
    fc.assert(
      fc.property(anyCase, (ofCase) => {
        const more = withFacts(ofCase, [{ fact: 'copies.c99', is: { kind: 'person', count: 40 } }])
        if (!more.ok) throw new Error('the copy could not be added')
        const without = consider(ofCase, playbook, now)
        const withIt = consider(more.changed, playbook, now)
        // Two plans compare only over the same states and options, so none may have been left out for want of room.
        const isExact = withIt.best.exact.length === withIt.live.length
        fc.pre(isExact && withIt.aside.size === 0 && isDeepStrictEqual(factsOf(withIt), factsOf(without)))
        expect(withIt.best.value).toBeGreaterThanOrEqual(without.best.value - 1e-9)
      }),
      { numRuns: 60 },
    )
  })

  it('names holds with their facts, and those on a step of some routes only beside such a route', () => {
    fc.assert(
      fc.property(anyCase, (ofCase) => {
        const plan = planOf(ofCase, playbook, now, { depth: 'order' })
        const ids = new Set(plan.options.map((option) => option.id))
        for (const hold of plan.holds) {
          expect(hold.from.length).toBeGreaterThan(0)
          if (['warranty', 'keep-charging', 'save-elsewhere'].includes(hold.id))
            expect(hold.protects.length).toBeGreaterThan(0)
          for (const id of hold.protects) if (!/^(safety-copy|consent|repair)/.test(id)) expect(ids).toContain(id)
        }
      }),
      { numRuns: 60 },
    )
  })
})
