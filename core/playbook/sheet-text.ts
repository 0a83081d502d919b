import type { RouteKind } from './kinds/route-kind'

type Sheet = RouteKind['sheet']

/** The parts of a run sheet as headings of its text. */
const HEADINGS = [
  ['ready', 'Ready:'],
  ['steps', 'Steps:'],
  ['lookFor', 'Look for:'],
  ['stopIf', 'Stop if:'],
  ['aftercare', 'Afterwards:'],
] as const
type Part = (typeof HEADINGS)[number][0]

/** A run sheet as lists, with what to tell the client afterwards. */
export type SheetLists = Sheet & { readonly aftercare: string[] }

/** A run sheet as text: a heading for each part, and a line for each item. */
export function sheetText(lists: SheetLists): string {
  return HEADINGS.map(([part, heading]) => [heading, ...lists[part]].join('\n')).join('\n\n')
}

/**
 * Reads a run sheet from its text. Dashes and numbers before a line are left out, and so are empty lines. Lines before the first
 * heading are steps.
 */
export function readSheetText(text: string): SheetLists {
  const lists: Record<Part, string[]> = { ready: [], steps: [], lookFor: [], stopIf: [], aftercare: [] }
  let part: Part = 'steps'
  for (const raw of text.split(/\r?\n/)) {
    const line = raw.trim()
    const heading = HEADINGS.find(([, words]) => words.toLowerCase() === line.toLowerCase())
    if (heading) part = heading[0]
    else if (line !== '') lists[part].push(line.replace(/^(?:[-–•*]|\d{1,2}[.)])\s+/, ''))
  }
  return lists
}

/** The list with one member moved to another place. */
export function movedTo<T>(list: readonly T[], from: number, to: number): T[] {
  const rest = [...list]
  const [one] = rest.splice(from, 1)
  if (one !== undefined) rest.splice(Math.min(rest.length, Math.max(0, to)), 0, one)
  return rest
}
