import { describe, expect, it } from 'vitest'
import { caseWith } from '../testing/case-with'
import { demoPlaybook } from '../../stand-ins/shop/shop'
import { guessesFrom, modelFor } from './models'

const models = [
  { make: 'Korvane', platform: 'open-phone', kind: 'phone' },
  { make: 'Korvane Air', platform: 'open-phone', kind: 'phone', storage: 'phone-flash', encryption: 'per-file' },
] as const

describe('makers and models', () => {
  it('the longest one that was typed in full counts', () => {
    expect(modelFor(models, 'korvane air 2')?.make).toBe('Korvane Air')
    expect(modelFor(models, 'Korvane 7')?.make).toBe('Korvane')
    expect(modelFor(models, 'Korvanette')).toBeNull()
  })

  it('gives first guesses for what nobody said, and leaves what was said', () => {
    const ofCase = caseWith({ 'devices.d1': { platform: 'closed-phone' } })
    expect(guessesFrom(models, ofCase, 'd1', 'Korvane Air')).toEqual([
      { fact: 'devices.d1.kind', is: 'phone' },
      { fact: 'devices.d1.storage.kind', is: 'phone-flash' },
      { fact: 'devices.d1.storage.encryption', is: 'per-file' },
    ])
    expect(guessesFrom(models, ofCase, 'd1', 'something else')).toEqual([])
  })

  it('ships with the makers of the demo, which are invented', () => {
    for (const typed of ['Korvane 7', 'Ostrel Mini', 'Pelloon Slate', 'Mirrit tower', 'Tessel action camera'])
      expect(modelFor(demoPlaybook().shop.models, typed), typed).not.toBeNull()
  })
})
