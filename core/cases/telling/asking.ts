import { COPY_KINDS } from '../shape/copy'
import { DATA_TYPES } from '../shape/data-types'
import { CONDITIONS, DEVICE_KINDS, PLATFORMS } from '../shape/device'
import type { FactPath } from '../facts/facts'
import { LOSS_KINDS } from '../shape/loss'
import type { Budget } from '../shape/terms'
import { CONDITION_ALSO, COPY_KIND_ALSO, DEVICE_KIND_ALSO, LOSS_ALSO, PLATFORM_ALSO, TYPE_ALSO } from './also-said'
import { COPY_KIND_WORDS, DEVICE_KIND_WORDS, LOSS_WORDS, PLATFORM_WORDS, TYPE_WORDS, withArticle } from './words'

/** One answer that a fact can have, in the words of a sentence. */
export interface Option {
  readonly value: string
  readonly words: string
  /** other ways in which people say it */
  readonly also?: readonly string[]
}

/** How a fact is asked for and typed; one member per way of answering. */
export type Control =
  | { readonly by: 'choice'; readonly options: readonly Option[] }
  | { readonly by: 'several'; readonly options: readonly Option[] }
  | { readonly by: 'text'; readonly isNumeric?: boolean }
  | { readonly by: 'size' }
  | { readonly by: 'count' }
  /** a number that may be zero */
  | { readonly by: 'number' }
  /** a size, or a range of sizes */
  | { readonly by: 'written' }
  /** a sum, or how much effort it is worth */
  | { readonly by: 'budget'; readonly options: readonly Option[] }
  /** a period in days, or a range of them */
  | { readonly by: 'period' }
  /** which part of a set: all, none, a number, a share, dates */
  | { readonly by: 'part' }
  /** when they were made, and if wanted when most of them were */
  | { readonly by: 'made' }
  /** when most of them were made */
  | { readonly by: 'crowd' }
  /** one or several of the case's devices and media */
  | { readonly by: 'parts' }
  /** one of the case's devices and media, or apart from all of them */
  | { readonly by: 'place' }
  /** an account or a password of the case, or a new one by its name */
  | { readonly by: 'secret'; readonly kind: 'account' | 'password' }
  | { readonly by: 'money' }
  | { readonly by: 'time'; readonly direction: 'past' | 'future' }
  | { readonly by: 'must-have' }
  | { readonly by: 'places' }
  | { readonly by: 'card-since' }

export interface Asking {
  /** the fact's name, for lists and for screen readers */
  readonly label: string
  /** shown in the sentence while the fact is not known */
  readonly question: string
  readonly control: Control
}

const optionsFrom = (words: Record<string, string>, also: Readonly<Record<string, readonly string[]>> = {}) =>
  Object.entries(words).map(([value, said]): Option => ({
    value,
    words: said,
    ...(also[value] && { also: also[value] }),
  }))
const choice = (
  label: string,
  question: string,
  words: Record<string, string>,
  also?: Readonly<Record<string, readonly string[]>>,
): Asking => ({ label, question, control: { by: 'choice', options: optionsFrom(words, also) } })
const text = (label: string, question: string): Asking => ({ label, question, control: { by: 'text' } })
const past = (label: string, question: string): Asking => ({
  label,
  question,
  control: { by: 'time', direction: 'past' },
})
const future = (label: string, question: string): Asking => ({
  label,
  question,
  control: { by: 'time', direction: 'future' },
})
const pick = <K extends string>(
  keys: readonly K[],
  words: Record<K, string>,
  change: (said: string) => string = (said) => said,
) => Object.fromEntries(keys.map((key) => [key, change(words[key])]))

const YES_NO = { yes: ['yes'], no: ['no'], wet: ['yes'], on: ['yes'], off: ['no'] }

const bin = (name: string) => choice(`${name} bin`, 'on or off?', { on: 'on', off: 'off', emptied: 'emptied since' })

