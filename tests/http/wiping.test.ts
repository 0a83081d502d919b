import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest'
import type { AfterwardsAnswer, AfterwardsList } from '../../core/afterwards/record'
import type { ArrivingBatch } from '../../core/bench/batch'
import { Case } from '../../core/cases/shape/case'
import { CASE_TEXTS } from '../../core/cases/facts/texts'
import { writeCase } from '../../core/cases/facts/exchange'
import { accountOf } from '../../core/cases/shape/money'
import { markedCase, markOf } from '../../core/testing/marked-case'
import { runLantern } from '../../cli/program'
import { openShop, type Technician } from '../support/carry'
import { Client } from '../support/client'
import { LOST_PHOTOS } from '../support/cases'
import { Server } from '../support/server'

let tech: Technician
let owner: Client
beforeAll(async () => void (tech = await openShop()))
/** Whenever the server was started anew, its clock begins again, and earlier sessions have ended. */
async function signIn() {
  owner = await new Client(tech.server.address).signIn('ottilie')
  tech.request = await new Client(tech.server.address).signIn('bram')
}
beforeEach(signIn)
let later: Server | null = null
afterAll(async () => {
  await later?.stop('SIGKILL')
  await tech.server.remove()
})

const at = (code: string, rest = '') => `/api/cases/${code}${rest}`
const afterwards = (code: string) => tech.ask<AfterwardsAnswer>('GET', at(code, '/afterwards'))
const wipe = (code: string, part: 'data' | 'person', by = owner, reason = '') =>
  by.post(at(code, '/afterwards'), { data: { do: 'wipe', part, code, reason } })
const DAY = 24 * 60

/** Marks beside those in the document of the case: names and contents of files, a passcode, what the history said. */
const MARKS = {
  file: 'MarkFileZq.txt',
  folder: 'MarkFolderZq',
  content: 'MarkContentZq',
  photo: 'MarkPhotoZq',
  paper: 'MarkPaperZq',
  passcode: 'MarkPasscodeZq7',
  typed: 'MarkTypedZq',
  image: 'MarkImageZq',
  secretOfOther: 'MarkOtherZq',
}
/** What stays until the date of the person: the signed paper, beside the texts of the case that say so. */
const OF_PERSON = [MARKS.paper, ...CASE_TEXTS.filter(({ end }) => end === 'person').map(({ path }) => markOf(path))]
const ALL = [...Object.values(MARKS), ...CASE_TEXTS.map(({ path }) => markOf(path))].filter(
  (mark) => mark !== MARKS.secretOfOther,
)

/** The marks that are in any file below a folder, by name or content, or in what the server wrote to its log. */
function marksLeft(): string[] {
  const texts = [Buffer.from(tech.server.log)]
  for (const name of readdirSync(tech.server.data, { recursive: true, encoding: 'utf8' })) {
    texts.push(Buffer.from(name))
    const path = join(tech.server.data, name)
    if (statSync(path).isFile()) texts.push(readFileSync(path))
  }
  return ALL.filter((mark) =>
    texts.some((bytes) => bytes.includes(mark, 0, 'utf8') || bytes.includes(mark, 0, 'utf16le')),
  ).sort()
}

