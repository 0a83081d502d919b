import { describe, expect, it } from 'vitest'
import { machineWords, MAX_SESSION_MS, standingOf } from './session'

const minutes = (count: number) => count * 60_000
const begun = Date.parse('2026-11-24T10:00:00Z')

describe('a session', () => {
  it('is open until the idle limit, idle from then on, and over after twelve hours of use', () => {
    const used = begun + minutes(20)
    expect(standingOf({ begun, used }, used + minutes(30) - 1, 30)).toBe('open')
    expect(standingOf({ begun, used }, used + minutes(30), 30)).toBe('idle')
    expect(standingOf({ begun, used: begun + MAX_SESSION_MS }, begun + MAX_SESSION_MS, 30)).toBe('over')
  })

  it('outlives a clock that goes back a little, and not one that goes back a day', () => {
    expect(standingOf({ begun, used: begun }, begun - minutes(60), 30)).toBe('open')
    expect(standingOf({ begun, used: begun }, begun - minutes(24 * 60), 30)).toBe('over')
  })

  it('says on what it was begun', () => {
    expect(machineWords('Browser/5.0 (Mobile; rv:128)')).toBe('a phone or tablet')
    expect(machineWords('Browser/5.0')).toBe('a computer')
  })
})
