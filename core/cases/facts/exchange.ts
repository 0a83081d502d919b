import { z } from 'zod'
import { Case } from '../shape/case'
import { faultsOf, type Fault } from '../shape/faults'
import { sameValue } from '../shape/same-value'

/** The most a case file may hold, in bytes; a case with 500 runs stays far below it. */
export const CASE_FILE_MAX_BYTES = 2_000_000

export type ReadCase = { readonly ok: true; readonly read: Case } | { readonly ok: false; readonly faults: Fault[] }

/**
 * Reads a case from the text of a case file. Never throws: text that is not JSON, another format, or an invalid shape
 * is answered with one fault per line, each with its path.
 */
export function readCase(json: string): ReadCase {
  if (json.length > CASE_FILE_MAX_BYTES)
    return { ok: false, faults: [{ path: '', message: `is larger than ${CASE_FILE_MAX_BYTES} bytes` }] }
  let value: unknown
  try {
    value = JSON.parse(json.replace(/^\uFEFF/, ''))
  } catch (error) {
    return { ok: false, faults: [{ path: '', message: `is not JSON: ${(error as Error).message}` }] }
  }
  const read = Case.safeParse(value)
  if (!read.success) return { ok: false, faults: faultsOf(read.error) }
  const strange = strangersIn(value, read.data, '')
  return strange.length > 0 ? { ok: false, faults: strange } : { ok: true, read: read.data }
}

/** Keys that the format does not have: reading them silently would lose them, and misspelt facts with them. */
function strangersIn(given: unknown, read: unknown, path: string): Fault[] {
  if (Array.isArray(given))
    return given.flatMap((item, index) =>
      strangersIn(item, Array.isArray(read) ? read[index] : null, `${path}.${index}`.replace(/^\./, '')),
    )
  if (!isPlain(given) || !isPlain(read)) return []
  return Object.entries(given).flatMap(([key, value]) => {
    const inner = path === '' ? key : `${path}.${key}`
    return Object.hasOwn(read, key)
      ? strangersIn(value, (read as Record<string, unknown>)[key], inner)
      : [{ path: inner, message: 'is not known in a case' }]
  })
}

/** A case as the text of a case file; unknown and empty facts are left out, since missing means unknown. */
export function writeCase(ofCase: Case): string {
  return `${JSON.stringify(withoutDefaults(ofCase), null, 2)}\n`
}

function withoutDefaults(ofCase: Case): unknown {
  const empty = Case.parse({ format: ofCase.format, version: ofCase.version })
  const kept = Object.entries(ofCase).filter(
    ([key, value]) => key === 'format' || key === 'version' || !sameValue(value, empty[key as keyof Case]),
  )
  return Object.fromEntries(kept.map(([key, value]) => [key, withoutUnknowns(value)]))
}

function withoutUnknowns(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(withoutUnknowns)
  if (typeof value !== 'object' || value === null) return value
  const kept = Object.entries(value)
    .filter(([, inner]) => inner !== 'unknown' && inner !== undefined)
    .map(([key, inner]) => [key, withoutUnknowns(inner)] as const)
    .filter(([, inner]) => !(isPlain(inner) && Object.keys(inner).length === 0))
  return Object.fromEntries(kept)
}

const isPlain = (value: unknown): value is object =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** The JSON Schema of the case format, draft 2020-12, as a reader of case files would use it. */
export function caseJsonSchema(): object {
  return z.toJSONSchema(Case, { io: 'input', target: 'draft-2020-12' })
}
