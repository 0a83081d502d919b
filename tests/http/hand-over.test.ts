import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { runLantern } from '../../cli/program'
import type { HandoverAnswer } from '../../core/handover/answers'
import type { SheetDocument } from '../../core/handover/document'
import type { HandoverInput } from '../../core/handover/writes'
import { openShop, type Technician } from '../support/carry'
import { LOST_PHOTOS } from '../support/cases'
import { Client } from '../support/client'
import { pdfText, plainText } from '../support/pdf-text'

let tech: Technician
let owner: Client
let counter: Client
const folder = mkdtempSync(join(tmpdir(), 'lantern-out-'))
beforeAll(async () => {
  tech = await openShop()
  owner = await new Client(tech.server.address).signIn('ottilie')
  counter = await new Client(tech.server.address).signIn('jory')
})
afterAll(async () => {
  rmSync(folder, { recursive: true })
  await tech.server.remove()
})

const at = (code: string, rest = '') => `/api/cases/${code}${rest}`
const act = (code: string, write: HandoverInput, by = tech.request) =>
  by.fetch(at(code, '/hand-over'), 'POST', { data: { version: 0, write } })
async function done(code: string, write: HandoverInput, by = tech.request) {
  const answer = await act(code, write, by)
  expect(answer.status, await answer.clone().text()).toBe(200)
}
const saysOf = async (answer: Response) => ((await answer.json()) as { message: string }).message
const handover = (code: string) => tech.ask<HandoverAnswer>('GET', at(code, '/hand-over'))
const sheet = async (code: string, id: number) =>
  (await tech.ask<{ sheet: SheetDocument }>('GET', at(code, `/papers/${id}`))).sheet
const receive: HandoverInput = {
  do: 'receive',
  things: [{ part: 'd1', words: 'Korvane 7', serial: 'KV7-1', condition: 'cracked', accessories: '' }],
  place: 'drawer 4',
  person: 'Maud Oxley',
}
/** Everything that a sheet says. */
const wordsOf = ({ blocks, title, number, head }: SheetDocument) =>
  [
    title,
    number,
    head,
    ...blocks.map(({ kind: _, ...said }) =>
      Object.values(said)
        .flat(2)
        .filter((one) => typeof one === 'string'),
    ),
  ].flat()

test('what is handed in has a receipt whose code gives it back; its PDF says the same, and its head is in the history', async () => {
  const code = await tech.log(LOST_PHOTOS)
  await done(code, receive, counter)
  const [paper] = (await handover(code)).papers
  expect(paper).toMatchObject({ kind: 'received', number: `${code}/in-1`, by: 'Jory Penn' })
  const receipt = await sheet(code, paper!.id)
  const pdf = await tech.request.get(at(code, `/papers/${paper!.id}/pdf`))
  expect(pdf.headers.get('content-type')).toBe('application/pdf')
  const text = await pdfText(new Uint8Array(await pdf.arrayBuffer()))
  for (const words of wordsOf(receipt)) expect(text).toContain(plainText(words))

  let [out, err] = ['', '']
  const words = ['verify', '--data', tech.server.data, '--head', receipt.head]
  expect(await runLantern(words, { out: (said) => (out += said), err: (said) => (err += said) }), err).toBe(0)

  const secret = receipt.blocks.find((block) => block.kind === 'code')!.text
  const give = (typed: string): HandoverInput => ({
    do: 'give-back',
    things: ['t1'],
    person: 'Maud Oxley',
    against: 'receipt',
    code: typed,
  })
  expect(await saysOf(await act(code, give('AAAA-AAAA')))).toContain('not the code')
  await done(code, give(secret.toLowerCase().replace('-', ' ')), counter)
  const { papers } = await handover(code)
  expect(papers.map(({ kind }) => kind)).toEqual(['returned', 'received'])
  const history = await (await tech.request.get(at(code, '/history'))).text()
  expect(history).toContain('gave Korvane 7 to Maud Oxley, against the receipt')
})

