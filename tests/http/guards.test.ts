import type { Case } from '../../core/cases/shape/case'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { openShop, type Technician } from '../support/carry'
import { Client } from '../support/client'

/** Each guard rail, and somebody who tries to go round it through the server's routes. One server for all of them. */
let tech: Technician
beforeAll(async () => void (tech = await openShop({ LANTERN_SHELF_BYTES: '400000' })))
afterAll(() => tech.server.remove())

const BYRNE = 'SL-0008'
const slate = `/api/cases/${BYRNE}/bench/links/pelloon-slate`
const RESTORE = { action: 'restore', parameters: { from: 'byrne-account/backup.before' } }

test('a restore starts only with consent, a safety copy, battery, network, passcode, and the comparison seen', async () => {
  const said = async (more: object = {}) =>
    (await tech.refused('POST', `${slate}/act`, { ...RESTORE, comparison: '', ...more })).message
  // Locked, nothing agreed, nothing copied: all of it is named at once.
  const first = await said()
  for (const part of ['agreed', 'safety copy', 'battery', 'passcode', 'signed in', 'network'])
    expect(first).toContain(part)
  await tech.answer(BYRNE, 'pelloon-slate', 'passcode', '140925')
  await tech.answer(BYRNE, 'pelloon-slate', 'trust')
  await tech.answer(BYRNE, 'byrne-account', 'password', 'woodruff-and-wax')
  await tech.answer(BYRNE, 'pelloon-slate', 'charger', 'on')
  expect(await said()).not.toContain('battery')
  await tech.answer(BYRNE, 'pelloon-slate', 'network', 'on')
  await tech.set(BYRNE, { 'consent.erase.answer': 'given' })
  expect(await said()).toMatch(/^Not yet: A safety copy of its present contents/)
  // The rows of its apps would be missing from the copy: it is not made without them.
  expect((await tech.refused('POST', `${slate}/safety-copy`, {})).message).toContain('would be missing')
  await tech.act(BYRNE, 'pelloon-slate', 'read-apps', {})
  await tech.pass(3)
  await tech.ask('POST', `${slate}/safety-copy`)
  expect(await said()).toContain('review first what will be lost')
  expect(await said({ comparison: 'made-up' })).toContain('have changed since your review')

  const seen = await tech.compare(BYRNE, 'pelloon-slate', 'restore', RESTORE.parameters)
  expect(seen.guards.filter((one) => !one.isMet)).toEqual([])
  expect(seen.offer.effects.gone).toContainEqual(expect.objectContaining({ type: 'notes', count: 5 }))
  expect(seen.offer.effects.back).toContainEqual(expect.objectContaining({ type: 'notes', count: 24 }))
  const folder = join(tech.server.data, 'shelf', BYRNE, 'safety-copies')
  const copy = join(folder, readdirSync(folder)[0]!)
  const bytes = readFileSync(copy)
  // A safety copy that no longer is what was read back is none.
  writeFileSync(copy, bytes.subarray(0, bytes.length - 40))
  expect(await said({ comparison: seen.comparison })).toMatch(/^Not yet: A safety copy/)
  writeFileSync(copy, bytes)
  await tech.ask('POST', `${slate}/act`, { ...RESTORE, comparison: seen.comparison })
})

test('a reason replaces a safety copy and no other requirement; it stays in the history', async () => {
  const code = 'SL-0009'
  const account = `/api/cases/${code}/bench/links/lindqvist-account`
  await tech.answer(code, 'lindqvist-account', 'password', 'saxifrage-9')
  await tech.answer(code, 'lindqvist-account', 'second-factor', '771204')
  const parameters = { from: 'lindqvist-account/contacts.27' }
  const { comparison, guards } = await tech.compare(code, 'lindqvist-account', 'turn-back', parameters)
  // The route that asks for it has holds of its own: they come first here too.
  const holds = guards.flatMap(({ hold }) => hold ?? [])
  expect(holds).toEqual(['export-before-turning-back'])
  for (const hold of holds) await tech.tick(code, hold)
  const turn = { action: 'turn-back', parameters, comparison, waiver: 'She has today’s list on paper.' }
  expect((await tech.refused('POST', `${account}/act`, turn)).message).toBe(
    'Not yet: The client has agreed that its contents are replaced.',
  )
  await tech.set(code, { 'consent.erase.answer': 'given' })
  expect((await tech.refused('POST', `${account}/act`, { ...turn, waiver: ' ' })).message).toContain('safety copy')
  await tech.ask('POST', `${account}/act`, turn)
  const history = await tech.ask<{ kind: string; is: { says?: string } }[]>('GET', `/api/cases/${code}/history`)
  expect(history.at(-1)!.is.says).toContain('without safety copy: She has today’s list on paper.')
})

