import { z } from 'zod'
import { instant } from './moment'

/** What a run's clock counts at the moment. */
export const CLOCK_PHASES = ['off', 'hands-on', 'waiting'] as const
export type ClockPhase = (typeof CLOCK_PHASES)[number]

const spentMs = z.int().min(0).max(1_000_000_000_000)

/**
 * The two timers of a run, of which one runs at most: hands at work, or waiting for the device, the account or the
 * scan. Sums of ended stretches, and since when the present one runs.
 */
export const RunClock = z.object({
  phase: z.enum(CLOCK_PHASES),
  since: instant,
  handsOnMs: spentMs.default(0),
  waitingMs: spentMs.default(0),
})
export type RunClock = z.infer<typeof RunClock>

/** A clock that begins to count at a moment (ms since the epoch). */
export const startedClock = (phase: ClockPhase, now: number): RunClock => ({
  phase,
  since: new Date(now).toISOString(),
  handsOnMs: 0,
  waitingMs: 0,
})

/** What a clock shows at a moment, in ms: a clock that was set back never takes time away. */
export function clockAt(clock: RunClock, now: number): { readonly handsOnMs: number; readonly waitingMs: number } {
  const running = Math.max(0, now - Date.parse(clock.since))
  return {
    handsOnMs: clock.handsOnMs + (clock.phase === 'hands-on' ? running : 0),
    waitingMs: clock.waitingMs + (clock.phase === 'waiting' ? running : 0),
  }
}

/** The clock after it was switched to another phase at a moment; the same phase again changes nothing. */
export function switched(clock: RunClock, phase: ClockPhase, now: number): RunClock {
  if (clock.phase === phase) return clock
  return { phase, since: new Date(Math.max(now, Date.parse(clock.since))).toISOString(), ...clockAt(clock, now) }
}
