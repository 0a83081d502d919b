import { binsAsked, askingOf } from './asking'
import { wordsOf, type AnswerContext } from './answering'
import type { Case } from '../shape/case'
import { FACTS_OF_COPY, type Copy, type CopyFact } from '../shape/copy'
import { isBareMedium, isComputer, isHandheld, type Device } from '../shape/device'
import { known } from '../shape/fact'
import type { FactPath } from '../facts/facts'
import { countOf, type WantedSet } from '../shape/wanted'
import { COPY_KIND_WORDS, DEVICE_KIND_WORDS, withArticle } from './words'

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

const said = (text: string): Piece => ({ text })
const word = (fact: FactPath): Piece => ({ fact })

/**
 * The case as the client's account: sentences in the order of the talk at the counter, whose
 * words are facts. A sentence appears when the story needs it: a card brings its own, a locked phone its own.
 */
export function tellingOf(ofCase: Case): Sentence[] {
  const devices = ofCase.devices.length > 0 ? ofCase.devices.map((device) => device.id) : ['d1']
  const wanted = ofCase.wanted.length > 0 ? ofCase.wanted.map((set) => set.id) : ['w1']
  return [
    {
      id: 'device',
      part: null,
      pieces: [
        word('client.name'),
        said(', '),
        word('client.phone'),
        said(', brings '),
        ...devicePieces(ofCase, devices[0]!),
      ],
    },
    ...devices.slice(1).map((id) => ({
      id: `device-${id}`,
      part: part('devices', id, 'this device'),
      pieces: [said('Also '), ...devicePieces(ofCase, id)],
    })),
    ...wanted.map((id, index) => wantedSentence(ofCase, id, index)),
    { id: 'loss', part: null, pieces: lossPieces(ofCase) },
    { id: 'since', part: null, pieces: sincePieces(ofCase, devices[0]!) },
    ...ofCase.copies.map((copy) => copySentence(copy)),
    {
      id: 'more',
      part: null,
      pieces: [
        said(ofCase.copies.length === 0 ? 'There may be ' : 'There may also be '),
        { add: 'copies', question: ofCase.copies.length === 0 ? 'a copy somewhere?' : 'another copy?' },
        said('.'),
      ],
    },
    { id: 'limits', part: null, pieces: limitPieces() },
    { id: 'consent', part: null, pieces: consentPieces(ofCase) },
  ]
}

const part = (list: PartList, id: string, words: string) => ({ list, id, words })

function devicePieces(ofCase: Case, id: string): Piece[] {
  const device = ofCase.devices.find((candidate) => candidate.id === id)
  const at = (fact: string) => word(`devices.${id}.${fact}`)
  const pieces: Piece[] = [at('kind'), said(', '), at('make')]
  if (!device || !isBareMedium(device)) pieces.push(said(', '), at('platform'))
  pieces.push(said(', '), at('storage.capacityBytes'))
  if (device && !isBareMedium(device)) pieces.push(said(' with '), at('storage.freeBytes'), said(' free'))
  if (device && isComputer(device)) pieces.push(said(', '), at('storage.kind'))
  pieces.push(said('. It is '), at('condition'))
  if (!device || !isBareMedium(device)) pieces.push(said(', '), at('lock'))
  if (device?.lock === 'locked') pieces.push(said(', its passcode '), at('passcode'))
  if (device && needsEncryption(device)) pieces.push(said(', '), at('storage.encryption'))
  return [...pieces, said('.')]
}

/** Where storage inside a device is scanned, encryption decides. */
const needsEncryption = (device: Device) => isHandheld(device) || isComputer(device)

function wantedSentence(ofCase: Case, id: string, index: number): Sentence {
  const set = ofCase.wanted.find((candidate) => candidate.id === id)
  const at = (fact: string) => word(`wanted.${id}.${fact}`)
  const pieces: Piece[] = [said(index === 0 ? 'Gone are ' : 'Gone are also '), at('type'), said(', '), at('count')]
  if (set && namesMatter(set)) pieces.push(said(', named '), at('names'))
  pieces.push(said(', made '), at('made'))
  if (!set || !known(set.count) || countOf(set) > 1)
    pieces.push(said('; of these '), at('mustHave'), said(' matter most'))
  pieces.push(said('. They were kept '), at('lived'))
  if (set && known(set.lived) && set.lived.some((place) => place.place === 'card') && set.lived.length > 1)
    pieces.push(said(', there since '), at('lived#card-since'))
  pieces.push(said('.'))
  const isLast = index === Math.max(1, ofCase.wanted.length) - 1
  if (isLast && set && known(set.type)) pieces.push(said(' '), { add: 'wanted', question: 'and something else?' })
  return { id: `wanted-${id}`, part: ofCase.wanted.length > 1 ? part('wanted', id, 'this wanted set') : null, pieces }
}

