import { z } from 'zod'

/** The kinds of errors; programs decide by the code, people read the message. */
export const ERROR_CODES = [
  'not-signed-in',
  'other-person',
  'not-allowed',
  'wrong-sign-in',
  'too-many-tries',
  'not-found',
  'invalid',
  'refused',
  'clash',
  'too-large',
  'foreign-origin',
  'foreign-host',
  'broken',
] as const
export type ErrorCode = (typeof ERROR_CODES)[number]

/** The header in which every answer of the server gives the versions of the playbook and the evidence. */
export const LEARNED_HEADER = 'lantern-learned'

/** The one shape in which errors leave the server: what happened, what is safe, and which fields are at fault. */
export const ErrorShape = z.object({
  code: z.enum(ERROR_CODES),
  message: z.string(),
  /** what is safe, or what to do */
  safe: z.string(),
  fields: z.array(z.object({ path: z.string(), message: z.string() })),
})
export type ErrorShape = z.infer<typeof ErrorShape>

/** The shape of errors as JSON Schema, draft 2020-12. */
export function errorJsonSchema(): object {
  return z.toJSONSchema(ErrorShape, { target: 'draft-2020-12' })
}
