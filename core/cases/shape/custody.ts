import { z } from 'zod'
import { name, partId, text } from './fact'
import { instant } from './moment'

/**
 * What happens to a thing in the shop's hands: it is received or lent out, moved, given back or taken back. A medium that
 * nobody collects is recorded as kept, wiped or thrown away, and by whom.
 */
export const CUSTODY_STEPS = ['received', 'lent', 'moved', 'returned', 'back', 'disposed'] as const

/** What a person showed to whom a thing was given: the code of the receipt, a document, or staff know them. */
export const PROOFS_OF_PERSON = ['receipt', 'identity', 'known-here'] as const

/** One step of the custody of a thing. Steps are only ever added. */
export const CustodyStep = z.object({
  step: z.enum(CUSTODY_STEPS),
  at: instant,
  by: name(80),
  /** where it is afterwards: a place in the shop, the bench, a laboratory; empty once it left the shop */
  place: text(120).default(''),
  /** how it looked, and what is known to be wrong with it */
  condition: text(600).default(''),
  accessories: text(400).default(''),
  /** the person it was given to, or who brought it */
  person: text(120).default(''),
  against: z.enum(PROOFS_OF_PERSON).nullable().default(null),
  /** the attachment with that person's signature */
  signature: z.int().nullable().default(null),
  /** of a loan that came back, or a medium that was not collected: whether it was wiped */
  isWiped: z.boolean().nullable().default(null),
  note: text(600).default(''),
})
export type CustodyStep = z.infer<typeof CustodyStep>

/** A thing that changed hands: a client's device or medium, or a loan device of the shop. */
export const Thing = z.object({
  id: partId,
  /** the device or copy of the case that it is; null for anything else */
  part: partId.nullable().default(null),
  words: name(160),
  serial: text(80).default(''),
  isLoan: z.boolean().default(false),
  steps: z.array(CustodyStep).min(1).max(100),
})
export type Thing = z.infer<typeof Thing>

/** Where a thing is now. */
export type Whereabouts = 'in-shop' | 'with-client' | 'disposed'

/** Where a thing is after its last step. A loan is with the client until it comes back. */
export function whereabouts({ steps }: Pick<Thing, 'steps'>): Whereabouts {
  const last = steps.at(-1)!.step
  return last === 'disposed' ? 'disposed' : last === 'lent' || last === 'returned' ? 'with-client' : 'in-shop'
}

/** The place where a thing is in the shop, as it was last named; empty where it is not in the shop. */
export const placeOf = (thing: Pick<Thing, 'steps'>): string =>
  whereabouts(thing) === 'in-shop' ? (thing.steps.findLast(({ place }) => place !== '')?.place ?? '') : ''

/** The client's things that the shop holds. */
export const heldFor = (things: readonly Thing[]): Thing[] =>
  things.filter((thing) => !thing.isLoan && whereabouts(thing) === 'in-shop')

/** Loan devices that the client has. */
export const lentTo = (things: readonly Thing[]): Thing[] =>
  things.filter((thing) => thing.isLoan && whereabouts(thing) === 'with-client')
