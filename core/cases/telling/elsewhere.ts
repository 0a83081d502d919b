import type { Case } from '../shape/case'
import { known } from '../shape/fact'
import type { Storage } from '../shape/storage'
import { factAt, withFacts, withMissingParts, type Change, type FactPath } from '../facts/facts'
import { answer, optionsAt, wordsOf, type AnswerContext } from './answering'
import { askingOf, factOf, type Control, type Option } from './asking'
import { optionsMatching } from './matching'
import { tellingOf } from './telling'

/** Where typed text belongs that is no answer to the question it was typed for. */
export interface Elsewhere {
  readonly fact: FactPath
  readonly label: string
  /** how it would stand there */
  readonly words: string
  readonly changes: readonly Change[]
}

/** How many of the next questions are looked at. */
const NEXT = 10
const MIN_LETTERS = 3

/** Ways of answering that take any text, so that nothing can be said to belong there. */
const TAKES_ANYTHING: readonly Control['by'][] = ['text', 'secret']

/** The next question, among those not answered yet, to which the text is an answer; null where there is none. */
export function elsewhereFor(ofCase: Case, path: FactPath, typed: string, context: AnswerContext): Elsewhere | null {
  const facts = tellingOf(ofCase).flatMap((sentence) =>
    sentence.pieces.flatMap((piece) => ('fact' in piece ? [piece.fact] : [])),
  )
  const next = facts.slice(facts.indexOf(path) + 1)
  for (const fact of next.filter((one) => isOpen(ofCase, one)).slice(0, NEXT)) {
    const found = fits(ofCase, fact, typed, context)
    if (found) return found
  }
  return null
}

function isOpen(ofCase: Case, fact: FactPath): boolean {
  const value = factAt(ofCase, factOf(fact))
  return value === undefined || value === 'unknown'
}

function fits(ofCase: Case, fact: FactPath, typed: string, context: AnswerContext): Elsewhere | null {
  const asking = askingOf(fact)
  if (!asking || TAKES_ANYTHING.includes(asking.control.by)) return null
  const options = optionsAt(ofCase, fact)
  const isChosen = options.length > 0 && isAnswer(options, typed.trim())
  const isMeasured =
    options.length === 0 && /\d/.test(typed) && !(asking.control.by === 'size' && /^\d+$/.test(typed.trim()))
  if (!isChosen && !isMeasured) return null
  const read = answer(ofCase, fact, typed, context)
  if (!read.ok) return null
  const set = withFacts(ofCase, withMissingParts(ofCase, read.changes))
  // More free space than there is space is no answer.
  const isPossible = set.ok && set.changed.devices.every(({ storage }) => fitsIn(storage))
  const words = set.ok && isPossible ? wordsOf(set.changed, fact, context) : null
  return words === null ? null : { fact, label: asking.label, words, changes: read.changes }
}

/** A short word has to begin an answer; of a longer one it is enough that it can mean one. */
function isAnswer(options: readonly Option[], typed: string): boolean {
  if (typed.length < MIN_LETTERS) return false
  const [first] = optionsMatching(options, typed)
  if (!first) return false
  return (
    typed.length > MIN_LETTERS ||
    first.words
      .toLowerCase()
      .replace(/^(?:an?|the) /, '')
      .startsWith(typed.toLowerCase())
  )
}

const fitsIn = ({ freeBytes, capacityBytes }: Storage) =>
  !known(freeBytes) || !known(capacityBytes) || freeBytes <= capacityBytes
