import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { emptyCase } from '../../core/cases/shape/case'
import { readCase, writeCase } from '../../core/cases/facts/exchange'
import { MAX_NOTES, type RunReportInput } from '../../core/cases/shape/run'
import { DAY_MS, isoOf } from '../../core/cases/shape/moment'
import { defaultPlaybook } from '../../core/playbook/playbook'
import { fullPlanOf } from '../../core/ranking/explain/plan'
import { openDatabase, type Database } from '../db/open'
import { Failure } from '../failure'
import { findClients } from './clients'
import { historySince, readStored } from './rows'
import { openCases } from './summaries'
import { search } from './search'
import { changeFacts } from './writing/facts'
import type { RunMark } from '../../core/cases/facts/writing'
import { markRun } from './writing/run-sheet'
import { endRun, startRun } from './writing/runs'
import { importCase, logCase } from './writing/log'
import { markHold } from './writing/holds'
import { moveCase } from './writing/state'

const now = Date.UTC(2026, 10, 24, 10, 42)
const playbook = defaultPlaybook({ codePrefix: 'SL' })
const jory = { by: 'Jory', now }
const bram = { by: 'Bram', now: now + 60_000 }
const migrations = resolve(import.meta.dirname, '../db/migrations')

let folder: string
let database: Database

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'lantern-'))
  database = openDatabase(folder, migrations)
})
afterEach(() => {
  database.$client.close()
  rmSync(folder, { recursive: true })
})

const story = [
  { fact: 'client.name', is: 'Wilfreda Ashby' },
  { fact: 'client.phone', is: '01632 960 214' },
  { fact: 'authority.basis', is: 'own' },
  { fact: 'consent.lookThrough.answer', is: 'given' },
  { fact: 'devices.d1', is: { kind: 'phone', platform: 'closed-phone', lock: 'unlocked', condition: 'working' } },
  { fact: 'wanted.w1', is: { type: 'photos', count: 200 } },
  { fact: 'loss.how', is: 'deleted-in-bulk' },
  { fact: 'loss.when', is: { from: '2026-11-18T00:00:00Z', to: '2026-11-19T00:00:00Z' } },
]
const begin = () => logCase(database, story, playbook, jory).stored
const BIN = 'device-photo-bin:d1'
const found = (typed: string) => search(database, typed, 'owner', { zone: 'UTC', currency: 'GBP', now }).cases

function tickAll(code: string) {
  const { plan } = fullPlanOf(readStored(database, code).case, playbook, now)
  for (const hold of plan.holds) markHold(database, code, { hold: hold.id, mark: 'ticked', reason: '' }, bram)
}
const failure = (work: () => unknown): Failure['body'] => {
  try {
    work()
  } catch (error) {
    if (error instanceof Failure) return error.body
    throw error
  }
  throw new Error('it was not refused')
}
const report = (back: number, whole = back) => ({
  handsOnMinutes: 5,
  money: 0,
  results: [{ wanted: 'w1', back, whole, unverified: 0 }],
  failedOn: null,
  note: '',
})

describe('the database', () => {
  it('syncs every commit in full, with foreign keys on', () => {
    const pragma = (name: string) => database.$client.pragma(name, { simple: true })
    expect([pragma('journal_mode'), pragma('synchronous'), pragma('foreign_keys')]).toEqual(['wal', 2, 1])
  })

  it('opens again with everything in it', () => {
    const { case: logged } = begin()
    database.$client.close()
    database = openDatabase(folder, migrations)
    expect(readStored(database, logged.code).case).toEqual(logged)
  })
})

describe('logging', () => {
  it('gives each case its own code and its history an author', () => {
    expect(begin().case.code).toBe('SL-0001')
    expect(begin().case.code).toBe('SL-0002')
    const entries = historySince(database, 1, 0)
    expect(entries[0]).toMatchObject({ kind: 'logged', by: 'Jory', version: 1, at: '2026-11-24T10:42:00.000Z' })
    expect(entries).toHaveLength(story.length + 1)
  })

  it('a fault anywhere writes nothing at all', () => {
    const error = failure(() => logCase(database, [...story, { fact: 'limits.money', is: -1 }], playbook, jory))
    expect(error).toMatchObject({ code: 'invalid', fields: [{ path: 'limits.money' }] })
    expect(openCases(database, { playbook, now }, 'owner').cases).toEqual([])
    expect(findClients(database, 'Wilfreda')).toEqual([])
  })

  it('knows a returning client by name or by part of the number, and keeps one card', () => {
    const first = begin()
    const second = begin()
    expect(second.case.client.id).toBe(first.case.client.id)
    expect(findClients(database, '960214')).toMatchObject([{ name: 'Wilfreda Ashby', cases: 2 }])
    expect(findClients(database, 'ashb')).toHaveLength(1)
    expect(findClients(database, '%')).toEqual([])
    expect(findClients(database, '__')).toEqual([])
  })
})