test('receipts for money are numbered without gaps over all cases, whoever writes at once', async () => {
  const codes = await Promise.all([tech.log(LOST_PHOTOS), tech.log({ ...LOST_PHOTOS, 'client.name': 'Ennis Carrick' })])
  const pay: HandoverInput = { do: 'pay', kind: 'deposit', amount: 5, way: 'cash' }
  const all = Array.from({ length: 10 }, (_, turn) =>
    act(codes[turn % 2]!, pay, turn % 3 === 0 ? counter : tech.request),
  )
  expect((await Promise.all(all)).every(({ ok }) => ok)).toBe(true)
  const papers = (await Promise.all(codes.map(handover))).flatMap((one) => one.papers)
  const numbers = papers.map(({ number }) => Number(number.split('-')[2])).sort((one, other) => one - other)
  expect(numbers).toEqual(Array.from({ length: 10 }, (_, turn) => numbers[0]! + turn))
  // What is refused takes no number.
  expect((await act(codes[0]!, { do: 'pay', kind: 'refund', amount: 1000, way: 'cash' })).status).toBe(409)
  await done(codes[0]!, pay)
  expect((await handover(codes[0]!)).papers[0]!.number).toMatch(new RegExp(`-0*${numbers.at(-1)! + 1}$`))
})