test('a step that takes something away waits while another run is open', async () => {
  const code = 'SL-0009'
  const parameters = { from: 'lindqvist-account/contacts.27' }
  const { plan } = await tech.ask<{ plan: { options: { id: string; family: string; standing: string }[] } }>(
    'GET',
    `/api/cases/${code}/plan`,
  )
  const other = plan.options.find(
    ({ family, standing }) => family === 'look' || (family === 'ask-sender' && standing === 'plan'),
  )!
  const run = await tech.begin(code, other.id)
  const { guards } = await tech.compare(code, 'lindqvist-account', 'turn-back', parameters)
  expect(guards.find(({ name }) => name === 'run')).toMatchObject({ isMet: false })
  const refused = await tech.refused('POST', `/api/cases/${code}/bench/links/lindqvist-account/act`, {
    action: 'turn-back',
    parameters,
    comparison: '',
    waiver: 'It is only a list.',
  })
  expect(refused.message).toContain('Another run is open')
  await tech.end(code, run, [])
})

test('a new backup does not push out the one that is wanted', async () => {
  await tech.ask('POST', '/api/stand-ins/pelloon-slate/reset')
  await tech.ask('POST', '/api/stand-ins/byrne-account/reset')
  await tech.answer(BYRNE, 'byrne-account', 'password', 'woodruff-and-wax')
  for (const [answer, value] of [
    ['passcode', '140925'],
    ['trust', ''],
    ['charger', 'on'],
    ['network', 'on'],
  ] as const)
    await tech.answer(BYRNE, 'pelloon-slate', answer, value)
  const seen = await tech.compare(BYRNE, 'pelloon-slate', 'back-up', {})
  expect(seen.isDestructive).toBe(true)
  const refused = await tech.refused('POST', `${slate}/act`, { action: 'back-up', comparison: seen.comparison })
  expect(refused.message).toContain('The backup that it pushes out holds nothing that is wanted')
  expect(
    (await tech.bench(BYRNE)).links.find((one) => one.id === 'byrne-account')!.keeps.filter((keep) => keep.backup),
  ).toHaveLength(2)
})

test('nothing is done to what is not on the bench for the case, and the helper speaks to its own bench only', async () => {
  const other = '/api/cases/SL-0012/bench/links/pelloon-slate'
  for (const [path, body] of [
    ['answer', { answer: 'passcode', value: '140925' }],
    ['list', { keep: '*' }],
    ['compare', RESTORE],
    ['act', { ...RESTORE, comparison: 'x' }],
    ['safety-copy', {}],
    ['put-back', { keep: 'library', items: [1] }],
    ['fetch', { keep: 'backup.before' }],
  ] as const)
    expect((await tech.refused('POST', `${other}/${path}`, body)).message).toMatch(
      /^Attach it to this case first|not attached to this case/,
    )
  const foreign = await tech.refused('POST', `${slate}/compare`, {
    action: 'restore',
    parameters: { from: 'field-hut-laptop/backup.field-hut' },
  })
  expect(foreign.message).toMatch(/^Attach it to this case first|not attached to this case/)
  const words: Record<string, string>[] = [{}, { authorization: 'Bearer ' }, { authorization: 'Bearer guess' }]
  for (const headers of words)
    for (const [method, path] of [
      ['GET', '/helper/links'],
      ['POST', '/helper/links/pelloon-slate/actions'],
      ['GET', '/helper/links/pelloon-slate'],
    ] as const) {
      const answer = await tech.request.fetch(path, method, { headers, data: method === 'POST' ? RESTORE : undefined })
      expect(answer.status).toBe(403)
    }
})

test('a passcode is not guessed: not where nobody knows it, and not with the last tries', async () => {
  const path = '/api/cases/SL-0005/bench/links/korvane-5/answer'
  expect((await tech.refused('POST', path, { answer: 'passcode', value: '000000' })).message).toContain(
    'This passcode is not known',
  )
  await tech.set('SL-0005', { 'devices.d1.passcode': 'known' })
  // Four are left; the one that is tried is wrong; with three no other goes through.
  expect((await tech.refused('POST', path, { answer: 'passcode', value: '000000' })).message).toContain('after 3 more')
  expect((await tech.refused('POST', path, { answer: 'passcode', value: '851230' })).message).toContain(
    'They are not used here',
  )
  const phone = (await tech.bench('SL-0005')).links.find((one) => one.id === 'korvane-5')!
  expect(phone).toMatchObject({ state: 'locked', triesLeft: 3 })
})

