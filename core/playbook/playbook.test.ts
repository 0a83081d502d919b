import { describe, expect, it } from 'vitest'
import { emptyCase } from '../cases/shape/case'
import { withFacts } from '../cases/facts/facts'
import { bindingsOf } from './bind'
import { defaultPlaybook, Playbook, playbookJsonSchema } from './playbook'

const playbook = defaultPlaybook()
const HOLDS = [
  'stop-using',
  'keep-medium-out',
  'stop-sync',
  'stop-backup',
  'keep-slot',
  'no-passcode-guessing',
  'no-installs',
  'power-off',
  'save-elsewhere',
  'no-clean-up',
  'keep-charging',
  'export-before-turning-back',
  'free-room',
  'warranty',
  'privacy',
  'do-not-operate',
  'keep-offline',
]

describe('the playbook', () => {
  it('covers bins, cloud, versions, backups, scans, people and laboratory', () => {
    const ids = playbook.kinds.map((kind) => kind.id)
    expect(ids.length).toBeGreaterThanOrEqual(34)
    for (const family of [
      'device-bin',
      'computer-bin',
      'cloud-bin',
      'cloud-library',
      'point-in-time',
      'versions',
      'cloud-backup-full',
      'computer-backup-full',
      'backup-selective',
      'scan-medium',
      'ask-sender',
      'lab',
    ])
      expect(playbook.kinds.map((kind) => kind.family)).toContain(family)
  })

  it('names only holds that there are', () => {
    for (const kind of playbook.kinds) for (const hold of kind.holds) expect(HOLDS).toContain(hold)
  })

  it('gives the source of every prior and the steps of every route', () => {
    for (const kind of playbook.kinds) {
      expect(kind.prior.note.length).toBeGreaterThan(10)
      expect(kind.sheet.steps.length).toBeGreaterThan(0)
      expect(kind.aftercare.length).toBeGreaterThan(0)
    }
  })

  it('everything that erases a device asks for a safety copy and for consent', () => {
    for (const kind of playbook.kinds.filter((one) => one.effects.erasesDevice)) {
      expect(kind.effects.needsSafetyCopy).toBe(true)
      expect(kind.gates.map((gate) => gate.gate)).toContain('consent-erase')
    }
  })

  it('goes out and comes in as JSON', () => {
    expect(Playbook.parse(JSON.parse(JSON.stringify(playbook)))).toEqual(playbook)
    expect(Object.keys((playbookJsonSchema() as { properties: object }).properties)).toContain('kinds')
  })

  it('refuses two kinds of one name, and a period that ends before it begins', () => {
    const kind = playbook.kinds[0]!
    expect(Playbook.safeParse({ ...playbook, kinds: [kind, kind] }).success).toBe(false)
    expect(
      Playbook.safeParse({
        ...playbook,
        kinds: [{ ...kind, window: { rule: 'kept', period: { minDays: 40, maxDays: 30 } } }],
      }).success,
    ).toBe(false)
    expect(Playbook.safeParse({ ...playbook, shop: { ...playbook.shop, zone: 'Nowhere/At_All' } }).success).toBe(false)
  })
})

describe('binding kinds to a case', () => {
  const bound = (changes: { fact: string; is: unknown }[]) => {
    const set = withFacts(emptyCase(), changes)
    if (!set.ok) throw new Error('bad case')
    return bindingsOf(set.changed, playbook).map((binding) => binding.id)
  }

  it('two backups give two options', () => {
    const ids = bound([
      { fact: 'wanted.w1', is: { type: 'photos' } },
      { fact: 'copies.c1', is: { kind: 'computer-backup' } },
      { fact: 'copies.c2', is: { kind: 'computer-backup' } },
    ])
    expect(ids).toEqual(expect.arrayContaining(['backup-selective:c1', 'backup-selective:c2']))
  })

  it('a kind that cannot recover the data type is no option', () => {
    expect(
      bound([
        { fact: 'wanted.w1', is: { type: 'contacts' } },
        { fact: 'devices.d1', is: { kind: 'phone', platform: 'closed-phone' } },
      ]),
    ).not.toContain('device-photo-bin:d1')
  })

  it('a phone of unknown family may have either family’s bin', () => {
    const ids = bound([
      { fact: 'wanted.w1', is: { type: 'photos' } },
      { fact: 'devices.d1', is: { kind: 'phone' } },
    ])
    expect(ids).toEqual(expect.arrayContaining(['device-photo-bin:d1', 'gallery-bin:d1']))
  })
})
