/** Ids of routes with one of them moved up (negative) or down by so many places; null where there is no such place. */
export function moved(order: readonly string[], id: string, by: number): string[] | null {
  const from = order.indexOf(id)
  const to = from + by
  if (from < 0 || to < 0 || to >= order.length) return null
  return order.toSpliced(from, 1).toSpliced(to, 0, id)
}

/**
 * How many routes a row passes that is dragged by some rows. Steps required by a route move with it, so only routes
 * change places.
 */
export function routesPassed(
  rows: readonly { readonly id: string; readonly isRoute: boolean }[],
  id: string,
  by: number,
): number {
  const from = rows.findIndex((row) => row.id === id)
  if (from < 0) return 0
  const passed = rows.slice(Math.max(0, Math.min(from, from + by)), Math.max(from, from + by) + 1)
  const routes = passed.filter((row) => row.isRoute && row.id !== id).length
  return by > 0 ? routes : -routes
}

/** The next or previous slice of the reach map from a time (ms); `edges` are those of all slices, in order. */
export function nextSlice(edges: readonly number[], at: number | null, by: number): number {
  const [first, last] = [edges[0]!, edges.at(-1)!]
  const slice = (last - first) / (edges.length - 1)
  const from = at ?? (by > 0 ? first - slice / 2 : last + slice / 2)
  return Math.min(last - slice / 2, Math.max(first + slice / 2, from + by * slice))
}