test('counter staff can read neither items nor lists of what was found', async () => {
  const code = 'SL-0013'
  const listing = await tech.list(code, 'harrowby-book', 'versions.last-night')
  const { finds } = await tech.finds(code, listing)
  await tech.ask('GET', `/api/cases/${code}/bench/listings/${listing}/finds/${finds[0]!.find}`)
  const counter = await new Client(tech.server.address).signIn('jory')
  for (const path of [
    '',
    '/shelf',
    '/passes',
    `/listings/${listing}`,
    `/listings/${listing}?counts=1`,
    `/listings/${listing}/folders`,
  ])
    expect((await counter.get(`/api/cases/${code}/bench${path}`)).status, path).toBe(403)
  for (const path of [`${slate}/act`, `${slate}/answer`, `${slate}/list`, `/api/cases/${BYRNE}/bench/shelf/copy`])
    expect((await counter.post(path, { data: {} })).status).toBe(403)
  // What was opened is named in the history, for those who work at the bench.
  const historyOf = async (request: typeof counter) => (await request.get(`/api/cases/${code}/history`)).text()
  expect(await historyOf(tech.request)).toContain(finds[0]!.name)
  expect(await historyOf(counter)).not.toContain(finds[0]!.name)
})

test('nothing is opened, listed, shown or copied where that was refused, not recorded yet, or not proved', async () => {
  const code = 'SL-0013'
  const bench = `/api/cases/${code}/bench`
  const listing = await tech.list(code, 'harrowby-book', 'versions.last-night')
  const { finds } = await tech.finds(code, listing)
  const item = `/listings/${listing}/finds/${finds[0]!.find}`
  const [AGREED, ASKED] = [
    { 'authority.basis': 'own', 'consent.lookThrough.answer': 'given' },
    { 'authority.basis': 'employer', 'authority.agreedBy': 'Ennis Carrick', 'authority.proof': 'letter' },
  ]
  for (const [facts, says] of [
    [{ 'consent.lookThrough.answer': 'refused' }, 'does not want'],
    [{ 'consent.lookThrough.answer': 'unknown' }, 'not recorded yet'],
    [{ 'authority.basis': 'unknown' }, 'not recorded yet'],
    [{ 'authority.basis': 'none' }, 'no right'],
    [{ ...ASKED, 'authority.proof': 'none' }, 'no proof'],
    [{ ...ASKED, 'authority.agreedBy': 'unknown' }, 'not recorded yet'],
  ] as const) {
    await tech.set(code, { ...AGREED, ...facts })
    for (const path of [
      item,
      `${item}/thumb`,
      `${item}/content`,
      `/listings/${listing}`,
      `/listings/${listing}?limit=0&counts=1`,
      `/listings/${listing}/folders`,
      '/shelf',
      '/shelf/export?as=csv&kind=contact',
    ]) {
      const answer = await tech.request.get(`${bench}${path}`)
      expect(answer.headers.get('cache-control'), path).toBe('no-store')
      expect([answer.status, await answer.text()], path).toEqual([409, expect.stringContaining(says)])
    }
    for (const [path, data] of [
      [`/listings/${listing}/select`, { filter: {}, isSelected: true }],
      ['/shelf/copy', { listing }],
      ['/links/harrowby-book/list', { keep: 'versions.last-night' }],
      ['/links/harrowby-book/answer', { answer: 'password', value: 'x' }],
      ['/links/harrowby-book/safety-copy', {}],
      ['/links/harrowby-book/fetch', { keep: 'versions.last-night' }],
    ] as const)
      expect((await tech.refused('POST', `${bench}${path}`, data)).message, path).toContain(says)
  }
  // Waking or charging a device opens nothing.
  await tech.answer(code, 'harrowby-book', 'wake', '')
  await tech.set(code, { ...AGREED, ...ASKED })
  expect((await tech.finds(code, listing)).finds).toHaveLength(finds.length)
  const { case: kept } = await tech.ask<{ case: Case }>('GET', `/api/cases/${code}`)
  expect(kept.authority).toMatchObject({ proof: 'letter', seenBy: 'Bram Hollis' })
})