describe('two people on one case', () => {
  it('lose nothing where they set different facts', () => {
    const { case: logged, version } = begin()
    changeFacts(database, logged.code, version, [{ fact: 'limits.money', is: 90 }], jory)
    const { stored, clashes } = changeFacts(
      database,
      logged.code,
      version,
      [{ fact: 'loss.noticed', is: { from: '2026-11-20T00:00:00Z', to: '2026-11-20T12:00:00Z' } }],
      bram,
    )
    expect(clashes).toEqual([])
    expect(stored.case.limits.money).toBe(90)
    expect(stored.version).toBe(3)
  })

  it('are asked where they set the same fact differently', () => {
    const { case: logged, version } = begin()
    changeFacts(database, logged.code, version, [{ fact: 'limits.money', is: 90 }], jory)
    const { stored, clashes } = changeFacts(
      database,
      logged.code,
      version,
      [
        { fact: 'limits.money', is: 60 },
        { fact: 'limits.seenBy', is: 'us-only' },
      ],
      bram,
    )
    expect(clashes).toEqual([{ fact: 'limits.money', yours: 60, theirs: 90, by: 'Jory' }])
    expect(stored.case.limits).toMatchObject({ money: 90, seenBy: 'us-only' })
  })

  it('agree where they clear the same hold, and the first recording of a run is kept', () => {
    const { case: logged } = begin()
    tickAll(logged.code)
    const ticks = historySince(database, 1, 0).filter((entry) => entry.kind === 'hold').length
    tickAll(logged.code)
    expect(historySince(database, 1, 0).filter((entry) => entry.kind === 'hold')).toHaveLength(ticks)
    startRun(database, logged.code, BIN, playbook, bram)
    endRun(database, logged.code, 'r1', report(120), bram)
    expect(failure(() => endRun(database, logged.code, 'r1', report(10), jory))).toMatchObject({ code: 'refused' })
    expect(readStored(database, logged.code).case.runs[0]!.results[0]!.back).toBe(120)
  })

  it('who recorded a consent and who saw a proof is written by the server, whatever a page sends', () => {
    const { case: logged } = begin()
    const set = (changes: Record<string, unknown>) => {
      const { version } = readStored(database, logged.code)
      const all = Object.entries(changes).map(([fact, is]) => ({ fact, is }))
      return changeFacts(database, logged.code, version, all, bram).stored.case
    }
    set({ 'authority.basis': 'estate', 'authority.proof': 'letter', 'consent.erase.answer': 'given' })
    const forged = { answer: 'given', by: 'Jory', at: '2026-01-01T00:00:00Z' }
    const after = set({
      authority: {
        basis: 'estate',
        proof: 'letter',
        whose: 'her brother',
        seenBy: 'Jory',
        seenAt: '2026-01-01T00:00:00Z',
      },
      'consent.erase': forged,
    })
    const at = new Date(bram.now).toISOString()
    expect(after.authority).toMatchObject({ whose: 'her brother', seenBy: 'Bram', seenAt: at })
    expect(after.consent.erase).toMatchObject({ answer: 'given', by: 'Bram', at })
    // Without a proof that was seen, nobody saw one.
    expect(set({ 'authority.proof': 'none' }).authority).not.toHaveProperty('seenBy')
  })

  it('a version from the future is refused', () => {
    const { case: logged } = begin()
    expect(
      failure(() => changeFacts(database, logged.code, 99, [{ fact: 'limits.money', is: 1 }], jory)),
    ).toMatchObject({ code: 'invalid' })
  })
})

