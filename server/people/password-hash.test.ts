import { describe, expect, it } from 'vitest'
import { DEMO_PEOPLE } from '../../stand-ins/shop/people'
import { fitsPassword, hashPassword, isOfOldCost } from './password-hash'

/** As an earlier version wrote it. */
const OLD =
  '$scrypt$n=16384,r=8,p=1$uxXXPoASdpiAR7fL1xnidQ$+bBKsHxK/RXNJA0++RyYA0VY76o+G+dcVflo8DaZjbKG4xg/V+4AnOdNh6SdWkSr6+OWqDEcQgbQpboGw9T2tw'

describe('a password hash', () => {
  it('fits its password and no other, and costs what it should', () => {
    const hash = hashPassword('willow-bobbin-3')
    expect(hash).toMatch(/^\$scrypt\$n=131072,r=8,p=1\$/)
    expect(hash).not.toBe(hashPassword('willow-bobbin-3'))
    expect(fitsPassword(hash, 'willow-bobbin-3')).toBe(true)
    expect(fitsPassword(hash, 'willow-bobbin-4')).toBe(false)
    expect(isOfOldCost(hash)).toBe(false)
  })

  it('of an earlier version still fits, and is known to be old', () => {
    expect(fitsPassword(OLD, 'willow-bobbin-3')).toBe(true)
    expect(fitsPassword(OLD, 'Willow-bobbin-3')).toBe(false)
    expect(isOfOldCost(OLD)).toBe(true)
  })

  it('that is none fits nothing, whatever it claims to cost', () => {
    for (const hash of ['', 'plain', '$scrypt$n=1073741824,r=8,p=1$AAAA$AAAA', '$scrypt$n=16384,r=8,p=900$AAAA$AAAA'])
      expect(fitsPassword(hash, 'plain')).toBe(false)
  })

  it('of each person of the demo fits the password on the sign-in page', () => {
    for (const { passwordHash, password } of DEMO_PEOPLE) {
      expect(fitsPassword(passwordHash, password)).toBe(true)
      expect(isOfOldCost(passwordHash)).toBe(false)
    }
  })
})