const STORAGE: Record<string, Asking> = {
  kind: choice('Medium', 'what medium?', {
    'phone-flash': 'built-in flash',
    'solid-state': 'a solid-state disk',
    'spinning-disk': 'a spinning disk',
    card: 'a card',
    stick: 'a stick',
  }),
  fileSystem: text('File system', 'file system?'),
  capacityBytes: { label: 'Capacity', question: 'what size?', control: { by: 'size' } },
  freeBytes: { label: 'Free space', question: 'how much?', control: { by: 'size' } },
  encryption: choice('Encryption', 'encrypted?', {
    none: 'not encrypted',
    'whole-device': 'encrypted as a whole',
    'per-file': 'encrypted file by file',
  }),
  discard: choice('Erasing of freed blocks', 'at once or later?', {
    'at-once': 'at once',
    'by-timer': 'by a timer',
    off: 'never',
  }),
  discardNext: {
    label: 'Next run of the timer',
    question: 'next run when?',
    control: { by: 'time', direction: 'future' },
  },
}

const DEVICE: Record<string, Asking> = {
  kind: choice('Kind of device', 'what device?', pick(DEVICE_KINDS, DEVICE_KIND_WORDS, withArticle), DEVICE_KIND_ALSO),
  platform: choice('Platform family', 'which family?', pick(PLATFORMS, PLATFORM_WORDS), PLATFORM_ALSO),
  make: text('Maker and model', 'which make?'),
  lock: choice('Lock', 'locked?', { unlocked: 'unlocked by its owner', locked: 'locked', none: 'without a lock' }),
  passcode: choice('Passcode', 'known?', { known: 'known', 'not-known': 'not known to anybody' }),
  condition: choice(
    'Condition',
    'working?',
    pick(CONDITIONS, {
      working: 'working',
      cracked: 'cracked',
      'touch-dead': 'dead to touch',
      'system-crashed': 'stuck in a crashed system',
      wet: 'wet',
      'no-power': 'without power',
      clicking: 'clicking',
      gone: 'gone itself',
    }),
    CONDITION_ALSO,
  ),
  wet: choice('Water', 'did it get wet?', { wet: 'wet until now', dried: 'wet, dried since', no: 'never wet' }, YES_NO),
  power: choice('Switched on or off', 'on or off?', { on: 'switched on', off: 'switched off' }),
  offSince: past('Off since', 'since when?'),
  wrongCodes: { label: 'Number of tries', question: 'how many?', control: { by: 'number' } },
  spare: choice(
    'A spare of the same kind',
    'is there a spare?',
    { yes: 'there is a spare of the same kind', no: 'there is no spare of the same kind' },
    { yes: ['yes', 'same model'], no: ['no', 'none'] },
  ),
  'bins.photos': bin('Gallery'),
  'bins.notes': bin('Notes'),
  'bins.files': bin('File'),
  'bins.messages': bin('Message'),
  'bins.mail': bin('Mail'),
  cable: choice('Data cable', 'does it answer?', {
    ready: 'answering by cable',
    refused: 'not answering by cable',
  }),
}

const WANTED: Record<string, Asking> = {
  type: choice('Kind of data', 'what?', pick(DATA_TYPES, TYPE_WORDS), TYPE_ALSO),
  title: text('In their words', 'called what?'),
  count: { label: 'How many', question: 'how many?', control: { by: 'count' } },
  bytes: { label: 'Total size', question: 'what size?', control: { by: 'size' } },
  made: { label: 'Made', question: 'when?', control: { by: 'made' } },
  mustHave: { label: 'Must have', question: 'which most?', control: { by: 'must-have' } },
  names: text('Names or extensions', 'named what?'),
  spread: { label: 'Most of them made', question: 'evenly?', control: { by: 'crowd' } },
  on: { label: 'On which of them', question: 'on which?', control: { by: 'parts' } },
  placeholders: choice(
    'Placeholders',
    'files or placeholders?',
    { yes: 'placeholders only', no: 'whole files' },
    {
      yes: ['yes', 'clouds', 'cloud symbols', 'links', 'online only'],
      no: ['no', 'files', 'real files', 'downloaded'],
    },
  ),
  lived: { label: 'Kept where', question: 'where?', control: { by: 'places' } },
  'lived#card-since': { label: 'On the card since', question: 'since when?', control: { by: 'card-since' } },
}

