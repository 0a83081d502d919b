import { distance } from 'fastest-levenshtein'
import type { Option } from './asking'

/** Words that say nothing about which answer is meant. */
const FILLERS = new Set(['a', 'an', 'the', 'its', 'it', 'is', 'was', 'my', 'his', 'her', 'their', 'our', 'some', 'of'])

const plain = (words: string) =>
  words
    .trim()
    .toLowerCase()
    .replaceAll('’', "'")
    .replace(/^(?:(?:an?|the|its|my|his|her|their|our|it is|it was|they are|they were) )+/, '')

const tokens = (words: string) =>
  plain(words)
    .split(/[\s,()/-]+/)
    .filter((word) => word !== '' && !FILLERS.has(word))

/** All the ways in which an answer is said. */
const saidAs = ({ words, also = [] }: Option) => [words, ...also].map(plain)

/** True where every word that was typed begins a word of the answer. */
function isWithin(typed: readonly string[], said: string): boolean {
  const left = tokens(said)
  return typed.every((word) => {
    const at = left.findIndex((one) => one.startsWith(word))
    if (at >= 0) left.splice(at, 1)
    return at >= 0
  })
}

/** At most one wrong letter in a short word, two in a long one; the first letter has to be right. */
function isNear(typed: string, said: string): boolean {
  const most = typed.length >= 8 ? 2 : typed.length >= 4 ? 1 : 0
  return most > 0 && typed[0] === said[0] && distance(typed, said) <= most
}

/** An answer of one or two letters less or more than one of its words, or than the whole of it. */
const isMistyped = (typed: string, option: Option) =>
  saidAs(option).some(
    (said) => isNear(typed, said) || (!typed.includes(' ') && tokens(said).some((one) => isNear(typed, one))),
  )

/**
 * The answers that typed text can mean: first those that are called just so, then those that begin with it, then those
 * that contain its words in any order,
 * and only where there are none, those that it may be a slip of.
 */
export function optionsMatching(options: readonly Option[], typed: string): Option[] {
  const sought = plain(typed)
  if (sought === '') return [...options]
  const called = options.filter((option) => saidAs(option).some((said) => said === sought))
  const begins = options.filter((option) => !called.includes(option) && plain(option.words).startsWith(sought))
  const typedWords = tokens(typed)
  const within = options
    .filter(
      (option) =>
        typedWords.length > 0 &&
        !begins.includes(option) &&
        !called.includes(option) &&
        saidAs(option).some((said) => said.startsWith(sought) || isWithin(typedWords, said)),
    )
    .sort((one, other) => extra(typedWords, one) - extra(typedWords, other))
  const found = [...called, ...begins, ...within]
  return found.length > 0 ? found : options.filter((option) => isMistyped(sought, option))
}

/** How many words the shortest fitting way of saying it has beyond those typed. */
function extra(typed: readonly string[], option: Option): number {
  const lengths = saidAs(option)
    .filter((said) => isWithin(typed, said))
    .map((said) => tokens(said).length)
  return Math.min(Infinity, ...lengths)
}

/** The first answer that typed text can mean. */
export const optionFor = (options: readonly Option[], typed: string): Option | null =>
  optionsMatching(options, typed)[0] ?? null
