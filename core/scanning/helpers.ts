import { FORMATS } from '../files/formats/registry'
import { piecesSource, type ByteSource, type Extent } from '../sources/source'
import { carve, type Carved } from './carve'
import { prove, type Proof } from './prove'

/** A part of a scan that depends on nothing but the bytes of the medium, as plain data. Offsets and lengths in bytes of the image. */
export type Question =
  | {
      /** Which file begins at this place? `formats`: ids */
      readonly asks: 'file'
      readonly place: Extent
      readonly formats: readonly string[]
      readonly unitBytes: number
    }
  | {
      /** What does the structure of this content say? */
      readonly asks: 'proof'
      readonly extents: readonly Extent[]
      readonly name: string
      readonly unitBytes: number
    }

export interface Answers {
  readonly file: Carved | null
  readonly proof: Proof
}
export type Answer = Answers[keyof Answers]

/** Answers a question; plain data. */
export function answerTo(image: ByteSource, question: Question): Answer {
  const { unitBytes } = question
  if (question.asks === 'proof')
    return plainProof(prove(piecesSource(image, question.extents), question.name, unitBytes))
  const carved = carve(
    image,
    question.place,
    question.formats.map((id) => FORMATS.find((format) => format.id === id)!),
    unitBytes,
  )
  return carved && { ...carved, walk: { ...carved.walk, resume: [] } }
}

const plainProof = (proof: Proof): Proof => (proof.walk ? { ...proof, walk: { ...proof.walk, resume: [] } } : proof)

/**
 * Others that follow files beside the scan, on further cores. They change nothing about its results: what they do not answer,
 * the scan finds out by itself.
 */
export interface Helpers {
  /** How many bytes of files a scan proves alone before help is worth its beginning. */
  readonly worthAfter: number
  /** Whether one more would be begun soon. */
  readonly hasRoom: boolean
  /** Asks ahead of time. */
  ask(question: Question): void
  /** The answer to what was asked, waiting for it where it was begun; undefined where nobody began it. */
  answer<Asked extends Question>(question: Asked): Answers[Asked['asks']] | undefined
  /** Files that begin before an offset are not asked for any more. */
  pass(offset: number): void
}

/** The answer of a helper, or one's own. */
export function answered<Asked extends Question>(
  helpers: Helpers | undefined,
  image: ByteSource,
  question: Asked,
): Answers[Asked['asks']] {
  const told = helpers?.answer(question)
  return (told === undefined ? answerTo(image, question) : told) as Answers[Asked['asks']]
}

/** Files below this size are followed faster than they are asked for. */
export const MIN_ASKED_BYTES = 64 * 1024
