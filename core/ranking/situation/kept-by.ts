/** Memoises a function of one argument for as long as the function itself is kept. */
export const keptBy = <K, V>(find: (key: K) => V): ((key: K) => V) => kept(new Map<K, V>(), find)

/** The same for objects, each for as long as it is kept itself. */
export const keptWith = <K extends object, V>(find: (key: K) => V): ((key: K) => V) => kept(new WeakMap<K, V>(), find)

interface Store<K, V> {
  get(key: K): V | undefined
  set(key: K, found: V): unknown
}

function kept<K, V>(store: Store<K, V>, find: (key: K) => V): (key: K) => V {
  return (key) => {
    const before = store.get(key)
    if (before !== undefined) return before
    const found = find(key)
    store.set(key, found)
    return found
  }
}
