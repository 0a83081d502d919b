import { numberWords } from '~~/core/local/numbers'

export { numberWords }
export { minutesWords, percent } from '~~/core/cases/telling/saying/figures'

/** Reach from 0 to 1 as the colour of a lit cell, between the stops of the ramp. */
const STOPS = [
  [0, 0x30, 0x25, 0x20],
  [0.15, 0x54, 0x37, 0x23],
  [0.4, 0xa0, 0x5c, 0x24],
  [0.7, 0xe8, 0x9e, 0x38],
  [1, 0xff, 0xe2, 0x96],
] as const

export function reachColour(reach: number): string {
  const at = Math.min(1, Math.max(0, reach))
  const upper = STOPS.findIndex(([stop]) => at <= stop)
  const [from, to] = upper <= 0 ? [STOPS[0], STOPS[0]] : [STOPS[upper - 1]!, STOPS[upper]!]
  const part = to[0] === from[0] ? 0 : (at - from[0]) / (to[0] - from[0])
  const channel = (index: 1 | 2 | 3) => Math.round(from[index] + (to[index] - from[index]) * part)
  return `rgb(${channel(1)} ${channel(2)} ${channel(3)})`
}

/** A running clock: "4:07", "1:12:30". */
export function spanClock(ms: number): string {
  const seconds = Math.floor(ms / 1000)
  const [hours, minutes] = [Math.floor(seconds / 3600), Math.floor((seconds % 3600) / 60)]
  const two = (number: number) => String(number).padStart(2, '0')
  return hours > 0 ? `${hours}:${two(minutes)}:${two(seconds % 60)}` : `${minutes}:${two(seconds % 60)}`
}

/** How much came back, in runs: "6.9", "41". */
export const runsWords = (amount: number) => numberWords(Math.round(amount * 10) / 10)

/** A range of chances: "67–83". */
export const oddsRangeWords = (odds: readonly number[]) =>
  `${Math.round(odds[0]! * 100)}–${Math.round(odds.at(-1)! * 100)}`