describe('holds and runs', () => {
  it('a route does not start before its holds are ticked, or waived with a reason', () => {
    const { case: logged } = begin()
    expect(failure(() => startRun(database, logged.code, BIN, playbook, bram))).toMatchObject({
      code: 'refused',
      fields: [{ path: 'holds.stop-using' }],
    })
    expect(
      failure(() => markHold(database, logged.code, { hold: 'stop-using', mark: 'waived', reason: ' ' }, bram)),
    ).toMatchObject({ code: 'invalid' })
    markHold(database, logged.code, { hold: 'stop-using', mark: 'waived', reason: 'It is a spare.' }, bram)
    const { stored } = startRun(database, logged.code, BIN, playbook, bram)
    expect(stored.case.state.name).toBe('at-bench')
    expect(stored.case.runs[0]!.predicted!.chance).toBeGreaterThan(0.8)
  })

  it('a second run starts beside a first that waits; the same route does not, nor a closed one', () => {
    const { case: logged } = begin()
    tickAll(logged.code)
    startRun(database, logged.code, BIN, playbook, bram)
    expect(failure(() => startRun(database, logged.code, BIN, playbook, bram)).message).toContain('already under way')
    const later = { ...bram, now: bram.now + 20 * 60_000 }
    const { stored } = startRun(database, logged.code, 'look-on-phone:d1', playbook, later)
    expect(stored.case.runs.map(({ clock }) => clock)).toMatchObject([
      { phase: 'waiting', handsOnMs: 20 * 60_000 },
      { phase: 'hands-on', handsOnMs: 0 },
    ])
    expect(failure(() => startRun(database, logged.code, 'safety-copy:d1', playbook, bram)).code).toBe('refused')
    endRun(database, logged.code, 'r1', report(0), bram)
    expect(failure(() => startRun(database, logged.code, BIN, playbook, bram)).message).toContain('closed')
    expect(failure(() => startRun(database, logged.code, 'no-such:d1', playbook, bram)).code).toBe('refused')
  })

  it('what erases the device needs the safety copy and the consent, whatever the page says', () => {
    const { case: logged } = begin()
    changeFacts(
      database,
      logged.code,
      1,
      [
        {
          fact: 'copies.c1',
          is: {
            kind: 'computer-backup',
            encrypted: 'no',
            taken: { from: '2026-11-17T00:00:00Z', to: '2026-11-17T00:00:00Z' },
          },
        },
      ],
      bram,
    )
    tickAll(logged.code)
    const restore = () => startRun(database, logged.code, 'computer-backup-full:c1', playbook, bram)
    expect(failure(restore).message).toContain('safety copy')
    const safetyRun = (run: string, more: Partial<RunReportInput>) => {
      startRun(database, logged.code, 'safety-copy:d1', playbook, bram)
      return endRun(database, logged.code, run, { ...report(0), results: [], ...more }, bram)
    }
    // An empty form says nothing, and is not taken; the run stays open.
    expect(failure(() => safetyRun('r1', {})).fields[0]!.path).toBe('report.safetyCopy')
    // One that failed, or could not begin, is reported as such, and unlocks nothing.
    endRun(database, logged.code, 'r1', { ...report(0), results: [], hasFailed: true }, bram)
    expect(failure(restore).message).toContain('safety copy')
    safetyRun('r2', { failedOn: 'working' })
    expect(failure(restore).message).toContain('safety copy')
    safetyRun('r3', { safetyCopy: { isReadBack: true, place: 'disk 4, folder Oxley', items: 812 } })
    expect(failure(restore).message).toContain('consent')
    changeFacts(
      database,
      logged.code,
      readStored(database, logged.code).version,
      [{ fact: 'consent.erase.answer', is: 'given' }],
      bram,
    )
    expect(restore().stored.case.runs).toHaveLength(4)
  })

  it('a run that names a strange wanted set is refused and stays open', () => {
    const { case: logged } = begin()
    tickAll(logged.code)
    startRun(database, logged.code, BIN, playbook, bram)
    expect(
      failure(() =>
        endRun(
          database,
          logged.code,
          'r1',
          { ...report(3), results: [{ wanted: 'w9', back: 3, whole: 3, unverified: 0 }] },
          bram,
        ),
      ).code,
    ).toBe('invalid')
    expect(readStored(database, logged.code).case.runs[0]!.ended).toBeNull()
  })

  it('a run sheet is ticked, timed and noted by two people, and each of it is in the history', () => {
    const { case: logged } = begin()
    tickAll(logged.code)
    startRun(database, logged.code, BIN, playbook, bram)
    const mark = (one: RunMark, writer = bram) => markRun(database, logged.code, 'r1', one, playbook, writer).stored
    mark({ line: 'gate:passcode', isDone: true })
    mark({ line: 'step:0', isDone: true }, jory)
    mark({ phase: 'waiting' }, { ...bram, now: bram.now + 5 * 60_000 })
    const { case: marked, version } = mark({ note: 'The bin asks for the passcode again.' }, jory)
    expect(marked.runs[0]).toMatchObject({
      checks: [
        { line: 'gate:passcode', by: 'Bram' },
        { line: 'step:0', by: 'Jory' },
      ],
      clock: { phase: 'waiting', handsOnMs: 5 * 60_000 },
      notes: [{ by: 'Jory', text: 'The bin asks for the passcode again.' }],
    })
    // The same again changes nothing and leaves no entry.
    expect(mark({ line: 'gate:passcode', isDone: true }).version).toBe(version)
    expect(mark({ phase: 'waiting' }).version).toBe(version)
    expect(mark({ line: 'gate:passcode', isDone: false }).case.runs[0]!.checks).toHaveLength(1)
    expect(historySince(database, 1, 0).filter(({ kind }) => kind === 'run-sheet')).toHaveLength(5)
    expect(failure(() => mark({ line: 'step:15', isDone: true })).message).toContain('no such line')
    endRun(database, logged.code, 'r1', report(0), bram)
    expect(failure(() => mark({ phase: 'hands-on' })).code).toBe('refused')
    expect(readStored(database, logged.code).case.runs[0]!.clock!.phase).toBe('off')
  })

  it('a run holds only so many notes, and says so', () => {
    const { case: logged } = begin()
    tickAll(logged.code)
    startRun(database, logged.code, BIN, playbook, bram)
    const note = () => markRun(database, logged.code, 'r1', { note: 'x' }, playbook, bram)
    for (let at = 0; at < MAX_NOTES; at++) note()
    expect(failure(note)).toMatchObject({ code: 'refused', message: expect.stringContaining('What is noted is kept') })
  })

  it('a failed run says why; where time ran out, the route stays open', () => {
    const { case: logged } = begin()
    tickAll(logged.code)
    const tryOnce = (run: string, more: Partial<RunReportInput>) => {
      startRun(database, logged.code, BIN, playbook, bram)
      const { stored } = endRun(database, logged.code, run, { ...report(0), results: [], ...more }, bram)
      return fullPlanOf(stored.case, playbook, now).plan.options.find(({ id }) => id === BIN)!
    }
    expect(tryOnce('r1', { cause: 'out-of-time' }).standing).toBe('plan')
    expect(tryOnce('r2', { cause: 'overwritten' })).toMatchObject({
      standing: 'closed',
      says: expect.stringContaining('it recovered nothing (overwritten)'),
    })
    expect(readStored(database, logged.code).case.runs).toMatchObject([
      { cause: 'out-of-time', hasFailed: true, failedOn: null },
      { cause: 'overwritten', hasFailed: true, failedOn: null },
    ])
  })

  it('a condition that was not met has to be named', () => {
    const { case: logged } = begin()
    tickAll(logged.code)
    startRun(database, logged.code, BIN, playbook, bram)
    const end = (more: Partial<RunReportInput>) =>
      endRun(database, logged.code, 'r1', { ...report(0), results: [], ...more }, bram)
    expect(failure(() => end({ cause: 'gate' })).fields[0]!.path).toBe('report.failedOn')
    expect(end({ failedOn: 'passcode', hasFailed: true }).stored.case.runs[0]).toMatchObject({
      cause: 'gate',
      failedOn: 'passcode',
      hasFailed: false,
    })
  })

  it('the plan continues with what is still missing', () => {
    const { case: logged } = begin()
    tickAll(logged.code)
    startRun(database, logged.code, BIN, playbook, bram)
    const { stored } = endRun(database, logged.code, 'r1', report(150, 140), bram)
    const full = fullPlanOf(stored.case, playbook, now)
    expect(full.sets[0]!.share[0]).toBeGreaterThanOrEqual(0.7)
    expect(full.plan.order).not.toContain(BIN)
  })
})

