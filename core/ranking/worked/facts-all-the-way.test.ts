import { Ajv2020 } from 'ajv/dist/2020.js'
import addFormats from 'ajv-formats'
import { describe, expect, it } from 'vitest'
import { caseJsonSchema, readCase, writeCase } from '../../cases/facts/exchange'
import { withFacts, withMissingParts, type Change } from '../../cases/facts/facts'
import { mergeByFact } from '../../cases/facts/merge'
import type { Case } from '../../cases/shape/case'
import { COPY_KINDS, IN_AN_ACCOUNT } from '../../cases/shape/copy'
import { answer, wordsOf } from '../../cases/telling/answering'
import { factOf } from '../../cases/telling/asking'
import { docketOf } from '../../cases/telling/docket'
import { historyWords } from '../../cases/telling/history'
import { tellingOf } from '../../cases/telling/telling'
import { defaultPlaybook } from '../../playbook/playbook'
import { ago, caseWith, NOW } from '../../testing/case-with'
import { planOf } from '../explain/plan'
import type { Plan, PlanOption } from '../situation/plan-shape'

const context = { now: NOW, zone: 'Europe/London', currency: 'GBP' }
const playbook = defaultPlaybook()

interface Row {
  readonly fact: string
  /** the case in which it is said */
  readonly about: Record<string, unknown>
  readonly typed: string
  /** what somebody else says meanwhile */
  readonly other: string
  readonly words: string
  /** asked for by a word of its own only once it is known, or only in the docket */
  readonly isNotAsked?: boolean
  /** an option whose figure differs with the fact from what it is without: more or less of it */
  readonly moves:
    | readonly [option: string, figure: 'chance' | 'share' | 'harm', way: 'more' | 'less']
    | { readonly hold: string }
    | { readonly offers: string }
    | { readonly worth: 'more' | 'less' }
    | { readonly closes: string; readonly by: string }
}

const phone = (more: object = {}) => ({
  'devices.d1': { kind: 'phone', platform: 'open-phone', condition: 'working', lock: 'unlocked', ...more },
  'wanted.w1': { type: 'photos', count: 300, made: ago(60, 12), lived: [{ place: 'device', from: 'unknown' }] },
  'loss.how': 'deleted-in-bulk',
  'loss.when': ago(10, 9),
})
const laptop = (storage: object = {}, more: object = {}) => ({
  ...phone(),
  'devices.d1': {
    kind: 'laptop',
    platform: 'desktop-pc',
    condition: 'working',
    lock: 'unlocked',
    storage: { kind: 'solid-state', encryption: 'none', discard: 'by-timer', freeBytes: 200e9, ...storage },
    ...more,
  },
  'wanted.w1': { type: 'documents', count: 300, made: ago(60, 12), lived: [{ place: 'device', from: 'unknown' }] },
  'loss.since.used': 'yes',
})
const lost = (how: string) => ({ 'loss.how': how })
const chats = { 'wanted.w1': { type: 'chats', count: 300, made: ago(60, 12) } }