/** A case of which everything bears a mark, in the shop and through its whole work. */
async function marked(): Promise<string> {
  const whole = markedCase()
  const given = Case.parse({
    ...whole,
    state: { name: 'at-bench', since: whole.state.since },
    freezes: [],
    outcome: null,
    agreements: whole.agreements.map((one) => ({ ...one, takenBack: null })),
    money: {
      ...whole.money,
      charges: [...whole.money.charges, { ...whole.money.charges[0]!, id: 'p2', cancelled: null }],
    },
  })
  const { case: stored } = await tech.ask<{ case: Case }>('POST', '/api/cases/import', { text: writeCase(given) })
  const { code } = stored
  const content = Buffer.from(`${MARKS.content} `.repeat(200))
  const begun = await tech.ask<ArrivingBatch>('POST', at(code, '/bench/batches'), {
    run: null,
    files: [{ path: [MARKS.folder, MARKS.file], bytes: content.length, changed: 0 }],
  })
  await tech.request.put(at(code, `/bench/batches/${begun.id}/files/0?from=0`), { data: content })
  const { link } = await tech.ask<{ link: string }>('POST', at(code, `/bench/batches/${begun.id}`))
  const listing = await tech.list(code, link, '*')
  expect(await tech.toShelf(code, listing, {})).toHaveLength(1)
  mkdirSync(join(tech.server.data, 'media'), { recursive: true })
  writeFileSync(join(tech.server.data, 'media', `${MARKS.image}.img`), content)
  const media = await tech.ask<{ media: { id: string; title: string }[] }>('GET', '/api/bench/media')
  await tech.attach(code, 'd1', media.media.find(({ title }) => title.includes(MARKS.image))!.id)
  const png = readFileSync('core/testing/format-samples/plan.png')
  for (const [kind, name] of [
    ['photo', MARKS.photo],
    ['paper', MARKS.paper],
  ] as const)
    expect(
      (
        await tech.request.post(at(code, `/attachments?kind=${kind}&part=&name=${name}`), {
          data: Buffer.concat([png, Buffer.from(name)]),
        })
      ).ok,
    ).toBe(true)
  await tech.ask('POST', at(code, '/secrets'), { part: 'd1', kind: 'passcode', value: MARKS.passcode })
  // What was typed and replaced is in the history, and in pages of the database that were written before.
  await tech.set(code, { 'wanted.w1.names': MARKS.typed })
  await tech.set(code, { 'wanted.w1.names': markOf('wanted.*.names') })
  await tech.ask('POST', at(code, '/hand-over'), {
    version: 0,
    write: { do: 'outcome', ending: 'in-part', reasons: markOf('outcome.reasons'), delivered: [] },
  })
  for (const kind of ['options', 'report', 'annex']) await tech.ask('POST', at(code, '/papers'), { kind })
  await tech.ask('GET', `/api/search?q=${MARKS.file}`)
  return code
}