test('a signature is kept as a drawing made of its points, and no file is taken for what its name says', async () => {
  const code = await tech.log(LOST_PHOTOS)
  const strokes = [Array.from({ length: 20 }, (_, turn) => [turn * 5, 40 + (turn % 5)])]
  const signed = await tech.ask<{ id: number; mime: string }>('POST', at(code, '/attachments/signature'), {
    signature: { width: 400, height: 120, strokes },
    name: 'Maud Oxley',
  })
  const drawn = await tech.request.get(at(code, `/attachments/${signed.id}`))
  expect(drawn.headers.get('content-security-policy')).toContain('sandbox')
  expect(await drawn.text()).toMatch(/^<svg [^>]+><g [^>]+><path d="M0 40L/)
  const send = (bytes: Uint8Array, name: string) =>
    tech.request.fetch(at(code, `/attachments?kind=photo&part=t1&name=${name}`), 'POST', { data: bytes })
  for (const [name, text] of [
    ['a.jpg', '<svg onload="alert(1)">'],
    ['b.png', '<html>'],
    ['c.svg', '<svg xmlns="x"/>'],
  ])
    expect((await send(Buffer.from(text!), name!)).status).toBe(400)
  const picture = readFileSync('core/testing/format-samples/weir.jpg')
  const photo = (await (await send(picture, 'weir.jpg')).json()) as { id: number }
  const other = await tech.log(LOST_PHOTOS)
  expect((await tech.request.get(at(other, `/attachments/${photo.id}`))).status).toBe(404)
  expect(Buffer.from(await (await tech.request.get(at(code, `/attachments/${photo.id}`))).arrayBuffer())).toEqual(
    picture,
  )
  // Nobody signs with what belongs to another case, or with a photo.
  for (const signature of [signed.id, photo.id]) {
    const give: HandoverInput = { do: 'give-back', things: ['t1'], person: 'x', against: 'identity', signature }
    const from = signature === signed.id ? other : code
    await done(from, receive)
    expect(await saysOf(await act(from, give))).toContain('none of this case')
  }
  const odd = { do: 'pay', kind: 'payment', amount: 1.005, way: 'cash' } as const
  expect(await saysOf(await act(code, odd))).toContain('more than two decimals')
  // One that was changed on the disk is not shown.
  const files = join(tech.server.data, 'attachments', code)
  const file = readdirSync(files).find((name) => name.endsWith('.jpg'))!
  writeFileSync(join(files, file), 'something else')
  expect(await saysOf(await tech.request.get(at(code, `/attachments/${photo.id}`)))).toContain('was changed')
})

test('a case that is stopped is there for owners only, opens nothing for anybody, and is lifted by an owner', async () => {
  const code = await tech.log({ ...LOST_PHOTOS, 'client.name': 'Zebedee Quillon' })
  await tech.attach(code, 'd1', 'korvane-7')
  await done(code, { do: 'freeze', cause: 'police-or-court', says: 'A paper of the county court' }, counter)
  for (const who of [tech.request, counter]) {
    for (const rest of ['', '/hand-over', '/history', '/file', '/plan', '/bench']) {
      const { status } = await who.get(at(code, rest))
      expect([403, 404], rest).toContain(status)
    }
    expect((await act(code, { do: 'contact', way: 'called', says: 'x' }, who)).status).toBe(404)
    for (const path of ['/api/cases', '/api/search?q=Quillon', '/api/bench'])
      expect(await (await who.get(path)).text()).not.toContain(code)
  }
  expect(await (await owner.get('/api/search?q=Quillon')).text()).toContain(code)
  const list = at(code, '/bench/links/korvane-7/list')
  expect(await saysOf(await owner.fetch(list, 'POST', { data: { keep: 'library' } }))).toContain('The case is stopped')
  expect((await act(code, receive, owner)).status).toBe(409)
  expect(
    (await owner.fetch(at(code, '/move'), 'POST', { data: { version: 0, to: 'closed', reason: 'x' } })).status,
  ).toBe(409)
  // Its device is not opened by way of another case, either.
  const other = await tech.log(LOST_PHOTOS)
  await tech.attach(other, 'd1', 'korvane-7')
  const by = await tech.refused('POST', at(other, '/bench/links/korvane-7/answer'), {
    answer: 'passcode',
    value: '190677',
  })
  expect(by.message).toContain('The owner has to be asked')
  await done(code, { do: 'lift', reason: 'the court withdrew it' }, owner)
  expect((await tech.request.get(at(code))).status).toBe(200)
  expect((await act(code, { do: 'lift', reason: 'x' })).status).toBe(403)
})

test('the report compares with its PDF on every size of paper; its annex is for those who work at the bench', async () => {
  const code = 'SL-0013'
  const listing = await tech.list(code, 'harrowby-book', 'versions.last-night')
  const files = await tech.toShelf(code, listing, {})
  await done(code, { do: 'outcome', ending: 'in-part', reasons: 'Saved over since.', delivered: [] })
  const make = async (kind: string) => (await tech.ask<{ id: number }>('POST', at(code, '/papers'), { kind })).id
  const annex = await make('annex')
  const report = await sheet(code, annex)
  for (const [is, box] of [
    ['A4', '595.28 841.89'],
    ['A5', '419.53 595.28'],
    ['letter', '612 792'],
  ]) {
    await owner.post('/api/playbook', { data: { what: 'sheet-size', which: 'annex', is } })
    const answer = await tech.request.get(at(code, `/papers/${annex}/pdf`))
    expect(Buffer.from(await answer.clone().arrayBuffer()).toString('latin1')).toContain(`[0 0 ${box}]`)
    const text = await pdfText(new Uint8Array(await answer.arrayBuffer()))
    for (const { sha256, path } of files) {
      expect(text).toContain(sha256)
      expect(text).toContain(plainText(path))
    }
    for (const words of ['Saved over since.', 'How to avoid it next time', report.head])
      expect(text).toContain(plainText(words))
  }
  expect((await counter.get(at(code, `/papers/${annex}`))).status).toBe(404)
  expect((await counter.fetch(at(code, '/papers'), 'POST', { data: { kind: 'annex' } })).status).toBe(403)
  expect((await counter.get(at(code, `/papers/${await make('report')}`))).status).toBe(200)
  const seen = (await (await counter.get(at(code, '/hand-over'))).json()) as HandoverAnswer
  expect(seen.papers.map(({ kind }) => kind)).not.toContain('annex')
})

test('the shelf is copied into a folder that the owner named, as plain folders and as a bag, checked by ordinary tools', async () => {
  const code = 'SL-0013'
  const out = join(folder, 'medium')
  mkdirSync(out)
  const start = (into: string, layout: string) =>
    tech.request.fetch(at(code, '/bench/shelf/hand-out'), 'POST', { data: { folder: into, layout } })
  expect(await saysOf(await start(out, 'plain'))).toContain('is not one that the owner named')
  const name = (folders: string[]) => owner.fetch('/api/bench/hand-out', 'PUT', { data: { folders } })
  expect((await name([tech.server.data])).status).toBe(400)
  expect((await name([out])).status).toBe(200)
  for (const [layout, sums] of [
    ['plain', 'SHA256SUMS'],
    ['bag', 'manifest-sha256.txt'],
  ] as const) {
    expect((await start(out, layout)).status).toBe(200)
    const { shelf } = await tech.until(code, (bench) => bench.shelf.handout?.state !== 'running')
    expect(shelf.handout).toMatchObject({ state: 'done', layout })
    const root = shelf.handout!.path
    expect(execFileSync('sha256sum', ['-c', '--strict', sums], { cwd: root, encoding: 'utf8' })).not.toContain('FAILED')
    expect(readFileSync(join(root, 'read-me.txt'), 'utf8')).toContain(sums)
  }
  // The second one took a name of its own, nothing half is left, and the dates are those of the items.
  expect(readdirSync(out).sort()).toEqual([code, `${code} (2)`])
  const { items } = JSON.parse(readFileSync(join(tech.server.data, 'shelf', code, 'manifest.json'), 'utf8')) as {
    items: { path: string; changed?: string }[]
  }
  expect(statSync(join(out, code, items[0]!.path)).mtimeMs).toBeLessThan(Date.now() - 3_600_000)
  const history = await (await tech.request.get(at(code, '/history'))).text()
  expect(history.match(/out of the house, read back/g)).toHaveLength(2)
  // A file of the shelf that changed stops it, and leaves nothing.
  writeFileSync(join(tech.server.data, 'shelf', code, items[0]!.path), 'changed')
  await start(out, 'plain')
  const { shelf } = await tech.until(code, (bench) => bench.shelf.handout?.state !== 'running')
  expect(shelf.handout).toMatchObject({ state: 'stopped' })
  expect(readdirSync(out)).toHaveLength(2)
  rmSync(out, { recursive: true })
  expect(await saysOf(await start(out, 'plain'))).toContain('not there now')
})

test('a safety copy is encrypted where the client wants it, listed as a link of its case, and opened with the password', async () => {
  const code = 'SL-0009'
  await tech.answer(code, 'lindqvist-account', 'password', 'saxifrage-9')
  await tech.answer(code, 'lindqvist-account', 'second-factor', '771204')
  const copy = at(code, '/bench/links/lindqvist-account/safety-copy')
  expect((await tech.refused('POST', copy, { password: 'short' })).message).toContain('shorter than 8')
  await tech.ask('POST', copy, { password: 'heron-at-dusk' })
  const { links } = await tech.bench(code)
  const own = links.find(({ title }) => title.startsWith('Safety copy: '))!
  expect(own).toMatchObject({ kind: 'backups', state: 'signed-out', encryption: 'whole-device' })
  expect(
    (await tech.refused('POST', at(code, `/bench/links/${own.id}/answer`), { answer: 'password', value: 'wrong' }))
      .message,
  ).toContain('password is wrong')
  await tech.answer(code, own.id, 'password', 'heron-at-dusk')
  expect((await tech.finds(code, await tech.list(code, own.id, '*'))).finds.length).toBeGreaterThan(0)
  // No other case can have it.
  const other = await tech.log(LOST_PHOTOS)
  expect(
    (await tech.request.fetch(at(other, '/bench/links'), 'PUT', { data: { part: 'd1', link: own.id } })).status,
  ).toBe(400)
})

test('items of a bin go back to their own place, those that were chosen and no others', async () => {
  const code = 'SL-0012'
  await tech.answer(code, 'korvane-7', 'passcode', '190677')
  const bin = (await tech.bench(code)).links
    .find(({ id }) => id === 'korvane-7')!
    .keeps.find(({ kind, count }) => kind === 'bin' && count > 0)!
  const { finds } = await tech.finds(code, await tech.list(code, 'korvane-7', bin.id))
  const chosen = finds.slice(0, 3).map(({ id }) => id)
  const before = (await tech.bench(code)).links.find(({ id }) => id === 'korvane-7')!
  await tech.act(code, 'korvane-7', 'put-back-from-bin', { from: `korvane-7/${bin.id}`, items: chosen })
  const { links } = await tech.until(code, (bench) =>
    bench.links.some(
      ({ id, tasks }) =>
        id === 'korvane-7' && tasks.some(({ action, state }) => action === 'put-back-from-bin' && state === 'done'),
    ),
  )
  const countIn = (state: typeof before, keep: string) => state.keeps.find(({ id }) => id === keep)!.count
  const now = links.find(({ id }) => id === 'korvane-7')!
  expect(countIn(now, bin.id)).toBe(countIn(before, bin.id) - 3)
  expect(countIn(now, 'library')).toBe(countIn(before, 'library') + 3)
})
