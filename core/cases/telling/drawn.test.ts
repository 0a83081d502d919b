import { describe, expect, it } from 'vitest'
import { withFacts, withMissingParts } from '../facts/facts'
import type { Case } from '../shape/case'
import { caseWith, NOW } from '../../testing/case-with'
import { answer } from './answering'

const context = { now: NOW, zone: 'Europe/London', currency: 'GBP' }

function told(so: Case, fact: string, typed: string): Case {
  const read = answer(so, fact, typed, context)
  if (!read.ok) throw new Error(read.message)
  const set = withFacts(so, withMissingParts(so, read.changes))
  if (!set.ok) throw new Error(JSON.stringify(set.faults))
  return set.changed
}
const phone = (type: string) => caseWith({ 'devices.d1': { kind: 'phone' }, 'wanted.w1': { type } })
const kinds = ({ copies }: Case) => copies.map(({ kind, exists }) => `${kind} ${exists}`)

describe('what the words already say', () => {
  it.each([
    ['photos', 'on the device and in the cloud', ['cloud-library supposed']],
    ['documents', 'in the cloud', ['cloud-drive supposed']],
    ['contacts', 'in the cloud', ['contact-archive supposed']],
    ['photos', 'on its card', ['medium supposed']],
    ['photos', 'on the device', []],
  ])('%s kept %s', (type, typed, copies) => expect(kinds(told(phone(type), 'wanted.w1.lived', typed))).toEqual(copies))

  it('brings no second one, and none for the card of a camera, which is the device itself', () => {
    const has = caseWith({
      'devices.d1': { kind: 'phone' },
      'wanted.w1': { type: 'photos' },
      'copies.c1': { kind: 'cloud-drive' },
    })
    expect(kinds(told(has, 'wanted.w1.lived', 'in the cloud'))).toEqual(['cloud-drive unknown'])
    const camera = caseWith({ 'devices.d1': { kind: 'camera' }, 'wanted.w1': { type: 'photos' } })
    expect(kinds(told(camera, 'wanted.w1.lived', 'on its card'))).toEqual([])
  })

  it('goes again with the words, unless somebody has said something of it', () => {
    const drawn = told(phone('photos'), 'wanted.w1.lived', 'in the cloud')
    expect(kinds(told(drawn, 'wanted.w1.lived', 'on its card'))).toEqual(['medium supposed'])
    const known = told(drawn, 'copies.c1.account', 'known')
    expect(kinds(told(known, 'wanted.w1.lived', 'on its card'))).toEqual(['cloud-library supposed', 'medium supposed'])
    const confirmed = told(drawn, 'copies.c1.exists', 'yes')
    expect(kinds(told(confirmed, 'wanted.w1.lived', 'on the device'))).toEqual(['cloud-library yes'])
  })

  it('stays while another wanted set needs it', () => {
    const two = caseWith({
      'devices.d1': { kind: 'phone' },
      'wanted.w1': { type: 'photos' },
      'wanted.w2': { type: 'notes' },
    })
    const both = told(told(two, 'wanted.w1.lived', 'in the cloud'), 'wanted.w2.lived', 'in the cloud')
    expect(kinds(both)).toEqual(['cloud-library supposed'])
    expect(kinds(told(both, 'wanted.w1.lived', 'on the device'))).toEqual(['cloud-library supposed'])
  })

  it('a device that is gone cannot be worked on, and a wet one was wet', () => {
    const gone = told(phone('photos'), 'loss.how', 'stolen')
    expect(gone.devices[0]?.condition).toBe('gone')
    const wet = told(phone('photos'), 'devices.d1.condition', 'wet')
    expect(wet.devices[0]?.wet).toBe('wet')
  })
})
