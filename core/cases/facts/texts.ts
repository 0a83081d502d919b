import type { Case } from '../shape/case'

/** Which texts of a case belong together, for finding them and for saying where something was found. */
export type TextPlace = 'client' | 'case' | 'thing' | 'note'

/**
 * When a text is wiped: with the data, or on the later date of the person, which also holds what the shop's receipts
 * repeat.
 */
export type TextEnd = 'data' | 'person'

interface TextRule {
  /** the path, with `*` for each part of a list */
  readonly path: string
  readonly place: TextPlace
  /** where it is, in words */
  readonly words: string
  readonly end: TextEnd
  /** what is there after it was wiped */
  readonly blank: '' | 'unknown' | 'wiped' | null
}

const rule = (
  end: TextEnd,
  place: TextPlace,
  blank: TextRule['blank'],
  texts: Readonly<Record<string, string>>,
): TextRule[] => Object.entries(texts).map(([path, words]) => ({ path, place, words, end, blank }))

/**
 * Every text of a case that somebody typed about a client or their things. A test walks the schema and fails for a text
 * that is missing here. Names of staff, codes and ids are not among them.
 */
export const CASE_TEXTS: readonly TextRule[] = [
  ...rule('data', 'case', '', { title: 'title' }),
  ...rule('data', 'thing', 'unknown', {
    'wanted.*.title': 'wanted',
    'wanted.*.names': 'names of wanted items',
    'copies.*.label': 'copy',
    'secrets.*.label': 'account or password of several copies',
  }),
  // A time as somebody said it: "the day after her wedding".
  ...rule('data', 'note', '', {
    'loss.when.said': 'when it was lost',
    'loss.noticed.said': 'when it was noticed',
    'limits.deadline.said': 'deadline',
    'devices.*.offSince.said': 'since when a device is off',
    'devices.*.storage.discardNext.said': 'when freed blocks are erased',
    'copies.*.storage.discardNext.said': 'when freed blocks of a copy are erased',
    'wanted.*.made.said': 'when the items were made',
    'wanted.*.spread.*.made.said': 'when most of the items were made',
    'wanted.*.mustHave.said': 'which must come back',
    'wanted.*.lived.*.from.said': 'where the items were',
    'copies.*.covers.said': 'what a copy covers',
    'copies.*.holds.*.said': 'what a copy holds',
    'copies.*.lastOnline.said': 'when a device was last online',
    'copies.*.ended.said': 'when an account was closed',
    'copies.*.taken.said': 'when a copy was made',
    'copies.*.syncedUntil.said': 'until when it was in sync',
    'copies.*.replaced.said': 'when a copy is replaced',
  }),
  ...rule('data', 'note', '', {
    'state.reason': 'reason of the state',
    'runs.*.note': 'result of a run',
    'agreements.*.takenBack.reason': 'reason for taking an agreement back',
    'checks.*.note': 'looked at with the client',
    'outcome.reasons': 'outcome',
    'money.quote.note': 'quote',
    'freezes.*.told': 'stop of the case',
  }),
  ...rule('data', 'note', 'wiped', {
    'holds.*.reason': 'reason for waiving a hold',
    'override.reason': 'reason for the order of routes',
    'runs.*.title': 'run',
    'runs.*.notes.*.text': 'note of a run',
    'runs.*.leftOut.reason': 'reason for leaving a run out of the odds',
    'runs.*.safetyCopy.place': 'place of a safety copy',
    'contacts.*.says': 'contact with the client',
    'freezes.*.says': 'stop of the case',
    'freezes.*.lifted.reason': 'reason for lifting a stop',
  }),
  ...rule('person', 'client', 'unknown', {
    'client.name': 'name',
    'client.phone': 'phone',
    'client.mail': 'mail',
    'authority.whose': 'whose data it is',
    'authority.agreedBy': 'who agreed',
  }),
  ...rule('person', 'client', 'wiped', {
    'consent.*.by': 'consent',
    'agreements.*.person': 'who agreed',
  }),
  ...rule('person', 'client', '', {
    'agreements.*.behalf': 'for whom somebody agreed',
    'things.*.steps.*.person': 'who brought or took a thing',
  }),
  ...rule('person', 'thing', 'unknown', {
    'devices.*.make': 'device',
    'devices.*.storage.fileSystem': 'file system',
    'copies.*.storage.fileSystem': 'file system of a copy',
  }),
  ...rule('person', 'thing', 'wiped', { 'things.*.words': 'thing taken in' }),
  ...rule('person', 'thing', '', {
    'things.*.serial': 'serial number',
    'things.*.steps.*.place': 'where a thing is',
    'things.*.steps.*.accessories': 'accessories',
  }),
  ...rule('person', 'note', '', {
    'things.*.steps.*.condition': 'condition of a thing',
    'things.*.steps.*.note': 'custody',
  }),
  ...rule('person', 'note', 'wiped', {
    'agreements.*.text': 'words that were agreed to',
    'money.charges.*.words': 'charge',
    'money.charges.*.cancelled.reason': 'reason for cancelling a charge',
  }),
]

/** A text of a case, and where it is. */
export interface CaseText {
  readonly rule: TextRule
  readonly text: string
}

/** The texts of a case that say something; unknown facts and empty texts are left out. */
export function textsOf(ofCase: Case): CaseText[] {
  const found: CaseText[] = []
  for (const one of CASE_TEXTS)
    atPath(ofCase, one.path.split('.'), (holder, key) => {
      const text = holder[key]
      if (typeof text === 'string' && text !== '' && text !== 'unknown') found.push({ rule: one, text })
    })
  return found
}

/** The case without the texts that are wiped at this end; everything else of it stays. */
export function withoutTexts(ofCase: Case, end: TextEnd): Case {
  const copy = structuredClone(ofCase)
  for (const one of CASE_TEXTS.filter((rule) => rule.end === end))
    atPath(copy, one.path.split('.'), (holder, key) => {
      const text = holder[key]
      // What was empty or unknown says nothing: a placeholder there would claim that something was wiped.
      if (typeof text === 'string' && text !== '' && text !== 'unknown') holder[key] = one.blank
    })
  return copy
}

type Holder = Record<string, unknown>

/** Calls back for every place that a path names. */
function atPath(value: unknown, [key, ...rest]: readonly string[], found: (holder: Holder, key: string) => void): void {
  if (typeof value !== 'object' || value === null || key === undefined) return
  const holder = value as Holder
  for (const own of key === '*' ? Object.keys(holder) : [key])
    if (rest.length === 0) found(holder, own)
    else atPath(holder[own], rest, found)
}
