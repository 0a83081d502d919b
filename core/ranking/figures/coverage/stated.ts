import { heldOf, type Copy } from '../../../cases/shape/copy'
import { known } from '../../../cases/shape/fact'
import { spanOf } from '../../../cases/shape/moment'
import { datesHeld, shareHeld } from '../../../cases/shape/part-held'
import { TYPE_WORDS, momentWords } from '../../../cases/telling/words'
import { partWords } from '../../../cases/telling/saying/parts'
import type { Axis } from '../../situation/axis'
import { ZERO, type Estimate } from '../../situation/estimate'
import { zoneOf, type Situation } from '../../situation/situation'
import { flat, type Coverage } from './coverage-rule'
import { fromMemory, overlap } from './shares'

/** Bins and versions hold what was deleted or changed: of that, at most the part that the copy ever had. */
const ONLY_PARTS: readonly string[] = ['bin', 'library-bin', 'versions', 'nothing']

/**
 * What was said of the copy itself, on top of what its kind of copy usually covers: placeholders hold nothing, dates
 * outside of those that it covers are not in it, and a part of the set that it is said to hold counts instead of what
 * its dates suggest.
 */
export function asStated(covered: Coverage, copy: Copy | null, by: string, axis: Axis, situation: Situation): Coverage {
  if (!copy) return covered
  if (copy.placeholders === 'yes')
    return nothing(axis, `copies.${copy.id}.placeholders`, 'It holds placeholders, not the files themselves.')
  // A snapshot has reckoned with its dates itself.
  const within = by === 'snapshot' ? covered : dated(covered, copy, axis, situation)
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
    return share === 1 ? SAID : fromMemory(share)
  })
  const words = partWords(part, { now: situation.now, zone: zoneOf(situation) })
  return { bySlice, fact, says: () => `The client says that it holds ${words} of the ${what}.` }
}

/** What a client is sure of is nearly always so. */
const SAID: Estimate = [0.85, 0.95, 1]
