import { askingOf } from './asking'
import { binsAsked } from './bins-asked'
import { wordsOf, type AnswerContext } from './answering'
import type { Case } from '../shape/case'
import { isBareMedium, isComputer, isHandheld, type Device } from '../shape/device'
import { ROW_TYPES } from '../shape/data-types'
import { known } from '../shape/fact'
import { DELETIONS, isFormat } from '../shape/loss'
import type { FactPath } from '../facts/facts'
import { countOf, type WantedSet } from '../shape/wanted'
import { copySentence } from './copy-sentence'
import { said, word, type PartList, type Piece, type Sentence } from './sentence'
import { DEVICE_KIND_WORDS } from './words'

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
    ...sinceSentence(ofCase, devices[0]!),
    ...ofCase.copies.map((copy) => copySentence(copy, ofCase)),
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
  if (device && asksWet(device)) pieces.push(said(', '), at('wet'))
  if (!device || !isBareMedium(device)) pieces.push(said(', '), at('lock'))
  if (device?.lock === 'locked') {
    pieces.push(said(', its passcode '), at('passcode'))
    if (device.passcode !== 'known') pieces.push(said(', wrong codes so far '), at('wrongCodes'))
  }
  if (device && needsEncryption(device)) pieces.push(said(', '), at('storage.encryption'))
  return [...pieces, said('.')]
}

/** What does not work may have been wet. */
const asksWet = (device: Device) => known(device.wet) || ['wet', 'no-power', 'touch-dead'].includes(device.condition)

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
  if (set && asksWhich(set, ofCase)) pieces.push(said(', '), at('on'))
  if (set && asksPlaceholders(set, ofCase)) pieces.push(said(', as '), at('placeholders'))
  pieces.push(said('.'))
  const isLast = index === Math.max(1, ofCase.wanted.length) - 1
  if (isLast && set && known(set.type)) pieces.push(said(' '), { add: 'wanted', question: 'and something else?' })
  return { id: `wanted-${id}`, part: ofCase.wanted.length > 1 ? part('wanted', id, 'this wanted set') : null, pieces }
}

/** Where there are several devices and media, it has to be said which of them the items were on. */
function asksWhich(set: WantedSet, ofCase: Case): boolean {
  const isCloudOnly = known(set.lived) && set.lived.every((place) => place.place === 'cloud')
  return known(set.on) || (isSeveral(ofCase) && !isCloudOnly)
}

/** A device with one card of its own is one place to look at; two cards, or two devices, are several. */
function isSeveral({ devices, copies }: Case): boolean {
  const media = copies.filter((copy) => copy.kind === 'medium').length
  return media > 1 || devices.length > 1
}

/** Files of a drive may have been placeholders on the device. */
function asksPlaceholders(set: WantedSet, ofCase: Case): boolean {
  const isInDrive = ofCase.copies.some((copy) => copy.kind === 'cloud-drive' && copy.exists !== 'no')
  return known(set.placeholders) || (isInDrive && known(set.type) && FILE_TYPES.includes(set.type))
}

const FILE_TYPES: readonly string[] = ['documents', 'spreadsheets', 'files']

const namesMatter = (set: WantedSet) =>
  known(set.type) && ['documents', 'spreadsheets', 'files', 'audio', 'notes'].includes(set.type)

function lossPieces(ofCase: Case): Piece[] {
  const { loss } = ofCase
  if (loss.how === 'not-lost-yet')
    return [said('They are '), word('loss.how'), said(', '), word('loss.when#ahead'), said('.')]
  const pieces: Piece[] = [said('They were '), word('loss.how')]
  if (loss.how === 'formatted') pieces.push(said(', a '), word('loss.format'), said(' one'))
  if (known(loss.on) || isSeveral(ofCase)) pieces.push(said(', '), word('loss.on'))
  return [...pieces, said(', '), word('loss.when'), said(', and missed '), word('loss.noticed'), said('.')]
}

/** What happened to the device since; of what is not lost yet, only whether sync is on. */
function sinceSentence(ofCase: Case, deviceId: string): Sentence[] {
  const isAhead = ofCase.loss.how === 'not-lost-yet'
  if (isAhead && !hasCloud(ofCase)) return []
  const pieces = isAhead ? [said('Sync is now '), word('loss.since.sync'), said('.')] : sincePieces(ofCase, deviceId)
  return [{ id: 'since', part: null, pieces }]
}

const hasCloud = ({ copies }: Case) =>
  copies.some((copy) => copy.kind === 'cloud-library' || copy.kind === 'cloud-drive')

/** A computer that is off, and a phone whose rows fade with use, keep what they have. */
function asksPower(device: Device, ofCase: Case): boolean {
  if (known(device.power)) return true
  if (isComputer(device)) return device.condition !== 'no-power'
  return ofCase.wanted.some((set) => known(set.type) && ROW_TYPES.includes(set.type)) && device.condition === 'working'
}

/** A solid-state disk may erase what was deleted or formatted by itself. */
function asksDiscard({ storage }: Device, { loss }: Case): boolean {
  const isFreed = DELETIONS.includes(loss.how) || loss.how === 'bin-emptied' || isFormat(loss.how)
  return known(storage.discard) || (storage.kind === 'solid-state' && isFreed)
}

/** Ways of losing after which a bin can still hold them, if it was on. */
const THROUGH_A_BIN: readonly string[] = ['unknown', 'deleted-singly', 'deleted-in-bulk', 'sync-switched']

function sincePieces(ofCase: Case, deviceId: string): Piece[] {
  const device = ofCase.devices.find((candidate) => candidate.id === deviceId)
  const kind = device && known(device.kind) ? DEVICE_KIND_WORDS[device.kind] : 'device'
  const pieces: Piece[] = [said(`Since then the ${kind} was `), word('loss.since.used')]
  if (ofCase.loss.since.used !== 'no') pieces.push(said(', '), word('loss.since.writtenBytes'), said(' written'))
  if (device && isComputer(device)) pieces.push(said(', '), word('loss.since.installed'), said(' installed'))
  if (device && asksPower(device, ofCase)) {
    pieces.push(said('; it is now '), word(`devices.${deviceId}.power`))
    if (device.power === 'off') pieces.push(said(' since '), word(`devices.${deviceId}.offSince`))
  }
  if (device && asksDiscard(device, ofCase)) {
    pieces.push(said('; it erases freed blocks '), word(`devices.${deviceId}.storage.discard`))
    if (device.storage.discard === 'by-timer')
      pieces.push(said(', next '), word(`devices.${deviceId}.storage.discardNext`))
  }
  if (hasCloud(ofCase)) pieces.push(said('; sync is now '), word('loss.since.sync'))
  const bins =
    device && !isBareMedium(device) && THROUGH_A_BIN.includes(ofCase.loss.how) ? binsAsked(ofCase, device) : []
  for (const bin of bins) {
    const path = `devices.${deviceId}.bins.${bin}`
    pieces.push(said(`; its ${(askingOf(path)?.label ?? 'bin').toLowerCase()} was `), word(path))
  }
  return [...pieces, said('.')]
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

/** A spare decides where a backup would be restored over the only device. */
function asksSpare({ devices, copies }: Case): boolean {
  const device = devices[0]
  if (!device || !isHandheld(device)) return false
  return known(device.spare) || copies.some((copy) => copy.kind === 'cloud-backup' || copy.kind === 'computer-backup')
}

function consentPieces(ofCase: Case): Piece[] {
  const { authority, limits } = ofCase
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
    ...(asksSpare(ofCase) ? [said('; '), word(`devices.${ofCase.devices[0]!.id}.spare`)] : []),
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
