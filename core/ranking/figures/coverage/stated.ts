import { heldOf, type Copy } from '../../../cases/shape/copy'
import { known } from '../../../cases/shape/fact'
import { spanOf, type Span } from '../../../cases/shape/moment'
import { datesHeld, shareHeld } from '../../../cases/shape/part-held'
import { TYPE_WORDS, momentWords } from '../../../cases/telling/words'
import { partWords } from '../../../cases/telling/saying/parts'
import type { Axis, Slice } from '../../situation/axis'
import { clamped, ONE, ZERO, type Estimate } from '../../situation/estimate'
import { zoneOf, type Situation } from '../../situation/situation'
import { shareAfter } from '../../situation/spread'
import { flat, type Coverage } from './coverage-rule'

/** How much of a slice is in a range of time, 0 to 1. */
export function overlap(slice: Slice, range: Span): number {
  if (slice.to === slice.from) return slice.from === 0 || (range.from <= slice.from && slice.from <= range.to) ? 1 : 0
  return clamped(shareAfter(slice, range.from) - shareAfter(slice, range.to))
}

/** Bins and versions hold what was deleted or changed: of that, at most the part that the copy ever had. */
const ONLY_PARTS: readonly string[] = ['bin', 'library-bin', 'versions', 'nothing']

/** A number that somebody gives from memory is about so far off. */
const FROM_MEMORY: Estimate = [0.7, 1, 1.2]

/**
 * What was said of the copy itself, on top of what its kind of copy usually covers: placeholders hold nothing, dates
 * outside of those that it covers are not in it, and a part of the set that it is said to hold counts instead of what
 * its dates suggest.
 */
export function asStated(covered: Coverage, copy: Copy | null, by: string, axis: Axis, situation: Situation): Coverage {
  if (!copy) return covered
  if (copy.placeholders === 'yes')
    return nothing(axis, `copies.${copy.id}.placeholders`, 'It holds placeholders, not the files themselves.')
  const within = by === 'snapshot' || !known(copy.covers) ? covered : dated(covered, copy, axis, situation)
  return held(within, copy, by, axis, situation)
}

const nothing = (axis: Axis, fact: string, words: string): Coverage => ({
  bySlice: flat(axis, ZERO),
  fact,
  says: () => words,
})

const scaled = (value: Estimate, by: number): Estimate => [value[0] * by, value[1] * by, value[2] * by]

function dated(covered: Coverage, copy: Copy, axis: Axis, situation: Situation): Coverage {
  if (!known(copy.covers)) return covered
  const { covers } = copy
  const span = spanOf(covers)
  return {
    bySlice: axis.slices.map((slice, index) => scaled(covered.bySlice[index]!, overlap(slice, span))),
    fact: `copies.${copy.id}.covers`,
    says: () => `It covers only ${momentWords(covers, zoneOf(situation), situation.now)}.`,
  }
}

function held(covered: Coverage, copy: Copy, by: string, axis: Axis, situation: Situation): Coverage {
  const set = axis.wanted
  const part = heldOf(copy, set.id)
  if (!known(part)) return covered
  const fact = `copies.${copy.id}.holds.${set.id}`
  const share = shareHeld(part, set)
  const dates = datesHeld(part)
  const what = known(set.type) ? TYPE_WORDS[set.type] : 'them'
  if (share === 0) return nothing(axis, fact, `It holds none of the ${what}.`)
  const bySlice = axis.slices.map((slice, index): Estimate => {
    const before = covered.bySlice[index]!
    const inDates = dates ? overlap(slice, spanOf(dates)) : null
    if (inDates !== null) return ONLY_PARTS.includes(by) ? scaled(before, inDates) : scaled(SAID, inDates)
    // A count of an unknown number says that there are some, not how large a part they are.
    if (share === null) return before
    if (ONLY_PARTS.includes(by)) return scaled(before, share)
    return share === 1 ? SAID : [share * FROM_MEMORY[0], share, Math.min(1, share * FROM_MEMORY[2])]
  })
  const words = partWords(part, { now: situation.now, zone: zoneOf(situation) })
  return { bySlice, fact, says: () => `The client says that it holds ${words} of the ${what}.` }
}

/** What a client is sure of is nearly always so. */
const SAID: Estimate = [0.85, 0.95, ONE[2]]
