import type { FactPath } from '../facts/facts'

export type PartList = 'devices' | 'wanted' | 'copies'

/** A piece of a sentence: plain words, the word of a fact, or the place where another part can be added. */
export type Piece =
  { readonly text: string } | { readonly fact: FactPath } | { readonly add: PartList; readonly question: string }

export interface Sentence {
  readonly id: string
  /** the part of the case that the sentence is about, where it can be removed */
  readonly part: { readonly list: PartList; readonly id: string; readonly words: string } | null
  readonly pieces: readonly Piece[]
}

export const said = (text: string): Piece => ({ text })
export const word = (fact: FactPath): Piece => ({ fact })