describe('moves', () => {
  it('follow the rules of the core, and say who changed it in the meantime', () => {
    const { case: logged, version } = begin()
    moveCase(database, logged.code, { version, to: 'waiting', waitingFor: 'client', reason: '' }, jory)
    expect(
      failure(() => moveCase(database, logged.code, { version, to: 'at-bench', waitingFor: null, reason: '' }, bram)),
    ).toMatchObject({ code: 'clash', message: expect.stringContaining('Jory') })
    const seen = readStored(database, logged.code).version
    expect(
      failure(() =>
        moveCase(database, logged.code, { version: seen, to: 'closed', waitingFor: null, reason: '' }, bram),
      ).code,
    ).toBe('refused')
    expect(
      moveCase(database, logged.code, { version: seen, to: 'closed', waitingFor: null, reason: 'Found at home.' }, bram)
        .stored.case.state.name,
    ).toBe('closed')
    expect(openCases(database, { playbook, now }, 'owner').cases).toEqual([])
    expect(found('ashby')).toHaveLength(1)
  })

  it('a case is uncollected two weeks after it was ready', () => {
    const { case: logged, version } = begin()
    const ready = moveCase(
      database,
      logged.code,
      { version, to: 'at-bench', waitingFor: null, reason: '' },
      jory,
    ).stored
    moveCase(
      database,
      logged.code,
      { version: ready.version, to: 'ready', waitingFor: null, reason: 'Found at home.' },
      jory,
    )
    const late = { by: 'Bram', now: now + 15 * DAY_MS }
    const seen = readStored(database, logged.code).version
    expect(
      failure(() =>
        moveCase(database, logged.code, { version: seen, to: 'uncollected', waitingFor: null, reason: '' }, bram),
      ).code,
    ).toBe('refused')
    expect(
      moveCase(database, logged.code, { version: seen, to: 'uncollected', waitingFor: null, reason: '' }, late).stored
        .case.state.name,
    ).toBe('uncollected')
  })
})

