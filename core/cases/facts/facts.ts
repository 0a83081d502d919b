import { Case } from '../shape/case'
import { Copy } from '../shape/copy'
import { Device } from '../shape/device'
import { partId } from '../shape/fact'
import { faultsOf, type Fault } from '../shape/faults'
import { Secret } from '../shape/secret'
import { WantedSet } from '../shape/wanted'

/**
 * A fact of a case is named by a path of names and ids, joined by dots: `loss.when`,
 * `devices.d1.storage.freeBytes`, `copies.c2.taken`. A part of a list is named by its id, never by
 * its position, so that two people can add and remove parts at the same time.
 */
export type FactPath = string

/** One fact set to a value. Setting a part of a list to null removes it. */
export interface Change {
  readonly fact: FactPath
  readonly is: unknown
}

const LISTS = { devices: Device, wanted: WantedSet, copies: Copy, secrets: Secret } as const
type ListName = keyof typeof LISTS
const isList = (word: string | undefined): word is ListName => word !== undefined && Object.hasOwn(LISTS, word)

/** What is set as facts; all else of a case has other ways to change (moves, marks, runs, the hand-over). */
const FACT_ROOTS = [
  'title',
  'isTraining',
  'with',
  'client',
  'authority',
  'devices',
  'wanted',
  'loss',
  'copies',
  'secrets',
  'limits',
  'consent',
  'notKnown',
]

type Tree = Record<string, unknown>
const isTree = (value: unknown): value is Tree => typeof value === 'object' && value !== null && !Array.isArray(value)

/** The value of the fact at a path; undefined where the case has no such fact. */
export function factAt(ofCase: Case, path: FactPath): unknown {
  let here: unknown = ofCase
  const words = path.split('.')
  for (const [depth, word] of words.entries()) {
    if (depth === 1 && isList(words[0]) && Array.isArray(here)) {
      here = here.find((part: { id: string }) => part.id === word)
    } else if (isTree(here) && Object.hasOwn(here, word)) {
      here = here[word]
    } else {
      return undefined
    }
  }
  return here
}

export type SetResult = { readonly ok: true; readonly changed: Case } | { readonly ok: false; readonly faults: Fault[] }

/**
 * The case with all these facts set, validated as a whole, or what is wrong with them by path. The given case is not
 * changed.
 */
export function withFacts(ofCase: Case, changes: readonly Change[]): SetResult {
  const draft = structuredClone(ofCase) as unknown as Tree
  const faults: Fault[] = []
  for (const change of changes) {
    const message = setAt(draft, change)
    if (message) faults.push({ path: change.fact, message })
  }
  if (faults.length > 0) return { ok: false, faults }
  const read = Case.safeParse(draft)
  if (!read.success) return { ok: false, faults: faultsOf(read.error).map((fault) => named(draft, fault)) }
  return { ok: true, changed: read.data }
}

/** A fault's position in a list, turned back into the id that people and programs know it by. */
function named(draft: Tree, fault: Fault): Fault {
  const [list, position, ...rest] = fault.path.split('.')
  const parts = isList(list) ? draft[list] : undefined
  const part = Array.isArray(parts) ? (parts[Number(position)] as { id?: string } | undefined) : undefined
  return part?.id ? { ...fault, path: [list, part.id, ...rest].join('.') } : fault
}

function setAt(draft: Tree, change: Change): string | null {
  const words = change.fact.split('.')
  const first = words[0] ?? ''
  if (!FACT_ROOTS.includes(first) || !Object.hasOwn(draft, first)) return 'is not a fact of a case'
  if (isList(first)) return setInList(draft, first, words.slice(1), change.is)
  return setInTree(draft, words, change.is)
}

function setInList(draft: Tree, list: ListName, words: readonly string[], value: unknown): string | null {
  const parts = draft[list] as Tree[]
  const [id, ...rest] = words
  if (id === undefined) return 'names a whole list; name one of its parts'
  const position = parts.findIndex((part) => part.id === id)
  if (rest.length > 0) {
    if (position < 0) return 'names a part that no longer exists'
    if (rest[0] === 'id') return 'an id cannot be changed'
    return setInTree(parts[position]!, rest, value)
  }
  if (value === null) {
    if (position >= 0) parts.splice(position, 1)
    return null
  }
  const read = LISTS[list].safeParse(isTree(value) ? { ...value, id } : value)
  if (!read.success)
    return faultsOf(read.error)
      .map((fault) => `${fault.path} ${fault.message}`)
      .join('; ')
  if (position >= 0) parts[position] = read.data
  else parts.push(read.data)
  return null
}

function setInTree(tree: Tree, words: readonly string[], value: unknown): string | null {
  let here = tree
  for (const word of words.slice(0, -1)) {
    const next = Object.hasOwn(here, word) ? here[word] : undefined
    if (!isTree(next)) return 'is not a fact of a case'
    here = next
  }
  const last = words.at(-1) ?? ''
  // What a copy holds is named by the wanted set, which comes and goes.
  const isOpen = words.at(-2) === 'holds' && partId.safeParse(last).success
  if (!isOpen && !Object.hasOwn(here, last)) return 'is not a fact of a case'
  here[last] = value
  return null
}

/** True where the two facts are the same or one contains the other. */
export function overlaps(one: FactPath, other: FactPath): boolean {
  return one === other || one.startsWith(`${other}.`) || other.startsWith(`${one}.`)
}

/** The part of a list that a fact is in (`copies.c2` of `copies.c2.taken`); null where it is in none, or is a part itself. */
function partOf(path: FactPath): FactPath | null {
  const [list, id, ...rest] = path.split('.')
  return isList(list) && rest.length > 0 ? `${list}.${id}` : null
}

const isPart = (path: FactPath) => isList(path.split('.')[0]) && path.split('.').length === 2

/** Adds changes for the parts that these changes are in and that the case does not have yet, each once. */
export function withMissingParts(ofCase: Case, changes: readonly Change[]): Change[] {
  const parts = new Set(changes.flatMap(({ fact }) => partOf(fact) ?? []))
  const missing = [...parts].filter((part) => factAt(ofCase, part) === undefined)
  return [...missing.map((fact) => ({ fact, is: {} })), ...changes]
}

/** Changes with later ones on top: for each fact the last one counts, but parts come and go in their order. */
export const replaced = (before: readonly Change[], later: readonly Change[]): Change[] => [
  ...before.filter(({ fact }) => isPart(fact) || !later.some((one) => one.fact === fact)),
  ...later,
]
