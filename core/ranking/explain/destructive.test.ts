import { describe, expect, it } from 'vitest'
import { defaultPlaybook } from '../../playbook/playbook'
import { ago, caseWith, NOW } from '../../testing/case-with'
import { holdsOpenFor, routesAskingFor } from './destructive'
import { fullPlanOf } from './plan'

const playbook = defaultPlaybook()
const phone = {
  kind: 'phone',
  platform: 'closed-phone',
  lock: 'unlocked',
  condition: 'working',
  storage: { encryption: 'per-file' },
}
const ofCase = caseWith({
  'devices.d1': phone,
  'devices.d2': phone,
  'wanted.w1': { type: 'photos', count: 300, made: ago(40, 15) },
  'loss.how': 'deleted-in-bulk',
  'loss.when': ago(7, 6),
  'copies.c1': { kind: 'computer-backup', encrypted: 'no', taken: ago(8), device: 'd1' },
  'copies.c2': { kind: 'cloud-backup', account: 'known', taken: ago(9), device: 'd1' },
})
const { plan } = fullPlanOf(ofCase, playbook, NOW, { depth: 'order' })
const asking = (action: string, part: string, from: string | null) =>
  routesAskingFor({ action, part, from }, plan, ofCase, playbook).map(({ id }) => id)

describe('a step that takes something away', () => {
  it('belongs to the routes that erase the device, and to the route of the restored copy', () => {
    expect(asking('restore', 'd1', 'c1')).toEqual(['computer-backup-full:c1'])
    expect(asking('restore', 'd1', null).length).toBeGreaterThan(1)
    expect(asking('erase', 'd1', null)).toEqual(asking('restore', 'd1', null))
  })

  it('belongs to none where no route asks for it', () => {
    expect(asking('restore', 'd2', 'c1')).toEqual([])
    expect(asking('turn-back', 'c1', 'c1')).toEqual([])
    expect(asking('back-up', 'd1', null)).toEqual([])
  })

  it('waits for the holds of its routes, ticked or waived, and for no others', () => {
    const routes = plan.options.filter(({ id }) => id === 'computer-backup-full:c1')
    const open = holdsOpenFor(routes, plan, ofCase)
    expect(open.length).toBeGreaterThan(0)
    expect(open.every(({ protects }) => protects.includes('computer-backup-full:c1'))).toBe(true)
    const mark = { mark: 'ticked' as const, reason: '', by: 'Bram', at: '2026-11-24T10:00:00Z' }
    const ticked = { ...ofCase, holds: open.map(({ id }) => ({ ...mark, hold: id })) }
    expect(holdsOpenFor(routes, plan, ticked)).toEqual([])
    expect(holdsOpenFor([], plan, ofCase)).toEqual([])
  })
})
