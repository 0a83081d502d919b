/** What has been tried, as sets of steps: those that worked, that failed, and that turned out to be void. */
export interface History {
  readonly worked: number
  readonly failed: number
  readonly void: number
}

export const NOTHING_TRIED: History = { worked: 0, failed: 0, void: 0 }

/** From this chance up a step counts as sure not to be void. */
export const SURE = 1 - 1e-12

/** Everything that can have come of the steps, as numbers: a digit for each of them, in base 3 or, where it can be void, 4. */
export interface Histories {
  readonly count: number
  /** by step: whether it can be void at all */
  readonly canBeVoid: readonly boolean[]
  /** by step: what its digit counts */
  readonly places: readonly number[]
  /** by history: the same among histories of what was seen, where void is as good as not tried */
  readonly seen: Int32Array
  /** by history: the sets of steps that were tried, that worked and that failed */
  readonly tried: Int32Array
  readonly worked: Int32Array
  readonly failed: Int32Array
}

/** The most sets of histories that are kept: problems of one case share theirs. */
const MOST_KEPT = 24
const KEPT = new Map<string, Histories>()

/** `seenPlaces`: by step, what its digit counts among histories of what was seen. */
export function historiesOf(seenPlaces: readonly number[], canBeVoid: readonly boolean[]): Histories {
  const key = `${seenPlaces.join()} ${canBeVoid.map(Number).join()}`
  const before = KEPT.get(key)
  if (before) return before
  if (KEPT.size >= MOST_KEPT) KEPT.clear()
  const found = historiesFor(seenPlaces, canBeVoid)
  KEPT.set(key, found)
  return found
}

function historiesFor(seenPlaces: readonly number[], canBeVoid: readonly boolean[]): Histories {
  const places: number[] = []
  let count = 1
  for (const four of canBeVoid) {
    places.push(count)
    count *= four ? 4 : 3
  }
  const seen = new Int32Array(count)
  const tried = new Int32Array(count)
  const worked = new Int32Array(count)
  const failed = new Int32Array(count)
  for (const [step, place] of places.entries())
    for (let digit = 1; digit < (canBeVoid[step] ? 4 : 3); digit++)
      for (let before = 0, at = digit * place; before < place; before++, at++) {
        seen[at] = seen[before]! + (digit < 3 ? digit * seenPlaces[step]! : 0)
        tried[at] = tried[before]! | (1 << step)
        worked[at] = worked[before]! | (digit === 1 ? 1 << step : 0)
        failed[at] = failed[before]! | (digit === 2 ? 1 << step : 0)
      }
  return { count, canBeVoid, places, seen, tried, worked, failed }
}

/** What a history of what was seen says of the step whose digit counts `place`: 0 nothing, 1 it worked, 2 it failed; 0 where it has no digit. */
export const digitOf = (seen: number, place: number) => (place === 0 ? 0 : ((seen / place) | 0) % 3)

/** The history at a place. */
export function historyAt({ tried, worked, failed }: Histories, at: number): History {
  return { worked: worked[at]!, failed: failed[at]!, void: tried[at]! & ~worked[at]! & ~failed[at]! }
}

/** The place of a history. */
export function placeOf({ places, canBeVoid }: Histories, { worked, failed, void: closed }: History): number {
  let at = 0
  for (const [step, place] of places.entries()) {
    const bit = 1 << step
    // Played under other figures, a step may be void that could not be so here: it is as good as failed.
    const digit = worked & bit ? 1 : failed & bit ? 2 : closed & bit ? (canBeVoid[step] ? 3 : 2) : 0
    at += digit * place
  }
  return at
}