const yes = (label: string, question: string, said: string, denied: string) =>
  choice(label, question, { yes: said, no: denied }, YES_NO)

const COPY: Record<string, Asking> = {
  kind: choice('Kind of copy', 'which?', pick(COPY_KINDS, COPY_KIND_WORDS), COPY_KIND_ALSO),
  label: text('Which one', 'whose or where?'),
  exists: choice(
    'Whether there is one',
    'is there one?',
    { yes: 'there is one', supposed: 'there should be one', no: 'there is none' },
    { yes: ['yes', 'confirmed'], supposed: ['perhaps', 'maybe', 'probably'], no: ['no', 'none'] },
  ),
  lies: { label: 'Where it lies', question: 'lying where?', control: { by: 'place' } },
  keepsFor: { label: 'Keeps things for', question: 'how long?', control: { by: 'period' } },
  placeholders: choice(
    'Files or placeholders',
    'whole files?',
    { yes: 'placeholders only', no: 'whole files' },
    { yes: ['clouds', 'links', 'online only'], no: ['files', 'real files'] },
  ),
  lastOnline: past('Last online', 'when?'),
  ended: past('Account closed', 'closed when?'),
  accountOf: { label: 'Which account', question: 'which account?', control: { by: 'secret', kind: 'account' } },
  passwordOf: { label: 'Which password', question: 'which password?', control: { by: 'secret', kind: 'password' } },
  keeps: {
    label: 'Keeps',
    question: 'what kinds?',
    control: { by: 'several', options: DATA_TYPES.map((type) => ({ value: type, words: TYPE_WORDS[type] })) },
  },
  covers: past('Covers', 'which dates?'),
  taken: past('Taken', 'when?'),
  bytes: { label: 'Size', question: 'what size?', control: { by: 'size' } },
  count: { label: 'How many of them', question: 'how many?', control: { by: 'count' } },
  account: choice('Account and password', 'known?', { known: 'known', 'not-known': 'forgotten' }),
  encrypted: yes('Encrypted', 'encrypted?', 'encrypted', 'not encrypted'),
  password: choice('Its password', 'known?', {
    opened: 'known, it opened',
    'thought-known': 'thought to be known',
    'not-known': 'forgotten',
  }),
  selective: yes('Can be read in part', 'in part?', 'readable in part', 'only as a whole'),
  sync: choice('Sync before the loss', 'on or off?', { on: 'on', 'thought-on': 'thought to be on', off: 'off' }),
  syncedUntil: past('Synced until', 'until when?'),
  keepsBin: yes('Keeps the bin too', 'bin too?', 'with the bin', 'without the bin'),
  binEmptied: yes('Its bin was emptied', 'emptied?', 'bin emptied', 'bin not emptied'),
  replaced: future('Replaced by the next run', 'replaced when?'),
  ran: yes('That run has happened', 'did it run?', 'run since', 'not run since'),
  size: choice('Kept in what size', 'full size?', { full: 'in full size', reduced: 'reduced' }),
}

const HELD: Asking = { label: 'How many of them', question: 'how many?', control: { by: 'part' } }

const SECRET: Record<string, Asking> = {
  kind: choice('Account or password', 'which?', { account: 'an account', password: 'a password', key: 'a key' }),
  label: text('Its name', 'called what?'),
  state: choice('Known', 'known?', {
    known: 'known',
    opened: 'known, it opened',
    'thought-known': 'thought to be known',
    'not-known': 'forgotten',
  }),
}

const BUDGET_WORDS: Record<Budget, string> = { little: 'little', usual: 'the usual', whatever: 'whatever it takes' }

