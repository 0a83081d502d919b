import { known } from '../../cases/shape/fact'
import { happenedElsewhere, STILL_THERE } from '../../cases/shape/loss'
import { DAY_MS, spanOf, type Span } from '../../cases/shape/moment'
import { certain, clamped, ONE, product, ZERO } from '../situation/estimate'
import { keptWith } from '../situation/kept-by'
import type { Situation } from '../situation/situation'
import type { Axis } from '../situation/axis'
import { pointsIn, shareUpTo } from '../situation/spread'
import { encryption, encryptionWhileThere } from './encryption'
import { endOf, storageKindOf, type MediumAsked, type Survival } from './medium'
import { overwriting } from './written'

/** Chances that a medium of this kind discards freed blocks at once, by a timer, or never. */
const DISCARD_PRIOR: Record<string, readonly [atOnce: number, byTimer: number, off: number]> = {
  'phone-flash': [0.75, 0.2, 0.05],
  'solid-state': [0.7, 0.2, 0.1],
  'spinning-disk': [0, 0.01, 0.99],
  card: [0.01, 0.01, 0.98],
  stick: [0.02, 0, 0.98],
  unknown: [0.4, 0.1, 0.5],
}

/** Days between two runs of the timer that discards freed blocks. */
export const DISCARD_TIMER_DAYS = 7

/**
 * The share of a wanted set that a medium still holds and that can be read at all, by any route: encryption, discard,
 * format and overwriting, each named where it decides.
 */
export function survivalOf(medium: MediumAsked, axis: Axis, situation: Situation): Survival {
  const kept = survivalsIn(situation)(axis)
  const before = kept.get(medium.path)
  if (before) return before
  const found = whatSurvives(medium, axis, situation)
  kept.set(medium.path, found)
  return found
}

/** All routes that read one medium in one situation share what it still holds, by path. */
const survivalsIn = keptWith((_: Situation) => keptWith((__: Axis) => new Map<string, Survival>()))

function whatSurvives(medium: MediumAsked, axis: Axis, situation: Situation): Survival {
  const { how } = situation.ofCase.loss
  const isUntouched = happenedElsewhere(situation.ofCase.loss.on, medium.path.split('.')[1])
  const causes =
    STILL_THERE.includes(how) || isUntouched
      ? [encryptionWhileThere(medium)]
      : [
          encryption(medium, how),
          format(situation),
          discard(medium, situation),
          contentChanged(how),
          overwriting(medium, axis, situation),
        ]
  const deciding = causes.reduce((least, cause) => (cause.value[1] < least.value[1] ? cause : least))
  const laid = causes.find(({ bySlice }) => bySlice)
  const rest = product(...causes.filter((cause) => cause !== laid).map((cause) => cause.value))
  return {
    value: product(...causes.map((cause) => cause.value)),
    ...(laid ? { bySlice: laid.bySlice!.map((value) => product(value, rest)) } : {}),
    fact: deciding.fact,
    says: deciding.says,
  }
}

function format({ ofCase: { loss } }: Situation): Survival {
  const fact = 'loss.format'
  if (loss.how !== 'formatted') return { value: ONE, fact, says: () => 'It was not formatted.' }
  if (loss.format === 'full')
    return { value: ZERO, fact, says: () => 'A full format writes every block; nothing is left under it.' }
  if (loss.format === 'quick')
    return { value: ONE, fact, says: () => 'A quick format clears the records and leaves the content.' }
  return {
    value: [0.6, 0.8, 0.95],
    fact,
    says: () => 'A quick format leaves the content, a full one nothing; it is not known which it was.',
  }
}

/** Losses that change the content itself rather than delete it. */
function contentChanged(how: string): Survival {
  const fact = 'loss.how'
  if (how === 'saved-over')
    return {
      value: [0.05, 0.2, 0.4],
      fact,
      says: () => 'Programs often save into a new file and drop the old one, but not always.',
    }
  if (how === 'malware')
    return {
      value: [0.02, 0.1, 0.25],
      fact,
      says: () => 'Some malware writes a new file and drops the old one; most writes over it.',
    }
  if (how === 'crashed-before-saving')
    return { value: [0.02, 0.08, 0.2], fact, says: () => 'What was never saved was hardly ever on the medium.' }
  return { value: ONE, fact, says: () => 'The content itself was not changed.' }
}

function discard(medium: MediumAsked, situation: Situation): Survival {
  const fact = `${medium.path}.discard`
  const [atOnce, byTimer, off] = discardOdds(medium)
  const beforeTimer = notYetDiscarded(medium, situation)
  const left = off + byTimer * beforeTimer
  if (atOnce === 1)
    return { value: ZERO, fact, says: () => 'Freed blocks are erased at once on this medium; they read as zeros.' }
  if (byTimer === 1)
    return {
      value: certain(left),
      fact,
      says: () =>
        left === 0
          ? 'The timer that erases freed blocks has run since.'
          : 'Freed blocks wait for the next run of the timer that erases them.',
    }
  if (off === 1 || left > 0.9)
    return { value: certain(left), fact, says: () => 'This medium does not erase freed blocks by itself.' }
  return {
    value: [left * 0.4, left, Math.min(1, left * 1.8)],
    fact,
    says: () => 'Such a medium usually erases freed blocks by itself; it is not known whether this one does.',
  }
}

/** The chances (fractions of 1) that a medium discards freed blocks at once, by a timer, or not at all. */
export function discardOdds(medium: MediumAsked): readonly [atOnce: number, byTimer: number, off: number] {
  const { discard: told } = medium.storage
  if (told === 'at-once') return [1, 0, 0]
  if (told === 'by-timer') return [0, 1, 0]
  if (told === 'off') return [0, 0, 1]
  return DISCARD_PRIOR[storageKindOf(medium)]!
}

/** When the timer last ran before `end`, where it is known when it runs next; a run every week. */
function lastRun({ storage }: MediumAsked, end: number): Span | null {
  if (!known(storage.discardNext)) return null
  const next = spanOf(storage.discardNext)
  const weeks = Math.max(0, Math.ceil((next.to - end) / (DISCARD_TIMER_DAYS * DAY_MS)))
  const back = weeks * DISCARD_TIMER_DAYS * DAY_MS
  return { from: next.from - back, to: next.to - back }
}

/** The chance that no run of the timer fell between the loss and now, whatever weekday it runs on. */
function notYetDiscarded(medium: MediumAsked, situation: Situation): number {
  const { loss } = situation
  const end = endOf(medium, situation)
  const points = pointsIn(loss, 9)
  const last = lastRun(medium, end)
  if (last) return points.reduce((sum, time) => sum + shareUpTo(last, time), 0) / points.length
  return (
    points.reduce((sum, time) => sum + clamped(1 - (end - time) / (DISCARD_TIMER_DAYS * DAY_MS)), 0) / points.length
  )
}
