import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CLOCK_PHASES, clockAt, RunClock, startedClock, switched } from './run-clock'

const NOW = Date.UTC(2026, 10, 24, 10, 42)
const MINUTE = 60_000

describe('the clock of a run', () => {
  it('counts hands-on and waiting time apart, through any pause and any number of reloads', () => {
    let clock = startedClock('hands-on', NOW)
    clock = RunClock.parse(JSON.parse(JSON.stringify(switched(clock, 'waiting', NOW + 12 * MINUTE))))
    clock = switched(clock, 'off', NOW + 40 * MINUTE)
    clock = switched(clock, 'hands-on', NOW + 100 * MINUTE)
    expect(clockAt(clock, NOW + 103 * MINUTE)).toEqual({ handsOnMs: 15 * MINUTE, waitingMs: 28 * MINUTE })
  })

  it('never counts a moment twice or loses one, whatever it is switched to', () => {
    const turns = fc.array(fc.tuple(fc.constantFrom(...CLOCK_PHASES), fc.integer({ min: 0, max: 500 })), {
      maxLength: 30,
    })
    fc.assert(
      fc.property(turns, (all) => {
        let clock = startedClock('hands-on', NOW)
        let now = NOW
        let off = 0
        for (const [phase, minutes] of all) {
          if (clock.phase === 'off') off += minutes * MINUTE
          now += minutes * MINUTE
          clock = switched(clock, phase, now)
        }
        const { handsOnMs, waitingMs } = clockAt(clock, now)
        expect(handsOnMs + waitingMs + off).toBe(now - NOW)
      }),
    )
  })

  it('takes no time away where the machine’s clock was set back', () => {
    const clock = switched(startedClock('hands-on', NOW), 'waiting', NOW + 10 * MINUTE)
    expect(clockAt(clock, NOW)).toEqual({ handsOnMs: 10 * MINUTE, waitingMs: 0 })
    expect(clockAt(switched(clock, 'hands-on', NOW), NOW + 5 * MINUTE)).toEqual({
      handsOnMs: 10 * MINUTE,
      waitingMs: 0,
    })
  })
})
