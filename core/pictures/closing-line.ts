import { DAY_MS, HOUR_MS } from '../cases/shape/moment'

/** One case to be placed on the line. */
export interface Hanging {
  readonly code: string
  /** when its next window closes, between two times (ms) */
  readonly closes: readonly [earliest: number, latest: number]
  /** in money: what waiting a day costs */
  readonly waits: number
}

/** A tag: of one case, or of several that close about the same time. Positions in px. */
export interface Tag {
  readonly codes: readonly string[]
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  /** where its string is attached to the line */
  readonly string: number
  /** how wide its window is uncertain, on the line */
  readonly from: number
  readonly to: number
  readonly isPast: boolean
}

/** Times that are marked on the line, from now on; the next hours have the most room. */
export const LINE_STOPS: readonly { readonly words: string; readonly ms: number; readonly at: number }[] = [
  { words: 'now', ms: 0, at: 0.05 },
  { words: '1 h', ms: HOUR_MS, at: 0.11 },
  { words: '4 h', ms: 4 * HOUR_MS, at: 0.21 },
  { words: '1 day', ms: DAY_MS, at: 0.36 },
  { words: '2 days', ms: 2 * DAY_MS, at: 0.46 },
  { words: '1 week', ms: 7 * DAY_MS, at: 0.64 },
  { words: '2 weeks', ms: 14 * DAY_MS, at: 0.75 },
  { words: '1 month', ms: 30 * DAY_MS, at: 0.87 },
  { words: '2 months', ms: 61 * DAY_MS, at: 0.98 },
]

/** Up to this many cases, each has a tag of its own. */
export const MAX_TAGS = 40
/** Above that, neighbours in time are grouped until there are at most this many. */
const MAX_GROUPS = 20
/** Up to this many cases, there is room for three lines on each tag. */
const MAX_LARGE = 10
const GAP = 6

/** Tags large enough to read: three lines for few cases, one line for many, two where each stands for several. */
export function tagSize(cases: number): { readonly width: number; readonly height: number; readonly lines: 1 | 2 | 3 } {
  if (cases <= MAX_LARGE) return { width: 132, height: 62, lines: 3 }
  return cases <= MAX_TAGS ? { width: 112, height: 28, lines: 1 } : { width: 112, height: 40, lines: 2 }
}

/**
 * Places the cases so that no tag covers another: sorted by time, each at its place on the line or as near to it as
 * there is room, those that lose most by waiting lower. Above 40 cases, neighbours in time are one tag. `placeOf` is
 * the scale of the line (ms to px), `width` its length in px.
 */
export function hangTags(
  cases: readonly Hanging[],
  now: number,
  width: number,
  placeOf: (time: number) => number,
): { readonly tags: readonly Tag[]; readonly height: number } {
  const groups = grouped([...cases].sort((one, other) => middleOf(one) - middleOf(other)))
  const { width: wide, height: high } = tagSize(cases.length)
  const weights = groups.map((group) => Math.max(...group.map((one) => one.waits)))
  const heavier = (weight: number) => weights.filter((other) => other < weight).length / Math.max(1, groups.length - 1)
  const lanes: { from: number; to: number }[][] = []
  const wanted = Math.max(1, Math.min(3, groups.length))
  const tags = groups.map((group, index): Tag => {
    const earliest = Math.min(...group.map((one) => one.closes[0]))
    const latest = Math.max(...group.map((one) => one.closes[1]))
    const string = placeOf((earliest + latest) / 2)
    const x = Math.min(width - wide, Math.max(0, string - wide / 2))
    const depth = Math.round(heavier(weights[index]!) * (wanted - 1))
    const lane = freeLane(lanes, x, wide, depth)
    lanes[lane] ??= []
    lanes[lane].push({ from: x, to: x + wide })
    return {
      codes: group.map((one) => one.code),
      x,
      y: lane * (high + GAP),
      width: wide,
      height: high,
      string,
      from: placeOf(earliest),
      to: Math.max(placeOf(latest), placeOf(earliest) + 2),
      isPast: latest <= now,
    }
  })
  return { tags, height: lanes.length * (high + GAP) }
}

const middleOf = ({ closes }: Hanging) => (closes[0] + closes[1]) / 2

/** The lane nearest to the preferred depth with room at this place; a new one where all are taken. */
function freeLane(lanes: readonly { from: number; to: number }[][], x: number, width: number, wished: number): number {
  const isFree = (lane: number) => (lanes[lane] ?? []).every((one) => x + width + GAP <= one.from || x >= one.to + GAP)
  const candidates = Array.from({ length: lanes.length + wished + 2 }, (_, lane) => lane)
    .filter(isFree)
    .sort((one, other) => Math.abs(one - wished) - Math.abs(other - wished))
  return candidates[0]!
}

/** Where there are too many, neighbours in time become one. */
function grouped(sorted: readonly Hanging[]): Hanging[][] {
  if (sorted.length <= MAX_TAGS) return sorted.map((one) => [one])
  const size = Math.ceil(sorted.length / MAX_GROUPS)
  return Array.from({ length: Math.ceil(sorted.length / size) }, (_, index) =>
    sorted.slice(index * size, (index + 1) * size),
  )
}
