import type { Span } from '../../cases/shape/moment'
import { clamped } from './estimate'

/** How much of a range is after `time`, 0 to 1; a range of no width is entirely on one side. */
export function shareAfter(span: Span, time: number): number {
  if (span.to === span.from) return span.from > time ? 1 : 0
  return clamped((span.to - time) / (span.to - span.from))
}

/** How much of a range is at or before `time`, 0 to 1. */
export function shareUpTo(span: Span, time: number): number {
  return 1 - shareAfter(span, time)
}

/**
 * P(A + B > time) where A and B are independent and uniform on their spans (in ms): the sum of two
 * uniform variables has a trapezoid density, whose distribution function is piecewise quadratic.
 */
export function sumIsAfter(one: Span, other: Span, time: number): number {
  const widths = [one.to - one.from, other.to - other.from]
  const narrow = Math.min(...widths)
  const wide = Math.max(...widths)
  const past = time - one.from - other.from
  if (past < 0) return 1
  if (past >= narrow + wide) return 0
  if (narrow === 0) return 1 - past / wide
  if (past < narrow) return 1 - past ** 2 / (2 * narrow * wide)
  if (past < wide) return 1 - (past - narrow / 2) / wide
  return (narrow + wide - past) ** 2 / (2 * narrow * wide)
}

/** Middles of `count` equal parts of a span: a plain quadrature for what has no closed form. */
export function pointsIn(span: Span, count: number): number[] {
  if (span.to === span.from) return [span.from]
  const step = (span.to - span.from) / count
  const points: number[] = []
  for (let index = 0; index < count; index++) points.push(span.from + (index + 0.5) * step)
  return points
}
