import type { z } from 'zod'

/** One fault of an input: where (dot-separated path, '' for the whole) and what. */
export interface Fault {
  readonly path: string
  readonly message: string
}

type Issue = z.core.$ZodIssue

const pathOf = (issue: Issue, before: readonly PropertyKey[]) => [...before, ...issue.path].map(String).join('.')

/**
 * The first branch of a union is the fact's own shape and the last one is the word unknown, so the
 * first branch's faults are the ones a reader can use.
 */
function unfold(issue: Issue, before: readonly PropertyKey[]): Fault[] {
  if (issue.code === 'invalid_union' && issue.errors.length > 0) {
    const fullest = issue.errors.reduce((best, branch) => (depthOf(branch) > depthOf(best) ? branch : best))
    return fullest.flatMap((inner) => unfold(inner as Issue, [...before, ...issue.path]))
  }
  return [{ path: pathOf(issue, before), message: issue.message }]
}

const depthOf = (branch: readonly { path: readonly PropertyKey[] }[]) =>
  Math.max(0, ...branch.map((issue) => issue.path.length))

/** Every fault of a failed parse, one per line of a report, each with its path. */
export function faultsOf(error: z.ZodError): Fault[] {
  return error.issues.flatMap((issue) => unfold(issue, []))
}