const namesMatter = (set: WantedSet) =>
  known(set.type) && ['documents', 'spreadsheets', 'files', 'audio', 'notes'].includes(set.type)

function lossPieces({ loss }: Case): Piece[] {
  const pieces: Piece[] = [said('They were '), word('loss.how')]
  if (loss.how === 'formatted') pieces.push(said(', a '), word('loss.format'), said(' one'))
  return [...pieces, said(', '), word('loss.when'), said(', and missed '), word('loss.noticed'), said('.')]
}

function sincePieces(ofCase: Case, deviceId: string): Piece[] {
  const device = ofCase.devices.find((candidate) => candidate.id === deviceId)
  const kind = device && known(device.kind) ? DEVICE_KIND_WORDS[device.kind] : 'device'
  const pieces: Piece[] = [said(`Since then the ${kind} was `), word('loss.since.used')]
  if (ofCase.loss.since.used !== 'no') pieces.push(said(', '), word('loss.since.writtenBytes'), said(' written'))
  if (device && isComputer(device)) pieces.push(said(', '), word('loss.since.installed'), said(' installed'))
  const hasCloud = ofCase.copies.some((copy) => copy.kind === 'cloud-library' || copy.kind === 'cloud-drive')
  if (hasCloud) pieces.push(said('; sync is now '), word('loss.since.sync'))
  const bins = device && !isBareMedium(device) ? binsAsked(ofCase) : []
  for (const bin of bins) {
    const path = `devices.${deviceId}.bins.${bin}`
    pieces.push(said(`; its ${(askingOf(path)?.label ?? 'bin').toLowerCase()} was `), word(path))
  }
  return [...pieces, said('.')]
}

/** The words before each fact of a copy. */
const COPY_LEADS: Partial<Record<CopyFact, string>> = {
  label: ', ',
  taken: ', taken ',
  account: ', account ',
  sync: ', sync before the loss ',
  syncedUntil: ', synced until ',
  keeps: ', keeping ',
  replaced: ', replaced ',
  password: ', its password ',
  count: ', with ',
}

function copySentence(copy: Copy): Sentence {
  const asked = FACTS_OF_COPY[copy.kind].filter(
    (fact) => (fact !== 'password' || copy.encrypted !== 'no') && (fact !== 'ran' || known(copy.ran)),
  )
  const pieces: Piece[] = [
    said(`There is ${withArticle(COPY_KIND_WORDS[copy.kind]).replace(/^an? (account|earlier|somebody)/, '$1')}`),
  ]
  for (const fact of asked) {
    pieces.push(said(COPY_LEADS[fact] ?? ', '), word(`copies.${copy.id}.${fact}`))
    if (fact === 'count') pieces.push(said(' of them'))
  }
  return {
    id: `copy-${copy.id}`,
    part: part('copies', copy.id, COPY_KIND_WORDS[copy.kind]),
    pieces: [...pieces, said('.')],
  }
}

function limitPieces(): Piece[] {
  return [
    said('They can spend '),
    word('limits.money'),
    said(' and need it by '),
    word('limits.deadline'),
    said('. It may be seen by '),
    word('limits.seenBy'),
    said('.'),
  ]
}

function consentPieces({ authority, limits }: Case): Piece[] {
  const laboratory =
    limits.seenBy === 'anyone' ? [said('; send it to a laboratory: '), word('consent.laboratory.answer')] : []
  const pieces: Piece[] = [said('The data is '), word('authority.basis')]
  if (authority.basis !== 'own' && authority.basis !== 'unknown')
    pieces.push(
      said(' ('),
      word('authority.whose'),
      said('); '),
      word('authority.agreedBy'),
      said(' agrees, proof seen: '),
      word('authority.proof'),
    )
  return [
    ...pieces,
    said('. We may look through it: '),
    word('consent.lookThrough.answer'),
    said('; erase the device: '),
    word('consent.erase.answer'),
    ...laboratory,
    said('.'),
  ]
}

/** The telling as plain sentences to be read back to the client; unknown facts are named as unknown. */
export function readBack(ofCase: Case, context: AnswerContext): string[] {
  return tellingOf(ofCase)
    .filter((sentence) => sentence.id !== 'more')
    .map((sentence) =>
      sentence.pieces
        .map((piece) =>
          'text' in piece
            ? piece.text
            : 'fact' in piece
              ? (wordsOf(ofCase, piece.fact, context) ?? notKnown(piece.fact))
              : '',
        )
        .join('')
        .trim(),
    )
}

const notKnown = (fact: FactPath) => `(${(askingOf(fact)?.label ?? 'that').toLowerCase()} not known)`
