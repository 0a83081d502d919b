import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { execFileSync } from 'node:child_process'
import { parse } from 'csv-parse/sync'
import ical from 'node-ical'
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { Attachment } from '../../core/handover/attachment'
import type { HandoverAnswer } from '../../core/handover/answers'
import type { CaseListAnswer } from '../../core/exchange/case-list'
import { guessColumns } from '../../core/exchange/case-list'
import type { ClientAnswer } from '../../core/exchange/client-answer'
import { Case } from '../../core/cases/shape/case'
import { writeCase } from '../../core/cases/facts/exchange'
import { markedCase, markOf } from '../../core/testing/marked-case'
import { openShop, type Technician } from '../support/carry'
import { LOST_PHOTOS } from '../support/cases'
import { Client } from '../support/client'

let tech: Technician
let other: Technician
let owner: Client
let counter: Client
const folder = mkdtempSync(join(tmpdir(), 'lantern-exchange-'))
beforeAll(async () => {
  ;[tech, other] = await Promise.all([openShop(), openShop()])
  owner = await new Client(tech.server.address).signIn('ottilie')
  counter = await new Client(tech.server.address).signIn('jory')
})
afterAll(async () => {
  rmSync(folder, { recursive: true })
  await Promise.all([tech.server.remove(), other.server.remove()])
})

const at = (code: string, rest = '') => `/api/cases/${code}${rest}`
const caseOf = async (who: Technician, code: string) => (await who.ask<{ case: Case }>('GET', at(code))).case
const hand = (code: string, write: object) => tech.ask('POST', at(code, '/hand-over'), { version: 0, write })
const strokes = [Array.from({ length: 12 }, (_, index) => [index * 9, (index % 3) * 11])]
const bytesOf = async (answer: Response) => Buffer.from(await answer.arrayBuffer())
/** The files of a zip archive, read by an ordinary tool. */
function unzipped(zip: Buffer, name: string): Map<string, Buffer> {
  const [path, to] = [join(folder, `${name}.zip`), join(folder, name)]
  writeFileSync(path, zip)
  execFileSync('python3', ['-c', 'import sys,zipfile; zipfile.ZipFile(sys.argv[1]).extractall(sys.argv[2])', path, to])
  const files = readdirSync(to, { recursive: true, encoding: 'utf8', withFileTypes: true }).filter((one) =>
    one.isFile(),
  )
  return new Map(
    files.map((one) => [
      join(one.parentPath, one.name).slice(to.length + 1),
      readFileSync(join(one.parentPath, one.name)),
    ]),
  )
}

async function signedCase(): Promise<string> {
  const code = await tech.log({ ...LOST_PHOTOS, 'client.name': 'Edda Rook', 'client.mail': 'edda@example.invalid' })
  const { id: signature } = await tech.ask<Attachment>('POST', at(code, '/attachments/signature'), {
    signature: { width: 300, height: 100, strokes },
    name: 'Edda Rook',
  })
  const thing = { part: 'd1', words: 'Korvane 7', serial: 'KV-1', condition: 'cracked', accessories: '' }
  await hand(code, { do: 'receive', things: [thing], place: 'drawer 4', person: 'Edda Rook' })
  const { papers } = await tech.ask<HandoverAnswer>('GET', at(code, '/hand-over'))
  expect(papers).toHaveLength(1)
  await hand(code, { do: 'charge', run: null, words: '=SUM(A1:A9)', amount: 35 })
  await hand(code, { do: 'pay', kind: 'payment', amount: 35, way: 'cash' })
  await hand(code, { do: 'give-back', things: ['t1'], person: 'Edda Rook', against: 'known-here', signature })
  return code
}

