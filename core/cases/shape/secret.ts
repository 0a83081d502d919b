import { z } from 'zod'
import { choice, fact, name, partId } from './fact'

export const SECRET_KINDS = ['account', 'password', 'key'] as const

/**
 * An account, a password or a key that several copies share, so that it is one fact whether the client knows it. What
 * it says is never part of a case.
 */
export const Secret = z.object({
  id: partId,
  kind: choice(SECRET_KINDS),
  /** in people's words: "her mail account" */
  label: fact(name(80)),
  /** `opened`: it has been tried, and it opened */
  state: choice(['known', 'opened', 'thought-known', 'not-known']),
})
export type Secret = z.infer<typeof Secret>
