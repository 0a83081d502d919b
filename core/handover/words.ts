import type { AgreedHow, AgreedTo } from '../cases/shape/agreement'
import type { ContactWay } from '../cases/shape/contact'
import type { CheckMark, Ending } from '../cases/shape/delivery'
import type { FreezeCause } from '../cases/shape/freeze'
import type { Payment } from '../cases/shape/money'

/** What an agreement is about, in a few words. */
export const AGREED_WORDS: Record<AgreedTo, string> = {
  'look-through': 'looking through the data',
  erase: 'a step that erases the device',
  laboratory: 'sending it to a laboratory',
  repair: 'repairing the device',
  price: 'the price',
  result: 'the result',
}

export const AGREED_HOW_WORDS: Record<AgreedHow, string> = {
  'signed-here': 'signed on the screen',
  'on-paper': 'signed on paper',
  'in-words': 'said in words',
}

/** How a contact was made. */
export const CONTACT_WORDS: Record<ContactWay, string> = {
  called: 'called',
  'no-answer': 'called, no answer',
  wrote: 'wrote',
  'was-called': 'client called',
  'was-written': 'client wrote',
  'came-in': 'client came in',
}

export const CHECK_WORDS: Record<CheckMark, string> = {
  right: 'right',
  missing: 'something is missing',
  'not-sure': 'not sure',
}

export const ENDING_WORDS: Record<Ending, string> = {
  'in-full': 'back in full',
  'in-part': 'back in part',
  nothing: 'nothing came back',
  'not-possible': 'not possible',
  'stopped-by-client': 'stopped by the client',
}

export const FREEZE_WORDS: Record<FreezeCause, string> = {
  illegal: 'something illegal was met',
  'not-theirs': 'data of somebody else were met',
  'police-or-court': 'asked for by police or a court',
}

export const PAYMENT_WAY_WORDS: Record<Payment['way'], string> = {
  cash: 'cash',
  card: 'card',
  transfer: 'bank transfer',
}
