import { WaitingChanges } from '~~/core/cases/facts/writing'

/** Facts that were typed and not yet sent, on this machine, per person: nobody else can send them. */
const keyOf = (person: number, code: string) => `lantern:waiting:${person}:${code}`
const PATTERN = /^lantern:waiting:(\d+):/

export const keepWaiting = (person: number, code: string, waiting: WaitingChanges | null) =>
  waiting === null || waiting.changes.length === 0
    ? localStorage.removeItem(keyOf(person, code))
    : localStorage.setItem(keyOf(person, code), JSON.stringify(waiting))

/** What waits of one person for one case; null where there is nothing, or nothing that can be read. */
export function readWaiting(person: number, code: string): WaitingChanges | null {
  try {
    return WaitingChanges.parse(JSON.parse(localStorage.getItem(keyOf(person, code)) ?? 'null'))
  } catch {
    return null
  }
}

/** How many facts wait on this machine, by person. */
export function countWaiting(): Map<number, number> {
  const counts = new Map<number, number>()
  for (const key of Object.keys(localStorage)) {
    const [, person] = PATTERN.exec(key) ?? []
    if (person === undefined) continue
    const read = readWaiting(Number(person), key.replace(PATTERN, ''))
    counts.set(Number(person), (counts.get(Number(person)) ?? 0) + (read?.changes.length ?? 0))
  }
  return counts
}
