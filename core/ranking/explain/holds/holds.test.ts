import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { factAt } from '../../../cases/facts/facts'
import { defaultPlaybook } from '../../../playbook/playbook'
import { ago, ahead, caseWith, NOW } from '../../../testing/case-with'
import { CONDITIONS } from '../../../cases/shape/device'
import { LOSS_KINDS } from '../../../cases/shape/loss'
import { known } from '../../../cases/shape/fact'
import { randomCase } from '../../../testing/random-cases'
import { planOf } from '../plan'
import { HOLDS_BY_CAUSE } from './by-cause'
import { BODIES, bodyOf, HOLDS_BY_CONDITION } from './by-condition'
import { holdWords } from './finding'
import { holdKindOf, holdsOf } from './rules'
import { situationOf } from '../../situation/situation'

const playbook = defaultPlaybook()
const holds = (facts: Record<string, unknown>) => holdsOf(situationOf(caseWith(facts), playbook, NOW))
const ids = (facts: Record<string, unknown>) => holds(facts).map((hold) => hold.id)
const says = (facts: Record<string, unknown>, id: string) =>
  holds(facts)
    .filter((hold) => hold.id === id)
    .map(holdWords)[0] ?? ''

const phone = { 'devices.d1': { kind: 'phone', platform: 'open-phone', make: 'Korvane 7' } }
const laptop = { 'devices.d1': { kind: 'laptop', platform: 'desktop-pc' } }
const library = (sync: string) => ({ 'copies.c1': { kind: 'cloud-library', sync } })

