/** Builds a query string; empty and false values are omitted, true becomes 1. */
export function queryOf(all: Record<string, string | number | boolean | undefined>): URLSearchParams {
  const query = new URLSearchParams()
  for (const [name, value] of Object.entries(all))
    if (value !== undefined && value !== '' && value !== false) query.set(name, value === true ? '1' : String(value))
  return query
}
