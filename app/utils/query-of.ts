/** Words for an address: what says nothing is left out, and what is so stands as 1. */
export function queryOf(all: Record<string, string | number | boolean | undefined>): URLSearchParams {
  const query = new URLSearchParams()
  for (const [name, value] of Object.entries(all))
    if (value !== undefined && value !== '' && value !== false) query.set(name, value === true ? '1' : String(value))
  return query
}