test('a bundle holds the whole case; another shop imports it once, with its identity, history, sheets and signatures', async () => {
  const code = await signedCase()
  const bundle = await bytesOf(await tech.request.get(at(code, '/bundle')))
  const files = unzipped(bundle, 'bundle')
  expect([...files.keys()].sort().map((name) => name.replace(/\d+\.svg$/, 'N.svg'))).toEqual(
    ['attachments.json', 'attachments/N.svg', 'bundle.json', 'case.json', 'history.json', 'sheets.json'].map(
      (one) => `${code}/${one}`,
    ),
  )
  const send = (bytes: Buffer) => other.request.post('/api/cases/import/bundle', { data: bytes })
  const { case: here } = (await (await send(bundle)).json()) as { case: Case }
  const there = await caseOf(tech, code)
  expect([here.identity, here.client.name, here.money]).toEqual([there.identity, 'Edda Rook', there.money])
  const { signature } = here.things[0]!.steps.at(-1)!
  const drawn = await bytesOf(await other.request.get(at(here.code, `/attachments/${signature}`)))
  expect(drawn).toEqual([...files].find(([name]) => name.endsWith('.svg'))![1])
  const { papers } = await other.ask<HandoverAnswer>('GET', at(here.code, '/hand-over'))
  expect(papers.map(({ kind }) => kind).sort()).toEqual(['paid', 'received', 'returned'])
  const history = await other.ask<{ kind: string; is: { before: unknown[] } }[]>('GET', at(here.code, '/history'))
  expect(history[0]).toMatchObject({ kind: 'imported' })
  expect(history[0]!.is.before.length).toBeGreaterThan(8)
  // Receipts of the other shop leave no gap in the numbers of this one.
  await other.ask('POST', at(here.code, '/hand-over'), {
    version: 0,
    write: { do: 'pay', kind: 'refund', amount: 5, way: 'cash' },
  })
  expect((await caseOf(other, here.code)).money.payments.map(({ receipt }) => receipt)).toEqual([
    'R-2026-0001',
    'R-2026-0001',
  ])
  expect(((await (await send(bundle)).json()) as { message: string }).message).toContain(
    `here already, as ${here.code}`,
  )
})

test('a bundle that was changed, is half, holds a program or is none is refused with the reason, and leaves nothing', async () => {
  const code = await signedCase()
  const bundle = await bytesOf(await tech.request.get(at(code, '/bundle')))
  const { total } = await other.ask<{ total: number }>('GET', '/api/cases')
  const changed = (change: string) => {
    const [from, to] = [join(folder, 'good.zip'), join(folder, 'bad.zip')]
    writeFileSync(from, bundle)
    execFileSync('python3', [
      '-c',
      `
import sys, zipfile, hashlib, json
source = zipfile.ZipFile(sys.argv[1]); files = {n: source.read(n) for n in source.namelist()}
root = next(n for n in files if n.endswith('bundle.json'))[:-11]
def resum():
    m = json.loads(files[root + 'bundle.json'])
    for n in m['files']: m['files'][n] = hashlib.sha256(files[root + n]).hexdigest() if root + n in files else m['files'][n]
    files[root + 'bundle.json'] = json.dumps(m).encode()
${change}
out = zipfile.ZipFile(sys.argv[2], 'w')
for n, b in files.items(): out.writestr(n, b)
out.close()`,
      from,
      to,
    ])
    return readFileSync(to)
  }
  const svg = "s = next(n for n in files if n.endswith('.svg'))"
  const list =
    "a = json.loads(files[root + 'attachments.json']); a[0]['sha256'] = hashlib.sha256(files[s]).hexdigest(); files[root + 'attachments.json'] = json.dumps(a).encode(); resum()"
  for (const [bytes, says] of [
    [Buffer.from('no archive'), 'is no bundle of a case'],
    [bundle.subarray(0, bundle.length >> 1), 'is no bundle of a case'],
    [changed("files[root + 'case.json'] += b' '"), 'does not match its checksum'],
    [changed("del files[root + 'history.json']"), 'is missing from the bundle'],
    [
      changed("files[root + 'case.json'] = files[root + 'case.json'].replace(b'\"photos\"', b'\"ghosts\"'); resum()"),
      'wanted',
    ],
    [changed(`${svg}; files[s] = files[s].replace(b'<g ', b'<script>1</script><g '); ${list}`), 'not of the type'],
    [changed("files['other/bundle.json'] = files[root + 'bundle.json']"), 'several cases'],
  ] as const) {
    const answer = await other.request.post('/api/cases/import/bundle', { data: bytes })
    expect([answer.status, await answer.text()], says).toEqual([400, expect.stringContaining(says)])
  }
  expect((await other.ask<{ total: number }>('GET', '/api/cases')).total).toBe(total)
  expect(readdirSync(join(other.server.data, 'incoming'))).toEqual([])
})

