import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DAY_MS, HOUR_MS } from '../cases/shape/moment'
import { NOW } from '../testing/case-with'
import { isBackupDue, keptBackups } from './kept'

const backup = (days: number) => ({ name: `${days} days`, at: NOW - days * DAY_MS })
const names = (days: number[], keep: number) => keptBackups(days.map(backup), NOW, keep).map(({ name }) => name)

describe('backups that are kept', () => {
  it('are one a day for a week, one a week before that, and none beyond the period', () => {
    expect(names([0, 0.2, 1, 2, 6.5, 8, 9, 13, 15, 20, 40, 89, 91], 90)).toEqual([
      '0 days',
      '1 days',
      '2 days',
      '6.5 days',
      '8 days',
      '15 days',
      '40 days',
      '89 days',
    ])
  })

  it('always hold the newest, and nothing but it that is older than wiped content may live', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 400, noNaN: true }), { minLength: 1 }),
        fc.integer({ min: 0, max: 120 }),
        (days, keep) => {
          const kept = keptBackups(days.map(backup), NOW, keep)
          expect(kept[0]!.at).toBe(NOW - Math.min(...days) * DAY_MS)
          expect(kept.slice(1).every(({ at }) => NOW - at <= keep * DAY_MS)).toBe(true)
          expect(kept.length).toBeLessThanOrEqual(7 + Math.ceil(keep / 7) + 1)
        },
      ),
    )
  })

  it('are due after a day, after an hour where one failed, and at once where the clock was set back', () => {
    expect(isBackupDue(null, null, NOW)).toBe(true)
    expect(isBackupDue(NOW - 23 * HOUR_MS, NOW - 23 * HOUR_MS, NOW)).toBe(false)
    expect(isBackupDue(NOW - 25 * HOUR_MS, NOW - 25 * HOUR_MS, NOW)).toBe(true)
    expect(isBackupDue(NOW - 25 * HOUR_MS, NOW - HOUR_MS / 2, NOW)).toBe(false)
    expect(isBackupDue(NOW - 25 * HOUR_MS, NOW - HOUR_MS, NOW)).toBe(true)
    expect(isBackupDue(NOW + DAY_MS, NOW + DAY_MS, NOW)).toBe(true)
  })
})