const TOP: Record<string, Asking> = {
  'client.name': text('Client', 'who?'),
  'client.phone': { label: 'Phone number', question: 'phone number?', control: { by: 'text', isNumeric: true } },
  'client.mail': text('Mail address', 'mail address?'),
  'authority.basis': choice('Whose data it is', 'whose?', {
    own: 'their own',
    parent: 'their child’s',
    employer: 'their employer’s',
    estate: 'somebody’s who has died',
    none: 'somebody else’s',
  }),
  'authority.whose': text('Owner of the data', 'whose?'),
  'authority.agreedBy': text('Who agrees', 'who?'),
  'authority.proof': choice('Proof seen', 'which?', {
    identity: 'an identity document',
    certificate: 'a certificate',
    letter: 'a letter of authority',
    'court-paper': 'a paper of a court',
    'known-here': 'known to the shop',
    none: 'no proof',
  }),
  'loss.how': choice('How it was lost', 'how?', pick(LOSS_KINDS, LOSS_WORDS), LOSS_ALSO),
  'loss.when': past('When it was lost', 'when?'),
  'loss.when#ahead': future('When it will be lost', 'when?'),
  'loss.on': { label: 'Where it happened', question: 'on which?', control: { by: 'parts' } },
  'loss.noticed': past('Missed', 'when?'),
  'loss.format': choice('Kind of format', 'quick or full?', { quick: 'quick', full: 'full' }),
  'loss.since.used': choice(
    'Used since',
    'in use?',
    { yes: 'in use', no: 'not used' },
    { yes: ['used', 'on', ...YES_NO.yes], no: ['unused', 'put aside', 'put away', 'left alone', 'off', ...YES_NO.no] },
  ),
  'loss.since.writtenBytes': { label: 'Written since', question: 'how much?', control: { by: 'written' } },
  'loss.since.installed': yes('Installed since', 'anything?', 'something', 'nothing'),
  'loss.since.sync': choice('Sync now', 'on or off?', { on: 'on', off: 'off', none: 'never set up' }),
  'limits.money': {
    label: 'Can spend',
    question: 'how much?',
    control: {
      by: 'budget',
      options: optionsFrom(BUDGET_WORDS, {
        little: ['not much', 'as little as possible', 'no money', 'cheap'],
        usual: ['normal', 'reasonable'],
        whatever: ['anything', 'no limit', 'cost does not matter', 'money does not matter'],
      }),
    },
  },
  'limits.budget': choice('Effort it is worth', 'how much?', BUDGET_WORDS),
  'limits.deadline': future('Needed by', 'when?'),
  'limits.seenBy': choice('Seen by', 'whom?', {
    'us-only': 'us only',
    'in-house': 'people here, and nothing leaves the house',
    anyone: 'us and a laboratory',
  }),
  'limits.worth': { label: 'Worth to them', question: 'how much?', control: { by: 'money' } },
  'consent.lookThrough.answer': choice('We may look through it', 'yes or no?', { given: 'yes', refused: 'no' }),
  'consent.erase.answer': choice('We may erase the device', 'yes or no?', { given: 'yes', refused: 'no' }),
  'consent.laboratory.answer': choice('A laboratory may have it', 'yes or no?', { given: 'yes', refused: 'no' }),
  title: text('Name of the case', 'called what?'),
  with: text('With', 'who?'),
}

const IN_LISTS: Record<string, Record<string, Asking>> = {
  devices: DEVICE,
  wanted: WANTED,
  copies: COPY,
  secrets: SECRET,
}

/** How the fact at a path is asked for, or null where there is no way to ask. A part of a fact is named after a hash. */
export function askingOf(path: FactPath): Asking | null {
  const [list = '', , ...rest] = path.split('.')
  const inList = Object.hasOwn(IN_LISTS, list) ? IN_LISTS[list] : undefined
  if (!inList) return Object.hasOwn(TOP, path) ? TOP[path]! : null
  const fact = rest.join('.')
  if (list === 'copies' && fact.startsWith('holds.')) return HELD
  if (fact.startsWith('storage.')) return STORAGE[fact.slice('storage.'.length)] ?? null
  return Object.hasOwn(inList, fact) ? inList[fact]! : null
}

/** The path of the fact itself, without the part after the hash. */
export function factOf(path: FactPath): FactPath {
  return path.split('#')[0]!
}
