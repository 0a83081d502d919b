import { Case, CASE_FORMAT, CASE_VERSION } from '../cases/shape/case'
import { CASE_TEXTS } from '../cases/facts/texts'

const at = '2026-11-01T09:00:00.000Z'
const by = 'Bram Hollis'
const x = 'x'
const said = { from: at, to: at, said: x }

/** A case in which every list has a part, so that every text can be set. */
const FULL = {
  format: CASE_FORMAT,
  version: CASE_VERSION,
  code: 'RL-0001',
  title: x,
  state: { name: 'handed-over', since: at, reason: x },
  logged: at,
  client: { name: x, phone: '0123', mail: 'x@x' },
  authority: { whose: x, agreedBy: x, basis: 'own' },
  devices: [
    {
      id: 'd1',
      kind: 'phone',
      platform: 'open-phone',
      make: x,
      offSince: said,
      storage: { fileSystem: x, discardNext: said },
    },
  ],
  wanted: [
    {
      id: 'w1',
      type: 'photos',
      count: 12,
      title: x,
      names: x,
      made: said,
      mustHave: said,
      spread: [{ made: said, share: 0.5 }],
      lived: [{ place: 'device', from: said }],
    },
  ],
  loss: { how: 'deleted-in-bulk', when: said, noticed: said },
  secrets: [{ id: 's1', kind: 'account', label: x, state: 'known' }],
  limits: { deadline: said },
  copies: [
    {
      id: 'c1',
      kind: 'person',
      label: x,
      covers: said,
      taken: said,
      syncedUntil: said,
      replaced: said,
      lastOnline: said,
      ended: said,
      holds: { w1: said },
      storage: { fileSystem: x, discardNext: said },
    },
  ],
  consent: {
    lookThrough: { answer: 'given', by: x, at },
    erase: { answer: 'given', by: x, at },
    laboratory: { answer: 'given', by: x, at },
  },
  holds: [{ hold: 'stop-using', mark: 'waived', reason: x, by, at }],
  override: { order: ['device-photo-bin:d1'], reason: x, by, at },
  runs: [
    {
      id: 'r1',
      option: 'device-photo-bin:d1',
      kind: 'device-photo-bin',
      title: x,
      by,
      started: at,
      ended: at,
      results: [{ wanted: 'w1', back: 7, whole: 7 }],
      notes: [{ at, by, text: x }],
      leftOut: { reason: x, by, at },
      safetyCopy: { isReadBack: true, place: x, items: 3 },
      note: x,
    },
  ],
  agreements: [
    {
      id: 'g1',
      what: ['look-through'],
      text: x,
      person: x,
      behalf: x,
      how: 'in-words',
      at,
      by,
      takenBack: { at, by, reason: x },
    },
  ],
  things: [
    {
      id: 't1',
      part: 'd1',
      words: x,
      serial: x,
      steps: ['received', 'returned'].map((step) => ({
        step,
        at,
        by,
        place: x,
        condition: x,
        accessories: x,
        person: x,
        note: x,
      })),
    },
  ],
  contacts: [{ at, by, way: 'called', says: x }],
  money: {
    quote: { low: 10, high: 20, nothingBack: 5, note: x, at, by },
    charges: [{ id: 'p1', words: x, amount: 20, at, by, cancelled: { reason: x, at, by } }],
  },
  checks: [{ wanted: 'w1', group: 'all', mark: 'right', note: x, at, by }],
  outcome: { ending: 'in-part', reasons: x, delivered: [{ wanted: 'w1', count: 7 }], at, by },
  freezes: [{ cause: 'illegal', says: x, told: x, at, by, lifted: { at, by, reason: x } }],
}

/** A text that is nowhere else: for a phone number digits, for a mail address one. */
function marked(path: string, at: number): string {
  if (path === 'client.phone') return `0163290${7000 + at}`
  return path === 'client.mail' ? `mark${at}@example.invalid` : `Mark${at}x${path.replace(/[^a-zA-Z]/g, '')}`
}

/** The text in a path of the marked case. */
export const markOf = (path: string): string =>
  marked(
    path,
    CASE_TEXTS.findIndex((one) => one.path === path),
  )

/** A case of a client whose every text is a mark of its own. */
export function markedCase(): Case {
  // Not structuredClone, which keeps shared parts shared.
  const full = JSON.parse(JSON.stringify(FULL)) as Record<string, unknown>
  for (const { path } of CASE_TEXTS) set(full, path.split('.'), markOf(path))
  return Case.parse(full)
}

function set(value: unknown, [key, ...rest]: readonly string[], text: string): void {
  const holder = value as Record<string, unknown>
  const keys = key === '*' ? Object.keys(holder) : [key!]
  if (keys.length === 0 || holder[keys[0]!] === undefined) throw new Error(`The full case has no ${key}.`)
  for (const own of keys)
    if (rest.length === 0) holder[own] = text
    else set(holder[own], rest, text)
}
