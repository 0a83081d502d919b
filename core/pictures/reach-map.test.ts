import { describe, expect, it } from 'vitest'
import { defaultPlaybook } from '../playbook/playbook'
import { fullPlanOf } from '../ranking/explain/plan'
import { ago, caseWith, NOW } from '../testing/case-with'
import { litBy, litTogether, reachMapOf, sliceAt, stretchesOf } from './reach-map'

const ofCase = caseWith({
  'devices.d1': { kind: 'phone', platform: 'closed-phone', lock: 'unlocked', condition: 'working' },
  'wanted.w1': { type: 'notes', count: 12 },
  'wanted.w2': { type: 'photos', count: 300, made: ago(50, 10), mustHave: ago(15, 10) },
  'loss.how': 'deleted-in-bulk',
  'loss.when': ago(8, 6),
  'copies.c1': { kind: 'computer-backup', taken: ago(20) },
  'copies.c2': { kind: 'cloud-library', syncedUntil: ago(30) },
})
const full = fullPlanOf(ofCase, defaultPlaybook(), NOW, { depth: 'order' })
const map = reachMapOf(ofCase, full, NOW)

describe('the reach map', () => {
  it('has a band for each wanted set, must-haves first, and one slice where nobody knows the dates', () => {
    expect(map.bands.map((band) => band.wanted)).toEqual(['w2', 'w1'])
    expect(map.bands[1]!.edges).toBeNull()
    const photos = full.plan.options.find((option) => option.id === 'device-photo-bin:d1')!
    expect(litBy(map, photos).map((band) => band.length)).toEqual([map.bands[0]!.edges!.length - 1, 1])
    expect(litTogether(map, full)[0]!.length).toBe(map.bands[0]!.edges!.length - 1)
  })

  it('marks must-haves, copies, what was in step, the loss as a range, and now', () => {
    expect(map.marks.map((mark) => mark.kind)).toEqual(['must-have', 'copy', 'in-step', 'loss', 'now'])
    const loss = map.marks.find((mark) => mark.kind === 'loss')!
    expect(loss.to - loss.from).toBe(2 * 86_400_000)
  })

  it('lights a cell by the chance times the share', () => {
    const lit = litBy(map, { reach: { w2: [1, 0.5], w1: [1] }, chance: [0.2, 0.4, 0.6] })
    expect(lit).toEqual([[0.4, 0.2], [0.4]])
  })

  it('joins slices that show the same figure', () => {
    expect(stretchesOf([0.9, 0.901, 0.2, 0.2, 0])).toEqual([
      { from: 0, to: 2, value: 0.9 },
      { from: 2, to: 4, value: 0.2 },
      { from: 4, to: 5, value: 0 },
    ])
  })

  it('finds the slice of a time, and the nearest one outside', () => {
    const band = { wanted: 'w1', label: 'x', edges: [0, 10, 20, 30] }
    expect([-5, 0, 9, 10, 29, 99].map((time) => sliceAt(band, time))).toEqual([0, 0, 0, 1, 2, 2])
  })
})
