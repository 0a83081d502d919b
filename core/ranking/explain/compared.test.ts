import { describe, expect, it } from 'vitest'
import { defaultPlaybook } from '../../playbook/playbook'
import { ago, caseWith, NOW } from '../../testing/case-with'
import { evidenceOf, NO_EVIDENCE } from '../situation/evidence'
import { comparedRoutes } from './compared'

const playbook = defaultPlaybook()
const asked = (more: object = {}) =>
  caseWith({
    'devices.d1': { kind: 'phone', platform: 'open-phone' },
    'wanted.w1': { type: 'photos', made: ago(60, 12) },
    'loss.how': 'deleted-in-bulk',
    'loss.when': ago(10, 9),
    ...more,
  })
const routes = (more?: object, evidence = NO_EVIDENCE) => comparedRoutes(asked(more), playbook, evidence, NOW)
const route = (id: string, more?: object, evidence = NO_EVIDENCE) =>
  routes(more, evidence).find((one) => one.kind === id)

describe('routes compared for a kind of device and loss', () => {
  it('are each kind once, without the words of any case', () => {
    const ids = routes().map(({ kind }) => kind)
    expect(new Set(ids).size).toBe(ids.length)
    expect(ids).toEqual(
      expect.arrayContaining(['gallery-bin', 'cloud-library-bin', 'backup-selective', 'ask-sender', 'laboratory']),
    )
    expect(ids).not.toContain('device-photo-bin')
    // A phone has no snapshots of its folders, and a computer no SIM card.
    expect(ids).not.toContain('snapshot')
    expect(routes({ 'devices.d1': { kind: 'laptop', platform: 'desktop-pc' } }).map(({ kind }) => kind)).not.toContain(
      'app-own-copies',
    )
    expect(routes().find(({ kind }) => kind === 'ask-sender')?.title).toBe('Ask somebody who has them')
    for (const { title } of routes()) expect(title).not.toMatch(/[{}]/)
  })

  it('close by the period from the loss, and what the loss rules out says why', () => {
    expect(route('gallery-bin')?.closes[1]).toContain('2026-12-1')
    expect(route('gallery-bin')?.closedBy).toBeNull()
    const reset = route('gallery-bin', { 'loss.how': 'factory-reset' })
    expect(reset?.closedBy).toContain('did not go through a bin')
    const old = route('gallery-bin', { 'loss.when': ago(80, 70) })
    expect(old?.closedBy).toContain('that ended')
    const all = routes({ 'loss.how': 'factory-reset' })
    const firstClosed = all.findIndex(({ closedBy }) => closedBy !== null)
    expect(all.slice(firstClosed).every(({ closedBy }) => closedBy !== null)).toBe(true)
  })

  it('are those of the kind of device, whichever of several it was in the case', () => {
    const two = { 'devices.d2': { kind: 'laptop' }, 'loss.on': ['d2'], 'wanted.w1.on': ['d2'] }
    expect(routes(two).map(({ kind, closedBy }) => [kind, closedBy])).toEqual(
      routes().map(({ kind, closedBy }) => [kind, closedBy]),
    )
  })

  it('say what they need and what they put at risk', () => {
    expect(route('cloud-backup-full')?.needs).toContain('The client agreed that it is erased')
    expect(route('cloud-backup-full')?.risks[0]).toContain('Erases the device')
    expect(route('spare-cloud-backup')?.risks).toEqual([])
    expect(route('gallery-bin')?.risks).toEqual([])
  })

  it('have the odds of this shop’s own runs', () => {
    const runs = Array.from({ length: 40 }, () => ({
      kind: 'gallery-bin',
      platform: 'open-phone' as const,
      type: 'photos' as const,
      came: 0.2,
      failedOn: null,
      open: [],
    }))
    const [before, after] = [route('gallery-bin'), route('gallery-bin', {}, evidenceOf(runs))]
    expect(after!.chance[1]).toBeLessThan(before!.chance[1] - 0.3)
    expect([before!.runs, after!.runs]).toEqual([0, 40])
  })
})
