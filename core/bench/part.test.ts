import { expect, it } from 'vitest'
import { caseWith } from '../testing/case-with'
import { inOrder, partKindOf, partsOf } from './part'

const ofCase = caseWith({
  'devices.phone': { kind: 'phone' },
  'copies.d7': { kind: 'cloud-library' },
  'copies.c10': { kind: 'person' },
  'copies.c9': { kind: 'person' },
})

it('a part is what the case says it is, whatever its id begins with', () => {
  expect(partsOf(ofCase).map(({ part, kind }) => `${part} ${kind}`)).toEqual([
    'phone device',
    'd7 copy',
    'c10 copy',
    'c9 copy',
  ])
  expect(partKindOf(ofCase, 'd1')).toBe('accessory')
})

it('devices come before copies, and those before accessories', () => {
  const all = ['x1', 'c10', 'c9', 'd7', 'phone'].map((part) => ({ part }))
  expect(inOrder(ofCase, all).map(({ part }) => part)).toEqual(['phone', 'c9', 'c10', 'd7', 'x1'])
})