describe('case files', () => {
  it('come in as a case of this shop with all that they hold', () => {
    const { case: logged } = begin()
    tickAll(logged.code)
    startRun(database, logged.code, BIN, playbook, bram)
    const { stored } = endRun(database, logged.code, 'r1', report(150), bram)
    const file = readCase(writeCase(stored.case))
    if (!file.ok) throw new Error('the file is faulty')
    expect(failure(() => importCase(database, file.read, playbook, jory)).message).toContain('here already, as SL-0001')
    const elsewhere = openDatabase(join(folder, 'elsewhere'), migrations)
    const { stored: brought } = importCase(elsewhere, file.read, playbook, jory)
    expect(brought.case).toEqual({
      ...stored.case,
      client: { ...stored.case.client, id: brought.case.client.id },
      with: null,
      // The odds learn from this shop's own runs.
      runs: [{ ...stored.case.runs[0], leftOut: { reason: 'ended in another shop', by: 'Jory', at: isoOf(now) } }],
    })
    expect(historySince(elsewhere, brought.id, 0)).toMatchObject([{ kind: 'imported', by: 'Jory' }])
    elsewhere.$client.close()
  })
})

describe('finding and the counter', () => {
  it('finds by name, code and number however it was typed, and takes no sign for a pattern', () => {
    begin()
    for (const typed of ['wilfreda', 'SL-0001', '0001', '01632 960', '(960) 214', '960-214'])
      expect(found(typed), typed).toHaveLength(1)
    for (const typed of ['%', '_', "' or 1=1 --", 'nobody']) expect(found(typed), typed).toEqual([])
  })

  it('the case with the earliest deadline comes first', () => {
    begin()
    logCase(
      database,
      [
        ...story.slice(2),
        { fact: 'client.name', is: 'Later' },
        { fact: 'limits.deadline', is: { from: '2026-11-24T16:00:00Z', to: '2026-11-24T17:00:00Z' } },
      ],
      playbook,
      jory,
    )
    logCase(database, [{ fact: 'client.name', is: 'Nothing yet' }], playbook, jory)
    expect(openCases(database, { playbook, now }, 'owner').cases.map((one) => one.client)).toEqual([
      'Later',
      'Wilfreda Ashby',
      'Nothing yet',
    ])
  })

  it('an empty case is a line like any other', () => {
    logCase(database, [], playbook, jory)
    expect(openCases(database, { playbook, now }, 'owner').cases[0]).toMatchObject({
      client: 'No name yet',
      wanted: 'not said yet',
      nextStep: 'enter what is wanted',
      closes: [null, null],
    })
    expect(readStored(database, 'SL-0001').case.devices).toEqual(emptyCase().devices)
  })
})
