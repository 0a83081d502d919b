/** Letters and digits that nobody mistakes for each other when a code is read aloud or copied by hand. */
const LETTERS = '23456789ABCDEFGHJKMNPQRSTVWXYZ'
const LENGTH = 8

/**
 * A code for a receipt, "7KQ2-M4XD", from random bytes: at least 16 of them. Bytes that would make some letters likelier than
 * others are left out; throws a RangeError where too few are left.
 */
export function receiptCode(random: Uint8Array): string {
  const most = 256 - (256 % LETTERS.length)
  const letters = [...random].filter((byte) => byte < most).map((byte) => LETTERS[byte % LETTERS.length]!)
  if (letters.length < LENGTH) throw new RangeError('too few random bytes for a code')
  return `${letters.slice(0, 4).join('')}-${letters.slice(4, LENGTH).join('')}`
}

/** A code without what people add or leave out: case, spaces, hyphens. */
const plain = (code: string) => code.toUpperCase().replace(/[^0-9A-Z]/g, '')

/** Whether two codes are the same, however they are written; an empty one is the same as none. */
export const sameCode = (one: string, other: string): boolean => plain(one) !== '' && plain(one) === plain(other)
