import type { Built } from './build-problem'
import type { JointState, Problem } from './problem'

/** The most states that the items' times and what is still there may multiply the facts' states by. */
export const MOST_PARTS = { times: 8, places: 2 }

/** Shares that differ by less are the same. */
const SAME = 1e-9

/**
 * A problem of a few items, of which a share is a chance and not a fraction. When each set's item was made becomes part
 * of the state, in as many parts as some step tells apart; so does whether what several steps look for in one place is
 * still there. What a step then brings of the set that it reaches most is all or nothing, which is part of its working.
 */
export function fewItems(problem: Problem, sets: readonly number[]): Built {
  const from = sets.map((_, set) => sets.slice(0, set).reduce((sum, count) => sum + count, 0))
  const parts = partsOfTime(problem, sets, from)
  const wholes = sets.map((count, set) => sumOver(problem.worth, from[set]!, count))
  const combined = combinationsOf(parts.map((of) => of.length))
  const slots: number[][] = []
  const facts: number[] = []
  const timed = problem.states.flatMap((state, fact) =>
    combined.flatMap((slot): JointState[] => {
      const chance = slot.reduce(
        (so, part, set) =>
          wholes[set]! > 0 ? (so * parts[set]![part]!.worth) / wholes[set]! : so / parts[set]!.length,
        1,
      )
      if (chance === 0) return []
      slots.push(slot)
      facts.push(fact)
      return [
        {
          ...state,
          probability: state.probability * chance,
          share: state.share.map((share) => slot.map((part, set) => meanOver(problem, share, parts[set]![part]!))),
        },
      ]
    }),
  )
  const places = sharedPlaces(problem, timed).slice(0, MOST_PARTS.places)
  const found = timed.map((state, at) => ({ state, slot: slots[at]!, fact: facts[at]! }))
  const stillThere = places.reduce(
    (so, members) => so.flatMap((one) => there(one.state, members).map((state) => ({ ...one, state }))),
    found,
  )
  const columns = sets.flatMap((count, set) => Array.from({ length: count }, () => set))
  const partOf = sets.flatMap((count, set) =>
    Array.from({ length: count }, (_, slice) =>
      parts[set]!.findIndex(({ slices }) => slices.includes(from[set]! + slice)),
    ),
  )
  return {
    problem: { ...problem, worth: wholes, states: stillThere.map(({ state }) => allOrNothing(state)) },
    columns,
    origin: stillThere.map(({ fact }) => fact),
    isHere: (state, slice) => stillThere[state]!.slot[columns[slice]!] === partOf[slice],
  }
}

/** Slices of one set that count as one time at which its item may have been made. */
interface Part {
  readonly slices: readonly number[]
  /** in money */
  readonly worth: number
}

/** For each set its slices in parts: those that every step reaches alike, and where that gives too many, the most alike. */
function partsOfTime(problem: Problem, sets: readonly number[], from: readonly number[]): Part[][] {
  const shares = [...new Set(problem.states.flatMap((state) => state.share))]
  const most = Math.max(1, Math.floor(MOST_PARTS.times ** (1 / Math.max(1, sets.length))))
  return sets.map((count, set) => {
    let parts: Part[] = []
    for (let slice = from[set]!; slice < from[set]! + count; slice++) {
      const one: Part = { slices: [slice], worth: problem.worth[slice]! }
      const alike = parts.findIndex((part) => apart(problem, shares, part, one) < SAME)
      parts = alike < 0 ? [...parts, one] : parts.with(alike, together(parts[alike]!, one))
    }
    while (parts.length > most) parts = withNearestJoined(problem, shares, parts)
    return parts
  })
}

function withNearestJoined(problem: Problem, shares: readonly (readonly number[])[], parts: readonly Part[]): Part[] {
  let nearest = { one: 0, other: 1, by: Infinity }
  for (let one = 0; one < parts.length; one++)
    for (let other = one + 1; other < parts.length; other++) {
      const weight = Math.min(parts[one]!.worth, parts[other]!.worth)
      const by = weight * apart(problem, shares, parts[one]!, parts[other]!)
      if (by < nearest.by) nearest = { one, other, by }
    }
  return parts.with(nearest.one, together(parts[nearest.one]!, parts[nearest.other]!)).toSpliced(nearest.other, 1)
}

const together = (one: Part, other: Part): Part => ({
  slices: [...one.slices, ...other.slices],
  worth: one.worth + other.worth,
})

/** By how much the shares of two parts differ at most. */
const apart = (problem: Problem, shares: readonly (readonly number[])[], one: Part, other: Part) =>
  shares.reduce(
    (most, share) => Math.max(most, Math.abs(meanOver(problem, share, one) - meanOver(problem, share, other))),
    0,
  )

function meanOver({ worth }: Problem, share: readonly number[], part: Part): number {
  if (part.worth === 0) return part.slices.reduce((sum, slice) => sum + share[slice]!, 0) / part.slices.length
  return part.slices.reduce((sum, slice) => sum + worth[slice]! * share[slice]!, 0) / part.worth
}

const sumOver = (list: readonly number[], from: number, count: number) =>
  list.slice(from, from + count).reduce((sum, one) => sum + one, 0)

const combinationsOf = (counts: readonly number[]): number[][] =>
  counts.reduce<number[][]>(
    (so, count) => so.flatMap((before) => Array.from({ length: count }, (_, one) => [...before, one])),
    [[]],
  )

/** Places that several steps read and of which it is open whether the item is still there; the most open ones first. */
function sharedPlaces({ steps }: Problem, states: readonly JointState[]): number[][] {
  const places = new Map<string, number[]>()
  for (const [index, { place }] of steps.entries()) places.set(place, [...(places.get(place) ?? []), index])
  const openness = (members: readonly number[]) =>
    states.reduce((sum, state) => {
      const chance = largestOf(state, members)
      return sum + state.probability * chance * (1 - chance)
    }, 0)
  return [...places.values()]
    .filter((members) => members.length > 1)
    .map((members) => ({ members, open: openness(members) }))
    .filter(({ open }) => open > SAME)
    .sort((one, other) => other.open - one.open)
    .map(({ members }) => members)
}

const largestOf = (state: JointState, members: readonly number[]) =>
  members.reduce((most, index) => Math.max(most, ...state.share[index]!), 0)

/** A state in two: what these steps look for is there, or it is not. */
function there(state: JointState, members: readonly number[]): JointState[] {
  const chance = largestOf(state, members)
  if (chance <= 0 || chance >= 1) return [state]
  const scaled = (by: number) =>
    state.share.map((share, index) => (members.includes(index) ? share.map((part) => part * by) : share))
  return [
    { ...state, probability: state.probability * chance, share: scaled(1 / chance) },
    { ...state, probability: state.probability * (1 - chance), share: scaled(0) },
  ]
}

/** A step works where it finds an item of the set that it reaches most; of the others it brings the rest of its share. */
function allOrNothing(state: JointState): JointState {
  const most = state.share.map((share) => Math.max(0, ...share))
  return {
    ...state,
    own: state.own.map((own, index) => (most[index]! > 0 ? own * most[index]! : own)),
    share: state.share.map((share, index) =>
      most[index]! > 0 ? share.map((part) => Math.min(1, part / most[index]!)) : share,
    ),
  }
}