test('a transfer resumes after a dropped connection, a damaged item is reported, an ended session loses nothing, a full device is offered a way out', async () => {
  const code = 'SL-0012'
  const phone = `/api/cases/${code}/bench/links/korvane-7`
  await tech.answer(code, 'korvane-7', 'passcode', '190677')
  const listing = await tech.list(code, 'korvane-7', 'photo-bin')
  const { finds } = await tech.finds(code, listing)
  const damaged = finds[3]!
  await tech.ask('POST', '/api/stand-ins/korvane-7/faults', { dropAfter: 1000, corrupt: [damaged.id] })
  await tech.ask('POST', `/api/cases/${code}/bench/listings/${listing}/select`, {
    finds: finds.slice(0, 8).map((one) => one.find),
    isSelected: true,
  })
  await tech.ask('POST', `/api/cases/${code}/bench/shelf/copy`, { listing })
  const { shelf } = await tech.until(code, (bench) => bench.shelf.job?.state === 'done')
  expect(shelf).toMatchObject({ verified: 7, failed: 1, waiting: 0 })
  expect(tech.shelf(code)).toHaveLength(7)

  // The cable is pulled: what was copied is kept, the rest waits and resumes.
  await tech.ask('POST', '/api/stand-ins/korvane-7/faults', { isLost: true, corrupt: [] })
  await tech.ask('POST', `/api/cases/${code}/bench/shelf/copy`, { listing })
  const stopped = await tech.until(code, (bench) => bench.shelf.job?.state === 'stopped')
  expect(stopped.shelf).toMatchObject({ verified: 7, waiting: 1 })
  expect(stopped.shelf.job!.says).toContain('cable')
  await tech.answer(code, 'korvane-7', 'plug-in')
  await tech.ask('POST', `/api/cases/${code}/bench/shelf/resume`)
  expect((await tech.until(code, (bench) => bench.shelf.job?.state === 'done')).shelf).toMatchObject({
    verified: 8,
    waiting: 0,
  })

  // Putting back: only what was read back, only where there is room.
  const items = (await tech.ask<{ items: { id: number }[] }>('GET', `/api/cases/${code}/bench/shelf`)).items.map(
    (one) => one.id,
  )
  expect((await tech.refused('POST', `${phone}/put-back`, { keep: 'library', items: [99_999] })).message).toContain(
    'has not been copied and read back',
  )
  await tech.ask('POST', '/api/stand-ins/korvane-7/faults', { isFull: true })
  const full = (await tech.refused('POST', `${phone}/put-back`, { keep: 'library', items })) as unknown as {
    message: string
    safe: string
  }
  expect(full.message).toContain('It has room for 0 bytes')
  expect(full.safe).toContain('another medium')
  await tech.ask('POST', '/api/stand-ins/korvane-7/faults', { isFull: false })
  expect(await tech.ask('POST', `${phone}/put-back`, { keep: 'library', items })).toEqual({ count: 8 })

  // More than the shelves of this shop may take is refused before the first byte.
  await tech.ask('POST', `/api/cases/${code}/bench/listings/${listing}/select`, { filter: {}, isSelected: true })
  expect((await tech.refused('POST', `/api/cases/${code}/bench/shelf/copy`, { listing })).message).toContain(
    'The shelf has room for',
  )
  expect(tech.shelf(code)).toHaveLength(8)

  await tech.answer(code, 'ashby-account', 'password', 'bog-cotton-22')
  expect(
    (
      await tech.refused('POST', `/api/cases/${code}/bench/links/ashby-account/answer`, {
        answer: 'second-factor',
        value: '1',
      })
    ).message,
  ).toContain('wrong')
  await tech.answer(code, 'ashby-account', 'second-factor', '482913')
  await tech.pass(61)
  const ended = (await tech.bench(code)).links.find((one) => one.id === 'ashby-account')!
  expect(ended).toMatchObject({ state: 'signed-out', says: 'The session has ended by itself; sign in again.' })
  expect(existsSync(join(tech.server.data, 'shelf', code, 'SHA256SUMS'))).toBe(true)
})

test('what is under way survives the server’s death', async () => {
  const code = 'SL-0005'
  const path = `/api/cases/${code}/bench/links/study-computer/fetch`
  await tech.answer(code, 'study-computer', 'password', 'gillyflower')
  await tech.ask('POST', '/api/stand-ins/study-computer/faults', { slow: 20_000 })
  await tech.ask('POST', path, { keep: 'backup.study' })
  await tech.until(code, (bench) => bench.fetches[0]!.done > 0)
  await tech.server.stop('SIGKILL')
  await tech.server.start()
  const after = (await tech.bench(code)).fetches[0]!
  expect(after).toMatchObject({ state: 'stopped', says: expect.stringContaining('continue from where it stopped') })
  expect(after.done).toBeGreaterThan(0)
  expect(after.done).toBeLessThan(after.total)
  await tech.ask('POST', '/api/stand-ins/study-computer/faults', { slow: null })
  await tech.ask('POST', path, { keep: 'backup.study' })
  await tech.until(code, (bench) => bench.fetches[0]!.state === 'done')
})
