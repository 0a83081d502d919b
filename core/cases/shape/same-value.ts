/** True where two JSON values are equal, whatever the order of their keys. */
export function sameValue(one: unknown, other: unknown): boolean {
  if (one === other) return true
  if (Array.isArray(one) && Array.isArray(other))
    return one.length === other.length && one.every((item, index) => sameValue(item, other[index]))
  if (!isRecord(one) || !isRecord(other)) return false
  const names = definedNames(one)
  return (
    names.length === definedNames(other).length &&
    names.every((name) => Object.hasOwn(other, name) && sameValue(one[name], other[name]))
  )
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const definedNames = (record: Record<string, unknown>) => Object.keys(record).filter((key) => record[key] !== undefined)