const ROWS: readonly Row[] = [
  {
    fact: 'devices.d1.power',
    about: laptop(),
    typed: 'switched off',
    other: 'switched on',
    words: 'switched off',
    moves: { hold: 'stop-using' },
  },
  {
    fact: 'devices.d1.offSince',
    about: laptop({}, { power: 'off' }),
    typed: '9 days ago',
    other: 'yesterday',
    words: '15 Nov',
    moves: ['inner-storage-scan:d1', 'share', 'more'],
  },
  {
    fact: 'devices.d1.storage.discardNext',
    about: { ...laptop(), 'loss.when': ago(3, 2) },
    typed: 'tomorrow',
    other: 'friday',
    words: '25 Nov',
    moves: ['inner-storage-scan:d1', 'share', 'more'],
  },
  {
    fact: 'loss.how',
    about: phone(),
    typed: 'deleted for good',
    other: 'reset',
    words: 'deleted past the bin',
    moves: ['gallery-bin:d1', 'share', 'less'],
  },
  {
    fact: 'wanted.w1.type',
    about: phone(),
    typed: 'chats',
    other: 'notes',
    words: 'chats of an app',
    moves: { offers: 'phone-rows:d1' },
  },
  {
    fact: 'copies.c1.keepsFor',
    about: { ...phone(), ...chats, 'copies.c1': { kind: 'app-copies' } },
    typed: '2 weeks',
    other: '3 days',
    words: '14 days',
    moves: ['app-own-copies:c1', 'chance', 'more'],
  },
  {
    fact: 'copies.c1.ended',
    about: { ...phone(), 'copies.c1': { kind: 'cloud-library', account: 'known', sync: 'on' } },
    typed: '30 days ago',
    other: 'yesterday',
    words: '25 Oct',
    isNotAsked: true,
    moves: ['cloud-library-bin:c1', 'chance', 'less'],
  },
  {
    fact: 'copies.c1.lastOnline',
    about: { ...phone(), 'copies.c1': { kind: 'other-device' } },
    typed: '11 days ago',
    other: 'yesterday',
    words: '13 Nov',
    moves: ['other-device:c1', 'share', 'more'],
  },
  {
    fact: 'devices.d1.spare',
    about: { ...phone(), 'copies.c1': { kind: 'cloud-backup', taken: ago(11) } },
    typed: 'yes',
    other: 'no',
    words: 'there is a spare of the same kind',
    moves: ['spare-cloud-backup:c1', 'chance', 'more'],
  },
  {
    fact: 'loss.when#ahead',
    about: { ...phone(), ...lost('not-lost-yet'), 'loss.when': 'unknown' },
    typed: 'tomorrow',
    other: 'friday',
    words: '25 Nov',
    moves: { closes: 'copy-while-there:d1', by: '2026-11-25' },
  },
  {
    fact: 'devices.d1.condition',
    about: { ...phone(), 'devices.d1.condition': 'unknown' },
    typed: 'cracked',
    other: 'touch dead',
    words: 'cracked',
    moves: ['gallery-bin:d1', 'chance', 'less'],
  },
  {
    fact: 'devices.d1.condition',
    about: { ...laptop(), 'devices.d1.condition': 'no-power' },
    typed: 'boot loop',
    other: 'cracked',
    words: 'stuck in a crashed system',
    moves: ['inner-storage-scan:d1', 'chance', 'more'],
  },
  {
    fact: 'devices.d1.wet',
    about: phone({ condition: 'no-power' }),
    typed: 'wet until now',
    other: 'never',
    words: 'wet until now',
    moves: { hold: 'no-power-while-wet' },
  },
  {
    fact: 'devices.d1.wrongCodes',
    about: phone({ lock: 'locked' }),
    typed: 'eight',
    other: '3',
    words: '8',
    moves: { hold: 'no-passcode-guessing' },
  },
  {
    fact: 'loss.since.writtenBytes',
    about: {
      ...laptop(),
      'devices.d1': { kind: 'stick', condition: 'working', storage: { kind: 'stick', freeBytes: 8e9 } },
    },
    typed: '2 to 5 gb',
    other: '1 GB',
    words: '2 to 5 GB',
    moves: ['stick-deep-scan:d1', 'share', 'less'],
  },
  {
    fact: 'wanted.w1.on',
    about: {
      ...phone(),
      'copies.c1': { kind: 'medium', label: 'red card' },
      'copies.c2': { kind: 'medium', label: 'blue card' },
      'wanted.w1.lived': 'unknown',
    },
    typed: 'the blue card',
    other: 'red',
    words: 'on the blue card',
    moves: ['medium-deep-scan:c1', 'share', 'less'],
  },
  {
    fact: 'loss.on',
    about: {
      ...phone(),
      ...lost('formatted'),
      'copies.c1': { kind: 'medium', label: 'red card' },
      'copies.c2': { kind: 'medium', label: 'blue card' },
      'wanted.w1.lived': [{ place: 'card', from: 'unknown' }],
    },
    typed: 'the blue card',
    other: 'red',
    words: 'on the blue card',
    moves: ['medium-quick-pass:c1', 'share', 'more'],
  },
  {
    fact: 'copies.c1.holds.w1',
    about: { ...phone(), 'copies.c1': { kind: 'person' } },
    typed: 'half of them',
    other: 'all',
    words: 'half',
    moves: ['ask-sender:c1', 'share', 'more'],
  },
  {
    fact: 'wanted.w1.placeholders',
    about: { ...laptop(), 'copies.c1': { kind: 'cloud-drive' } },
    typed: 'clouds',
    other: 'real files',
    words: 'placeholders only',
    moves: ['computer-bin:d1', 'share', 'less'],
  },
  {
    fact: 'wanted.w1.spread',
    about: { ...phone(), 'copies.c1': { kind: 'computer-backup', taken: ago(30) } },
    typed: 'most in the last 3 weeks',
    other: 'evenly',
    words: 'most 3 to 24 Nov',
    isNotAsked: true,
    moves: ['computer-backup-full:c1', 'share', 'less'],
  },
  {
    fact: 'limits.money',
    about: laptop({ discard: 'off' }),
    typed: 'whatever it takes',
    other: '120',
    words: 'whatever it takes',
    moves: { worth: 'more' },
  },
  {
    fact: 'limits.money',
    about: laptop({ discard: 'off' }),
    typed: 'not much',
    other: '120',
    words: 'little',
    moves: { worth: 'less' },
  },
  {
    fact: 'limits.seenBy',
    about: laptop(),
    typed: 'nothing leaves the house',
    other: 'us only',
    words: 'people here, and nothing leaves the house',
    moves: ['laboratory:d1', 'chance', 'less'],
  },
  {
    fact: 'copies.c1.exists',
    about: { ...phone(), 'copies.c1': { kind: 'cloud-library', exists: 'supposed' } },
    typed: 'no',
    other: 'yes',
    words: 'there is none',
    moves: ['cloud-library-kept:c1', 'chance', 'less'],
  },
  {
    fact: 'copies.c1.covers',
    about: { ...phone(), 'copies.c1': { kind: 'cloud-library', account: 'known' } },
    typed: '25 sep to 10 oct',
    other: 'october',
    words: '25 Sep to 10 Oct',
    isNotAsked: true,
    moves: ['cloud-library-kept:c1', 'share', 'less'],
  },
  {
    fact: 'copies.c1.lies',
    about: { ...laptop(), ...lost('malware'), 'copies.c1': { kind: 'file-history', taken: ago(11) } },
    typed: 'on the laptop',
    other: 'elsewhere',
    words: 'on the laptop',
    moves: ['file-history:c1', 'chance', 'less'],
  },
  {
    fact: 'copies.c1.placeholders',
    about: { ...laptop(), 'copies.c1': { kind: 'file-history', taken: ago(11) }, 'wanted.w1.placeholders': 'yes' },
    typed: 'clouds',
    other: 'real files',
    words: 'placeholders only',
    moves: ['file-history:c1', 'share', 'less'],
  },
  {
    fact: 'copies.c2.accountOf',
    about: {
      ...phone(),
      'copies.c1': { kind: 'cloud-library', account: 'not-known' },
      'copies.c2': { kind: 'cloud-backup', taken: ago(11) },
    },
    typed: 'the one of the cloud library',
    other: 'his work account',
    words: 'account of the cloud library',
    moves: ['cloud-backup-full:c2', 'chance', 'less'],
  },
  {
    fact: 'copies.c2.passwordOf',
    about: {
      ...phone(),
      'copies.c1': { kind: 'computer-backup', password: 'not-known', encrypted: 'yes' },
      'copies.c2': { kind: 'computer-backup', taken: ago(11), encrypted: 'yes' },
    },
    typed: 'the one of the backup',
    other: 'the family password',
    words: 'password of the backup on a computer',
    moves: ['computer-backup-full:c2', 'chance', 'less'],
  },
]

