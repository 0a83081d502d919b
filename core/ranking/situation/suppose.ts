import type { Case } from '../../cases/shape/case'
import type { Change } from '../../cases/facts/facts'

type Tree = Record<string, unknown>

/**
 * The case as it would be if these facts were so, without validating it: what is supposed comes from the
 * engine itself. Shares every untouched part with the given case, which is left as it was.
 */
export function supposing(ofCase: Case, changes: readonly Change[]): Case {
  return changes.reduce<Case>((so, { fact, is }) => replaced(so, fact.split('.'), is) as Case, ofCase)
}

function replaced(here: unknown, words: readonly string[], value: unknown): unknown {
  const [word, ...rest] = words
  if (word === undefined) return value
  if (Array.isArray(here)) return here.map((part: Tree) => (part.id === word ? replaced(part, rest, value) : part))
  const tree = here as Tree
  return { ...tree, [word]: replaced(tree[word], rest, value) }
}
