import { expect, it } from 'vitest'
import { moved, nextSlice, routesPassed } from './own-order'

it('a route is moved among the routes, and not beyond their ends', () => {
  expect(moved(['a', 'b', 'c'], 'a', 2)).toEqual(['b', 'c', 'a'])
  expect(moved(['a', 'b', 'c'], 'c', -1)).toEqual(['a', 'c', 'b'])
  for (const [id, by] of [
    ['a', -1],
    ['c', 1],
    ['x', 1],
  ] as const)
    expect(moved(['a', 'b', 'c'], id, by)).toBeNull()
})

it('a dragged row passes routes; steps that come before them do not count', () => {
  const rows = ['consent', 'copy', 'a', 'b', 'c'].map((id) => ({ id, isRoute: id.length === 1 }))
  expect(routesPassed(rows, 'a', 2)).toBe(2)
  expect(routesPassed(rows, 'c', -4)).toBe(-2)
  expect(routesPassed(rows, 'a', -2)).toBe(-0)
  expect(routesPassed(rows, 'x', 1)).toBe(0)
})

it('arrows step through the middles of the slices and stop at the ends', () => {
  const edges = [0, 10, 20, 30]
  expect([nextSlice(edges, null, 1), nextSlice(edges, 5, 1), nextSlice(edges, 25, 1)]).toEqual([5, 15, 25])
  expect([nextSlice(edges, null, -1), nextSlice(edges, 5, -1)]).toEqual([25, 5])
})
