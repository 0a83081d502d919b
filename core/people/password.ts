/** What is known about the person a password is for, and about passwords in general. */
interface PasswordContext {
  /** common passwords, in small letters */
  readonly common: ReadonlySet<string>
  /** words that a guesser tries first: the person's name, their sign-in name */
  readonly words: readonly string[]
}

/** With fewer different characters a password is a pattern. */
const MIN_DIFFERENT = 5
/** How many characters must be left after removing everything guessable. */
const MIN_OWN = 6

/**
 * Why a password is too easy to guess, as the end of a sentence that begins with the password; null where it is not.
 * The schema checks its length. After OWASP ASVS 5.0, 6.2.4 and 6.2.11.
 */
export function weakness(password: string, { common, words }: PasswordContext): string | null {
  const plain = password.normalize('NFKC').toLowerCase()
  if (new Set(plain).size < MIN_DIFFERENT) return `has fewer than ${MIN_DIFFERENT} different characters`
  const core = plain.replace(/^[^\p{L}]+|[^\p{L}]+$/gu, '')
  if (common.has(plain) || (core.length > 3 && plain.length - core.length <= MIN_OWN && common.has(core)))
    return 'is one of the most common passwords'
  const guessable = words
    .flatMap((word) => word.toLowerCase().split(/[^\p{L}\p{N}]+/u))
    .filter((word) => word.length > 2)
  const own = guessable.reduce((left, word) => left.replaceAll(word, ''), plain).replace(/[^\p{L}\p{N}]/gu, '')
  if (guessable.some((word) => plain.includes(word)) && own.length < MIN_OWN)
    return 'is little more than the person’s name'
  return null
}