describe('holds follow from the facts', () => {
  it('a phone is kept out of use, unless nothing was lost but the way in', () => {
    expect(ids({ ...phone, 'loss.how': 'deleted-singly' })).toContain('stop-using')
    expect(ids({ ...phone, 'loss.how': 'locked-out' })).not.toContain('stop-using')
    expect(ids({})).toEqual([])
  })

  it('sync says what to do and why, by what it was', () => {
    const lost = { ...phone, 'loss.how': 'deleted-in-bulk' }
    expect(says({ ...lost, ...library('on') }, 'stop-sync')).toContain('must not propagate the loss')
    expect(says({ ...lost, ...library('off') }, 'stop-sync')).toContain('would propagate the deletion')
    expect(says({ ...lost, ...library('unknown'), 'loss.since.sync': 'off' }, 'stop-sync')).toContain(
      'until the cloud has been checked',
    )
    expect(says({ ...phone, 'loss.how': 'sync-switched', ...library('off') }, 'stop-sync')).toContain(
      'carry the loss on',
    )
    expect(ids({ ...lost, ...library('on'), 'loss.since.sync': 'none' })).not.toContain('stop-sync')
    expect(ids(lost)).not.toContain('stop-sync')
  })

  it('the next run is stopped for each backup that it would replace, and only while it is ahead', () => {
    const backup = (replaced: unknown) => ({ kind: 'computer-backup', taken: ago(3), replaced })
    const found = ids({
      ...phone,
      'copies.c1': backup(ahead(0.5)),
      'copies.c2': backup(ago(1)),
      'copies.c3': backup('unknown'),
      'copies.c4': backup(ahead(3)),
    })
    expect(found.filter((id) => holdKindOf(id) === 'stop-backup')).toEqual(['stop-backup-c1', 'stop-backup-c4'])
  })

  it('nobody guesses at a passcode that is not known', () => {
    const locked = (passcode: string) => ids({ 'devices.d1': { kind: 'phone', lock: 'locked', passcode } })
    expect(locked('not-known')).toContain('no-passcode-guessing')
    expect(locked('unknown')).toContain('no-passcode-guessing')
    expect(locked('known')).not.toContain('no-passcode-guessing')
  })

  it('a computer gets no installs, and is switched off where it erases freed blocks or clicks', () => {
    expect(ids(laptop)).toContain('no-installs')
    const disk = (storage: object, condition = 'working') => ({ 'devices.d1': { kind: 'laptop', condition, storage } })
    expect(ids(disk({ kind: 'solid-state' }))).toContain('power-off')
    expect(ids(disk({ kind: 'solid-state', discard: 'off' }))).not.toContain('power-off')
    expect(ids(disk({ kind: 'spinning-disk' }))).not.toContain('power-off')
    expect(says(disk({ kind: 'spinning-disk' }, 'clicking'), 'power-off')).toContain('damages it more')
  })

  it('a card comes out and stays out; what is found goes elsewhere', () => {
    expect(ids({ 'devices.d1': { kind: 'card' } })).toEqual(['keep-medium-out', 'save-elsewhere'])
    expect(ids({ ...phone, 'copies.c1': { kind: 'medium', label: 'card' } })).toContain('keep-medium-out')
  })

  it('malware keeps the disk of a backup waiting until the machine is off every network', () => {
    const facts = { ...laptop, 'loss.how': 'malware', 'copies.c1': { kind: 'file-history', taken: ago(20) } }
    const wanted = { 'wanted.w1': { type: 'documents', count: 40, made: ago(90, 40) }, 'loss.when': ago(2) }
    const { holds: found } = planOf(caseWith({ ...facts, ...wanted }), playbook, NOW, { depth: 'order' })
    expect(found.find(({ id }) => holdKindOf(id) === 'isolate-malware')?.protects).toContain('file-history:c1')
  })

  it('nothing tidies up after a crash; nothing is turned back before it is saved', () => {
    expect(ids({ ...laptop, 'loss.how': 'crashed-before-saving' })).toContain('no-clean-up')
    expect(ids({ ...laptop, 'loss.how': 'deleted-singly' })).not.toContain('no-clean-up')
    expect(ids({ 'copies.c1': { kind: 'contact-archive' } })).toContain('export-before-turning-back')
  })

  it('every condition of every kind of device forbids something, or it is said why not', () => {
    const devices = {
      handheld: { kind: 'phone', platform: 'open-phone' },
      computer: { kind: 'laptop', platform: 'desktop-pc' },
      'spinning-disk': { kind: 'external-disk', platform: 'removable' },
      'other-medium': { kind: 'card', platform: 'removable' },
    }
    for (const condition of CONDITIONS)
      for (const body of BODIES) {
        const cell = HOLDS_BY_CONDITION[condition][body]
        const found = ids({ 'devices.d1': { ...devices[body], condition }, 'loss.how': 'broken' })
        if ('hold' in cell) expect(found, `${condition} ${body}`).toContain(cell.hold)
        else expect(cell.nothing.length, `${condition} ${body}`).toBeGreaterThan(15)
      }
  })

  it('every way of losing forbids something on the device it happened on, and on no other', () => {
    for (const how of LOSS_KINDS) {
      const cell = HOLDS_BY_CAUSE[how]
      const two = { ...laptop, 'devices.d2': { kind: 'laptop', platform: 'desktop-pc' }, 'loss.on': ['d2'] }
      const found = holds({ ...two, 'loss.how': how }).filter(
        ({ id }) => 'hold' in cell && holdKindOf(id) === cell.hold,
      )
      if ('hold' in cell) expect(found.map(({ device }) => device)).toEqual(['d2'])
      else expect(cell.nothing.length).toBeGreaterThan(15)
    }
  })

  it('what happened on one device asks nothing of another, and each has its own condition', () => {
    const facts = {
      ...laptop,
      'devices.d2': { kind: 'phone', platform: 'open-phone', wet: 'wet' },
      'loss.how': 'deleted-in-bulk',
      'loss.on': ['d1'],
    }
    expect(ids(facts)).toContain('stop-using')
    expect(ids(facts)).not.toContain('stop-using-d2')
    expect(ids(facts)).toContain('no-power-while-wet-d2')
    expect(holdKindOf('no-power-while-wet-d2')).toBe('no-power-while-wet')
  })

  it('names the facts that it comes from', () => {
    const facts = {
      ...phone,
      'loss.how': 'deleted-singly',
      ...library('on'),
      'copies.c2': { kind: 'cloud-backup', replaced: ahead(1) },
    }
    for (const hold of holds(facts)) {
      expect(hold.from.length, hold.id).toBeGreaterThan(0)
      for (const fact of hold.from) expect(factAt(caseWith(facts), fact), `${hold.id}: ${fact}`).toBeDefined()
    }
  })
})

describe('in any case', () => {
  it('what the condition of each device forbids is said, whatever is open; no two holds are one, and none contradicts a step', () => {
    fc.assert(
      fc.property(randomCase, (ofCase) => {
        const plan = planOf(ofCase, playbook, NOW, { depth: 'order' })
        const said = plan.holds.map(({ id }) => holdKindOf(id))
        expect(new Set(plan.holds.map(({ id }) => id)).size).toBe(plan.holds.length)
        for (const device of ofCase.devices) {
          if (!known(device.condition) || !known(device.kind) || device.wet === 'wet') continue
          const cell = HOLDS_BY_CONDITION[device.condition][bodyOf(device)]
          if ('hold' in cell) expect(said, `${device.kind} ${device.condition}`).toContain(cell.hold)
        }
        for (const { protects, says } of plan.holds) {
          expect(says).not.toMatch(/undefined|null|\{/)
          for (const id of protects) expect(plan.options.map((option) => option.id)).toContain(id)
        }
        for (const id of plan.order.filter((one) => one.startsWith('sync-switched-on-again')))
          expect(
            plan.holds.filter((hold) => holdKindOf(hold.id) === 'stop-sync' && hold.protects.includes(id)),
          ).toEqual([])
      }),
      { numRuns: 150 },
    )
  })
})