test('all that is held about one client is one file; erased at their wish, it says what stays and why', async () => {
  const [paid, plain] = [
    await signedCase(),
    await tech.log({ ...LOST_PHOTOS, 'client.name': 'Edda Rook', 'client.mail': 'edda@example.invalid' }),
  ]
  const { id } = (await caseOf(tech, paid)).client
  await hand(plain, { do: 'contact', way: 'called', says: 'about the herons' })
  const path = `/api/clients/${id}`
  expect([(await counter.get(path)).status, (await tech.request.get(`${path}/file`)).status]).toEqual([403, 403])
  const listing = await (async () => {
    await tech.attach(plain, 'd1', 'korvane-7')
    await tech.answer(plain, 'korvane-7', 'passcode', '190677')
    return tech.list(plain, 'korvane-7', 'library')
  })()
  const [first] = await tech.toShelf(plain, listing, {})
  mkdirSync(join(tech.server.data, 'fetched', plain.toLowerCase()), { recursive: true })
  writeFileSync(join(tech.server.data, 'fetched', plain.toLowerCase(), 'backup.zip'), 'a backup')
  symlinkSync('/etc', join(tech.server.data, 'fetched', plain.toLowerCase(), 'out'))
  const stopped = await tech.log({ ...LOST_PHOTOS, 'client.name': 'Edda Rook' })
  await hand(stopped, { do: 'freeze', cause: 'police-or-court', says: 'A paper came' })
  const files = unzipped(await bytesOf(await owner.get(`${path}/file`)), 'client')
  const names = [...files.keys()]
  for (const name of ['client.json', 'read-me.txt', `cases/${plain}/history.json`, `cases/${paid}/case.json`])
    expect(names).toContain(name)
  expect(names.filter((name) => name.endsWith('.pdf')).length).toBeGreaterThanOrEqual(3)
  expect(names.some((name) => name.includes(stopped) || name.includes('/out/'))).toBe(false)
  expect(files.get(`cases/${plain}/files/shelf/${first!.path}`)).toEqual(first!.bytes)
  expect(files.get(`cases/${plain}/files/fetched/backup.zip`)!.toString()).toBe('a backup')
  expect(files.get(`cases/${plain}/case.json`)!.toString()).toContain('about the herons')

  const move = async (code: string, to: string) => {
    const { version } = await tech.ask<{ version: number }>('GET', at(code))
    await tech.ask('POST', at(code, '/move'), { version, to, waitingFor: null, reason: 'found at home' })
  }
  for (const code of [paid, plain]) await move(code, 'closed')
  expect((await owner.post(`${path}/erase`, { data: { name: 'Somebody Else' } })).status).toBe(400)
  const erased = (await (await owner.post(`${path}/erase`, { data: { name: 'edda rook' } })).json()) as {
    wiped: number
    left: ClientAnswer
  }
  const kept = erased.left.cases.find(({ code }) => code === paid)!
  expect(kept.erasing.map(({ does, why }) => [does, why])).toEqual([
    ['gone', null],
    ['stays', 'receipts'],
  ])
  expect((await caseOf(tech, plain)).client.name).toBe('unknown')
  expect((await caseOf(tech, paid)).client.name).toBe('Edda Rook')
})