test('wiped means gone: of a case whose every text bears a mark nothing is left but what the person’s date holds, and then nothing', async () => {
  const code = await marked()
  const before = marksLeft()
  for (const mark of [MARKS.file, MARKS.content, MARKS.photo, MARKS.image, markOf('runs.*.notes.*.text')])
    expect(before).toContain(mark)
  // The passcode is encrypted, and what the history says, too.
  expect(before).not.toContain(MARKS.passcode)

  const move = async (to: string, reason: string) => {
    const { version } = await tech.ask<{ version: number }>('GET', at(code))
    await tech.ask('POST', at(code, '/move'), { version, to, waitingFor: null, reason })
  }
  await move('ready', markOf('state.reason'))
  const notYet = await wipe(code, 'data')
  expect([notYet.status, ((await notYet.json()) as { message: string }).message]).toEqual([
    409,
    expect.stringContaining('The case goes on'),
  ])
  await move('handed-over', markOf('state.reason'))
  const { money } = (await tech.ask<{ case: Case }>('GET', at(code))).case
  expect(accountOf(money).open).toBe(20)

  // Nobody has paid: the date alone wipes nothing, it asks.
  await tech.pass(31 * DAY)
  expect((await afterwards(code)).standings[0]).toMatchObject({ part: 'data', state: 'asks', asks: ['unpaid'] })
  owner = await new Client(tech.server.address).signIn('ottilie')
  const asking = (await (await owner.get('/api/afterwards')).json()) as AfterwardsList
  expect(asking.asks.map((one) => one.code)).toContain(code)
  expect(await tech.ask('GET', '/api/cases')).toMatchObject({ asks: 1 })
  expect((await wipe(code, 'data', tech.request)).status).toBe(409)
  expect(
    (await owner.post(at(code, '/afterwards'), { data: { do: 'wipe', part: 'data', code: 'SL-0001' } })).status,
  ).toBe(400)
  await tech.ask('POST', at(code, '/hand-over'), {
    version: 0,
    write: { do: 'pay', kind: 'payment', amount: 20, way: 'cash' },
  })

  // A clock that is set on by itself: its date has come.
  await tech.pass(1)
  const done = await afterwards(code)
  expect(done.standings.map(({ state }) => state)).toEqual(['wiped', 'later'])
  expect(done.records).toMatchObject([
    { part: 'data', by: null, why: 'date', counts: { sheets: 3, items: 2, pictures: 1 } },
  ])
  expect(Date.parse(done.records[0]!.backupsUntil)).toBeGreaterThan(Date.parse(done.records[0]!.at))
  expect(marksLeft()).toEqual(OF_PERSON.toSorted())
  expect((await tech.request.post(at(code, '/bench/batches'), { data: { run: null, files: [] } })).ok).toBe(false)
  expect(
    (await tech.refused('POST', at(code, '/move'), { version: 0, to: 'at-bench', reason: 'again' })).message,
  ).toContain('wiped')
  const { cases } = await tech.ask<{ cases: { code: string }[] }>('GET', `/api/search?q=${markOf('client.name')}`)
  expect(cases.map((one) => one.code)).toEqual([code])

  const log = (await (await owner.get('/api/people/log')).json()) as {
    entries: { event: string; by: string | null; about: string }[]
  }
  expect(log.entries.find(({ event }) => event === 'data-wiped')).toMatchObject({ by: null, about: code })

  // The name: owners only, by hand here, years before its date.
  expect((await wipe(code, 'person', tech.request)).status).toBe(403)
  expect((await wipe(code, 'person')).status).toBe(200)
  expect(marksLeft()).toEqual([])
  const bare = (await tech.ask<{ case: Case }>('GET', at(code))).case
  expect([bare.client.name, bare.client.id, bare.runs[0]!.results[0]!.back]).toEqual(['unknown', null, 7])
  expect(bare.things.flatMap(({ steps }) => steps.map(({ signature }) => signature))).toEqual([null, null])
  const history = await tech.ask<{ isWiped: boolean; kind: string; at: string }[]>('GET', at(code, '/history'))
  expect(history.filter(({ isWiped }) => !isWiped).map(({ kind }) => kind)).toEqual(['wiped'])
  await tech.server.stop()
  expect(marksLeft()).toEqual([])
  let said = ''
  expect(
    await runLantern(['verify', '--data', tech.server.data], {
      out: (text) => (said += text),
      err: (text) => (said += text),
    }),
  ).toBe(0)
  expect(said).toContain('entries fit')
  await tech.server.start()
}, 60_000)

/** A case of one note, closed. */
async function closed(says: string): Promise<string> {
  const code = await tech.log({
    'client.name': 'Edda Rook',
    'client.phone': '01632 960 111',
    'devices.d1': { kind: 'phone' },
  })
  await tech.ask('POST', at(code, '/hand-over'), { version: 0, write: { do: 'contact', way: 'called', says } })
  const { version } = await tech.ask<{ version: number }>('GET', at(code))
  await tech.ask('POST', at(code, '/move'), { version, to: 'closed', waitingFor: null, reason: 'found at home' })
  return code
}
const saysOf = async (code: string) =>
  (await tech.ask<{ case: Case }>('GET', at(code))).case.contacts.map(({ says }) => says)
const FILE = 'lantern.sqlite'

