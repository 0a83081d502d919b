import { scaleLinear, type ScaleLinear } from 'd3-scale'
import type { ReachMap } from '~~/core/pictures/reach-map'

/** How much of the width belongs to the time after the items were created: it has marks but no cells. */
const AFTER = 0.16

/** The scale of a reach map over a width in px: the time in which the items were made, then what came after it. */
export function reachScale(map: ReachMap, width: number): ScaleLinear<number, number> | null {
  if (!map.made) return null
  const { from, to } = map.made
  const last = Math.max(map.now, ...map.marks.map((mark) => mark.to))
  if (last <= to) return scaleLinear([from, to], [0, width]).clamp(true)
  return scaleLinear([from, to, last], [0, width * (1 - AFTER), width - 1]).clamp(true)
}