test('lists go out as CSV that no sheet runs, and the list of cases comes back in', async () => {
  const text = writeCase(Case.parse({ ...markedCase(), title: '=1+1', freezes: [] }))
  const { case: brought } = await tech.ask<{ case: Case }>('POST', '/api/cases/import', { text })
  expect((await tech.request.get('/api/lists/cases')).status).toBe(403)
  const read = async (what: string) =>
    parse(Buffer.from(await (await owner.get(`/api/lists/${what}`)).arrayBuffer()), { bom: true }) as string[][]
  const [cases, runs] = [await read('cases'), await read('runs')]
  for (const cell of [...cases, ...runs].flat()) expect(cell).not.toMatch(/^[=+\-@\t\r]/)
  expect(cases.find(([code]) => code === brought.code)).toContain("'=1+1")
  expect(runs.find(([code]) => code === brought.code)).toContain('7')
  expect((await owner.get('/api/lists/secrets')).status).toBe(404)

  const [headers, ...lines] = cases
  const columns = guessColumns(headers!)
  expect(columns.filter((one) => one !== null).length).toBeGreaterThan(14)
  const bring = (body: object) =>
    other.ask<CaseListAnswer>('POST', '/api/cases/import/list', { columns, writes: false, ...body })
  const dry = await bring({ lines })
  expect(dry.lines.flatMap(({ faults }) => faults)).toEqual([])
  const { total } = await other.ask<{ total: number }>('GET', '/api/cases')
  const { codes } = await bring({ lines, writes: true })
  expect(codes).toHaveLength(lines.length)
  const again = await caseOf(other, codes.at(-1)!)
  expect([again.title, again.client.name, again.logged]).toEqual(['=1+1', markOf('client.name'), brought.logged])
  expect((await other.ask<{ total: number }>('GET', '/api/cases')).total).toBe(total + lines.length)
})

test('a list with faults shows every one of them and writes nothing, unless the faulty lines are left out', async () => {
  const columns = ['client.name', 'client.phone', 'loss.how', 'loss.when', 'wanted.w1.count', null]
  const lines = [
    ['Odo Pell', '01632 960 300', 'deleted in bulk', '3 Nov', '40', 'left'],
    ['x'.repeat(200), 'no number', 'vaporised', 'when pigs fly', '-4', ''],
    ['', '', '', '', '', 'only what is nothing of a case'],
    ['Ines Brandt', '', '', '', '', '', 'too much'],
  ]
  const body = { columns, lines, writes: false }
  const { total } = await other.ask<{ total: number }>('GET', '/api/cases')
  const { lines: said } = await other.ask<CaseListAnswer>('POST', '/api/cases/import/list', body)
  expect(said.map(({ faults }) => faults.map(({ column }) => column))).toEqual([
    [],
    ['How it was lost', 'When it was lost', 'How many', 'Client', 'Phone number'],
    ['line'],
    ['line'],
  ])
  expect((await other.refused('POST', '/api/cases/import/list', { ...body, writes: true })).message).toContain(
    '3 lines have faults',
  )
  expect((await other.ask<{ total: number }>('GET', '/api/cases')).total).toBe(total)
  const { codes } = await other.ask<CaseListAnswer>('POST', '/api/cases/import/list', {
    ...body,
    writes: true,
    leavesOutFaulty: true,
  })
  expect((await caseOf(other, codes[0]!)).client.name).toBe('Odo Pell')
  expect((await other.ask<{ total: number }>('GET', '/api/cases')).total).toBe(total + 1)
})

test('a calendar is read at a secret address, which ends at a click and with the access of its person', async () => {
  const events = async (answer: Response) =>
    Object.values(ical.sync.parseICS(await answer.text())).filter((one) => one?.type === 'VEVENT')
  expect((await events(await tech.request.get('/api/calendar'))).length).toBeGreaterThan(3)
  const open = async (who: Client) => ((await (await who.post('/api/calendar/feed')).json()) as { path: string }).path
  const nobody = new Client(tech.server.address)
  const first = await open(tech.request)
  const feed = await nobody.get(first)
  expect([feed.headers.get('content-type'), (await events(feed)).length > 3]).toEqual([
    'text/calendar; charset=utf-8',
    true,
  ])
  const text = await (await nobody.get(first)).text()
  for (const name of ['Ashby', 'Water rescue', 'Allotments', 'Korvane']) expect(text).not.toContain(name)
  const second = await open(tech.request)
  expect([(await nobody.get(first)).status, (await nobody.get(second)).status]).toEqual([404, 200])
  expect((await nobody.get(second.replace(/.\.ics$/, second.endsWith('A.ics') ? 'B.ics' : 'A.ics'))).status).toBe(404)
  await tech.request.delete('/api/calendar/feed')
  expect((await nobody.get(second)).status).toBe(404)
  const hers = await open(counter)
  const staff = (await (await owner.get('/api/people')).json()) as { id: number; signIn: string }[]
  await owner.delete(`/api/people/${staff.find(({ signIn }) => signIn === 'jory')!.id}`)
  expect((await nobody.get(hers)).status).toBe(404)
})
