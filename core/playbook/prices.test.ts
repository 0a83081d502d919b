import { describe, expect, it } from 'vitest'
import { amended } from './amending'
import { defaultPlaybook } from './playbook'
import { priceOf, pricedKinds } from './prices'
import { slownessOf } from './speeds'

const playbook = defaultPlaybook()
const changed = (what: 'price' | 'speed', which: string, is: number | null, of = playbook) => {
  const done = amended(of, { what, which, is } as Parameters<typeof amended>[1])
  if (!done.ok) throw new Error(done.fault.message)
  return done.playbook
}

describe('the price list', () => {
  it('has the playbook’s price until the shop has its own, and again when that is taken away', () => {
    expect(['looking', 'laboratory-take', 'repair-screen'].map((name) => priceOf(playbook, name as 'looking'))).toEqual(
      [null, 520, 80],
    )
    const own = changed('price', 'laboratory-take', 700)
    expect(priceOf(own, 'laboratory-take')).toBe(700)
    expect(pricedKinds(own).find(({ family }) => family === 'lab')!.money).toEqual({ look: 80, take: 700 })
    // The kind itself is the playbook's, and stays.
    expect(own.kinds).toEqual(playbook.kinds)
    expect(changed('price', 'laboratory-take', null, own)).toEqual(playbook)
  })

  it('refuses what is no price', () => {
    expect(amended(playbook, { what: 'price', which: 'looking', is: -1 })).toEqual({
      ok: false,
      fault: { path: 'is', message: 'is below zero' },
    })
  })
})

describe('how fast media are read', () => {
  it('takes twice as long at half the speed, and as long as usual where nothing is said', () => {
    const { speeds } = changed('speed', 'card', 45).shop
    expect([slownessOf(speeds, 'card'), slownessOf(speeds, 'stick'), slownessOf(speeds, 'unknown')]).toEqual([2, 1, 1])
  })
})