test('a database put back from before a wipe is wiped again before the shop opens; a wipe that was cut off is finished', async () => {
  const code = await closed('she likes herons')
  await tech.server.stop()
  const [database, backup] = [join(tech.server.data, FILE), readFileSync(join(tech.server.data, FILE))]
  await tech.server.start()
  await signIn()
  expect((await wipe(code, 'data', tech.request)).status).toBe(200)
  expect(await saysOf(code)).toEqual(['wiped'])
  await tech.server.stop()
  writeFileSync(database, backup)
  await tech.server.start()
  await signIn()
  expect(await saysOf(code)).toEqual(['wiped'])
  expect((await afterwards(code)).records).toMatchObject([{ why: 'restored', by: null }])

  const left = join(tech.server.data, 'shelf', code)
  mkdirSync(left, { recursive: true })
  writeFileSync(join(left, 'left.txt'), 'x')
  await tech.server.stop('SIGKILL')
  const client = new Sqlite(database)
  client
    .prepare(
      "update wipes set body = json_set(body, '$.isDone', json('false'), '$.left', json(?)) where case_id = (select id from cases where code = ?)",
    )
    .run(JSON.stringify([left]), code)
  client.close()
  await tech.server.start()
  expect(readdirSync(join(tech.server.data, 'shelf'))).not.toContain(code)
})

test('a case that is stopped is not wiped, one that is kept longer later, and after a jump of the clock nothing before an owner looked', async () => {
  const [stopped, kept, plain] = [await closed('one'), await closed('two'), await closed('three')]
  const { now } = await tech.ask<{ now: string }>('GET', '/api/session')
  const inDays = (days: number) => new Date(Date.parse(now) + days * DAY * 60_000).toISOString()
  await tech.ask('POST', at(kept, '/afterwards'), { do: 'keep', until: inDays(120) })
  await tech.ask('POST', at(stopped, '/hand-over'), {
    version: 0,
    write: { do: 'freeze', cause: 'illegal', says: 'x' },
  })
  await tech.server.stop()
  later = new Server({ LANTERN_DATA: tech.server.data, LANTERN_NOW: inDays(90) })
  await later.start()
  const boss = await new Client(later.address).signIn('ottilie')
  const list = async (method: 'GET' | 'POST', path: string) =>
    (await (await boss.fetch(path, method)).json()) as AfterwardsList
  const before = await list('GET', '/api/afterwards')
  expect(before.clockJumpedFrom).not.toBeNull()
  expect(before.next.filter(({ code }) => code === plain).map(({ part, state }) => [part, state])).toEqual([
    ['data', 'due'],
  ])
  expect(before.asks.map(({ code, stop }) => [code, stop])).toContainEqual([stopped, 'stopped'])
  const after = await list('POST', '/api/afterwards/clock')
  expect(after.clockJumpedFrom).toBeNull()
  expect(after.records.map(({ code }) => code)).toContain(plain)
  for (const code of [stopped, kept]) expect(after.records.map((one) => one.code)).not.toContain(code)
  expect(
    (await boss.post(at(stopped, '/afterwards'), { data: { do: 'wipe', part: 'data', code: stopped } })).status,
  ).toBe(409)
  await later.stop()
  await tech.server.start()
})

test('a passcode is noted encrypted, read only at the bench, and gone with its run', async () => {
  const counter = await new Client(tech.server.address).signIn('jory')
  const code = await tech.log(LOST_PHOTOS)
  const note = (part: string) =>
    counter.post(at(code, '/secrets'), { data: { part, kind: 'passcode', value: '4711 heron' } })
  expect((await note('d7')).status).toBe(400)
  const [secret] = (await (await note('d1')).json()) as { id: number; part: string }[]
  expect(secret).toMatchObject({ part: 'd1', kind: 'passcode' })
  expect(JSON.stringify(secret)).not.toContain('4711')
  const path = at(code, `/secrets/${secret!.id}`)
  expect((await counter.post(path)).status).toBe(403)
  expect(await tech.ask('POST', path)).toEqual({ value: '4711 heron' })
  const history = await tech.ask<{ is: { says?: string } }[]>('GET', at(code, '/history'))
  expect(history.map(({ is }) => is?.says).filter(Boolean)).toEqual([
    'noted the passcode of d1',
    'looked at the passcode of d1',
  ])
  const run = await tech.begin(code, 'device-photo-bin:d1')
  await tech.end(code, run, [{ wanted: 'w1', back: 3, whole: 3 }])
  expect(await tech.ask('GET', at(code, '/secrets'))).toEqual([])
})
