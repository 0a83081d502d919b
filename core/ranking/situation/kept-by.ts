/** Memoises a function of one argument for as long as the function itself is kept. */
export function keptBy<K, V>(find: (key: K) => V): (key: K) => V {
  const kept = new Map<K, V>()
  return (key) => {
    const before = kept.get(key)
    if (before !== undefined) return before
    const found = find(key)
    kept.set(key, found)
    return found
  }
}

/** The same for objects, each for as long as it is kept itself. */
export function keptWith<K extends object, V>(find: (key: K) => V): (key: K) => V {
  const kept = new WeakMap<K, V>()
  return (key) => {
    const before = kept.get(key)
    if (before !== undefined) return before
    const found = find(key)
    kept.set(key, found)
    return found
  }
}