const set = (so: Case, changes: readonly Change[]): Case => {
  const done = withFacts(so, withMissingParts(so, changes))
  if (!done.ok) throw new Error(JSON.stringify(done.faults))
  return done.changed
}
const planned = (ofCase: Case) => planOf(ofCase, playbook, NOW, { depth: 'order' })
const optionOf = (plan: Plan, id: string): PlanOption => {
  const found = plan.options.find((option) => option.id === id)
  if (!found) throw new Error(`${id} is not among ${plan.options.map((one) => one.id).join(', ')}`)
  return found
}
const figureOf = (plan: Plan, id: string, figure: 'chance' | 'share' | 'harm') => {
  const option = optionOf(plan, id)
  return figure === 'harm' ? option.harm : option[figure][1]
}

const ajv = new Ajv2020({ strict: false })
addFormats(ajv as never)
const isCaseFile = ajv.compile(caseJsonSchema())

describe('facts that decide go the whole way', () => {
  it.each(ROWS.map((row) => [`${row.fact}: “${row.typed}”`, row] as const))('%s', (_name, row) => {
    const before = caseWith(row.about)
    const asked = (ofCase: Case) =>
      tellingOf(ofCase).some(({ pieces }) => pieces.some((piece) => 'fact' in piece && piece.fact === row.fact))

    // The telling asks it where the story needs it, and shows it once it is known; the docket has it in any case.
    if (!row.isNotAsked) expect(asked(before)).toBe(true)
    const read = answer(before, row.fact, row.typed, context)
    if (!read.ok) throw new Error(read.message)
    const told = set(before, read.changes)
    // When most were made is a part of the word for when they were made.
    if (!row.fact.endsWith('.spread')) expect(asked(told)).toBe(true)
    expect(wordsOf(told, row.fact, context)).toBe(row.words)
    const docket = docketOf(told).flatMap((section) => section.parts.flatMap((part) => part.facts))
    expect(docket).toContain(row.fact)

    // Typed as it is shown, it says the same again; a question mark takes it back.
    const again = answer(told, row.fact, row.words, context)
    expect(again.ok && wordsOf(set(told, again.changes), row.fact, context)).toBe(row.words)
    const unsaid = answer(told, row.fact, '?', context)
    expect(unsaid.ok && wordsOf(set(told, unsaid.changes), row.fact, context)).toBeNull()

    // Somebody else who said another thing meanwhile is asked about, fact by fact; another fact merges.
    const others = answer(before, row.fact, row.other, context)
    if (!others.ok) throw new Error(others.message)
    const past = others.changes.map((change) => ({ ...change, by: 'Bram' }))
    const merge = mergeByFact(set(before, others.changes), read.changes, past)
    expect(merge.clashes.map(({ fact }) => fact)).not.toEqual([])
    expect(mergeByFact(before, read.changes, [{ fact: 'client.name', is: 'Ada', by: 'Bram' }]).clashes).toEqual([])

    // The history says it in words, the file takes it out and in, and the schema in the docs knows it.
    const [change] =
      read.changes.slice(-1)[0]!.fact === 'limits.budget'
        ? read.changes.slice(-1)
        : read.changes.filter(({ fact }) => fact === factOf(row.fact))
    const said = historyWords({ kind: 'fact', fact: change!.fact, was: 'unknown', is: change!.is }, context)
    expect(said).not.toMatch(/unknown|\{|\[object/)
    const file = writeCase(told)
    expect(readCase(file)).toEqual({ ok: true, read: told })
    expect(isCaseFile(JSON.parse(file)), JSON.stringify(isCaseFile.errors)).toBe(true)

    // And the plan moves.
    moved(row.moves, planned(before), planned(told))
  })

  it.each(COPY_KINDS)('each fact of a copy can be said of a copy of the kind %s', (kind) => {
    const facts = docketOf(caseWith({ ...phone(), 'copies.c1': { kind } })).flatMap(({ parts }) =>
      parts.flatMap((part) => part.facts),
    )
    for (const fact of ['exists', 'lies', 'covers', 'keepsFor', 'placeholders', 'holds.w1'])
      expect(facts).toContain(`copies.c1.${fact}`)
    expect(facts.includes('copies.c1.accountOf')).toBe(IN_AN_ACCOUNT.includes(kind))
  })
})

function moved(moves: Row['moves'], before: Plan, after: Plan): void {
  if ('hold' in moves) {
    const hold = after.holds.find(({ id }) => id === moves.hold)
    expect(hold).toBeDefined()
    expect(hold).not.toEqual(before.holds.find(({ id }) => id === moves.hold))
  } else if ('offers' in moves) {
    expect(before.options.map(({ id }) => id)).not.toContain(moves.offers)
    expect(optionOf(after, moves.offers).expected).toBeGreaterThan(0)
  } else if ('closes' in moves) {
    expect(optionOf(before, moves.closes).closes[1]).not.toBe(optionOf(after, moves.closes).closes[1])
    expect(optionOf(after, moves.closes).closes[1]).toContain(moves.by)
  } else if ('worth' in moves) {
    const [one, other] = [before.waiting.money, after.waiting.money]
    if (moves.worth === 'more') expect(other).toBeGreaterThan(one)
    else expect(other).toBeLessThan(one)
  } else if (Array.isArray(moves)) {
    const [id, figure, way] = moves as readonly [string, 'chance' | 'share' | 'harm', 'more' | 'less']
    const [one, other] = [figureOf(before, id, figure), figureOf(after, id, figure)]
    if (way === 'more') expect(other).toBeGreaterThan(one)
    else expect(other).toBeLessThan(one)
  }
}

it('a version 1 file is read as before, and written as version 2', () => {
  const old = JSON.stringify({
    format: 'russet-lantern/case',
    version: 1,
    loss: { how: 'formatted' },
    copies: [{ id: 'c1', kind: 'person', count: 9 }],
  })
  const read = readCase(old)
  expect(read.ok && read.read.copies[0]?.count).toBe(9)
  expect(read.ok && JSON.parse(writeCase(read.read))).toMatchObject({
    version: 2,
    copies: [{ id: 'c1', kind: 'person', count: 9 }],
  })
})
