import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { caseWith } from '../../testing/case-with'
import { openingStop } from './permission'

const stop = (facts: Record<string, unknown>) => openingStop(caseWith(facts))
const OWN = { 'authority.basis': 'own', 'consent.lookThrough.answer': 'given' }
const ESTATE = {
  'authority.basis': 'estate',
  'authority.agreedBy': 'Rosalind Thane',
  'authority.proof': 'court-paper',
  'consent.lookThrough.answer': 'given',
}

describe('what a client brought is opened', () => {
  it('where it is their own and they agreed', () => {
    expect(stop(OWN)).toBeNull()
  })

  it('not before both are recorded: unknown stops it as well as no', () => {
    expect(stop({})).toMatchObject({
      code: 'not-recorded',
      asks: ['authority.basis', 'consent.lookThrough.answer'],
    })
    expect(stop({ ...OWN, 'consent.lookThrough.answer': 'unknown' })?.asks).toEqual(['consent.lookThrough.answer'])
    expect(stop({ ...OWN, 'consent.lookThrough.answer': 'refused' })?.code).toBe('refused')
    expect(stop({ ...OWN, 'authority.basis': 'none' })?.code).toBe('not-entitled')
  })

  it('where it is somebody else’s only with who agreed, and a proof that was seen', () => {
    expect(stop(ESTATE)).toBeNull()
    expect(stop({ ...ESTATE, 'authority.agreedBy': 'unknown', 'authority.proof': 'unknown' })?.asks).toEqual([
      'authority.agreedBy',
      'authority.proof',
    ])
    expect(stop({ ...ESTATE, 'authority.proof': 'none' })?.code).toBe('not-entitled')
    // No proof is asked for one's own data.
    expect(stop({ ...OWN, 'authority.proof': 'none' })).toBeNull()
  })

  it('never while the answer to look is anything but given', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('own', 'parent', 'employer', 'estate', 'none', 'unknown'),
        fc.constantFrom('identity', 'letter', 'none', 'unknown'),
        fc.constantFrom('unknown', 'Ennis Carrick'),
        fc.constantFrom('unknown', 'refused'),
        (basis, proof, agreedBy, answer) => {
          const facts = { 'authority.basis': basis, 'authority.proof': proof, 'authority.agreedBy': agreedBy }
          expect(stop({ ...facts, 'consent.lookThrough.answer': answer })).not.toBeNull()
        },
      ),
    )
  })
})
