import { z } from 'zod'

/**
 * The value of a fact that nobody knows (yet). Half of the facts are unknown at the counter, so unknown is a value like
 * any other and the default of every fact.
 */
export const UNKNOWN = 'unknown' as const

export type Fact<T> = T | typeof UNKNOWN

/** A fact of the given shape, or unknown. A missing fact reads as unknown. */
export function fact<T extends z.ZodType>(shape: T) {
  return z.union([shape, z.literal(UNKNOWN)]).default(UNKNOWN)
}

/** A fact that is one of a few words, or unknown. */
export function choice<const T extends readonly [string, ...string[]]>(words: T) {
  return z.enum([...words, UNKNOWN]).default(UNKNOWN)
}

/** Yes, no or unknown. */
export const yesNo = choice(['yes', 'no'])

/** True where the fact is known, whatever its value. */
export function known<T>(value: Fact<T> | undefined): value is T {
  return value !== UNKNOWN && value !== undefined
}

/** The fact's value, or what to assume while it is unknown. */
export function knownOr<T, U>(value: Fact<T> | undefined, assumed: U): T | U {
  return known(value) ? value : assumed
}

// Control characters do not belong in a name and can hide text from the reader of a log or a print.
// eslint-disable-next-line no-control-regex
const CONTROL_CHARACTERS = /[\u0000-\u0008\u000b-\u001f\u007f\u200e\u200f\u202a-\u202e\u2066-\u2069]/

/** Typed text: trimmed, bounded, without control or bidirectional characters. */
export function text(maximumLength: number) {
  return z
    .string()
    .trim()
    .max(maximumLength, `is longer than ${maximumLength} characters`)
    .refine((typed) => !CONTROL_CHARACTERS.test(typed), 'contains characters that cannot be shown')
}

/** Text with at least one character. */
export function name(maximumLength: number) {
  return text(maximumLength).min(1, 'is empty')
}

/** A size in bytes: a whole number from 0 up to 2^53 - 1. */
export const bytes = z.int().min(0, 'is below zero')

/** The id of a part of a case (d1, w2, c3 …), unique within its list. */
export const partId = z
  .string()
  .regex(/^[a-z][a-z0-9-]{0,39}$/, 'is not an id (a letter, then letters, digits or hyphens)')
