import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { Case } from '../../core/cases/shape/case'
import type { Health } from '../../core/safekeeping/backup'
import { verifyCommand } from '../../disk/verify-shop'
import { Client } from '../support/client'
import { Server } from '../support/server'

const PASSPHRASE = 'a heron stands at the weir'
const base = mkdtempSync(join(tmpdir(), 'lantern-safekeeping-'))
const place = join(base, 'place')
const server = new Server({ LANTERN_DEMO: '1' })
let owner: Client

beforeAll(async () => {
  mkdirSync(place)
  await server.start()
  owner = await new Client(server.address).signIn('ottilie')
})
afterAll(async () => {
  await server.remove()
  rmSync(base, { recursive: true })
})

const health = async () => (await (await owner.get('/api/safekeeping')).json()) as Health
const log = async (name: string) => {
  const answer = await owner.post('/api/cases', { data: { changes: [{ fact: 'client.name', is: name }] } })
  return (await answer.json()).case as Case
}
/** The command of the README, with what it writes and how it ends. */
function command(
  script: string,
  words: string[],
  typed: string,
  env = {},
): Promise<{ code: number | null; said: string }> {
  const child = spawn('npx', ['tsx', resolve('scripts', script), ...words], {
    env: { ...process.env, ...env },
  })
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk))
  child.stdin.end(`${typed}\n`)
  return new Promise((done) => child.once('exit', (code) => done({ code, said })))
}

test('backups go nowhere that would lose them, and never without a passphrase', async () => {
  const put = async (data: object) => {
    const answer = await owner.put('/api/safekeeping', { data })
    return { status: answer.status, text: await answer.text() }
  }
  const wish = { folder: place, hasFiles: false, passphrase: PASSPHRASE }
  expect(await put({ ...wish, folder: server.data })).toMatchObject({ status: 400 })
  expect(await put({ ...wish, folder: join(base, 'nowhere') })).toMatchObject({ status: 400 })
  expect(await put({ ...wish, folder: 'place' })).toMatchObject({ status: 400 })
  expect(await put({ ...wish, passphrase: 'short' })).toMatchObject({ status: 400 })
  expect((await put({ ...wish, passphrase: null })).text).toContain('backups are always encrypted')
  expect((await owner.post('/api/safekeeping/backup', { data: {} })).status).toBe(409)
  expect((await put(wish)).status).toBe(200)
  expect(readFileSync(join(server.data, 'lantern.sqlite')).includes(PASSPHRASE)).toBe(false)
}, 60_000)

test('a shop is put back from a backup that was made while people wrote, and what was wiped since is wiped again', async () => {
  const before = await Promise.all(['Ada Marwood', 'Bo Tranter', 'Cy Lidgate'].map(log))
  const gone = await log('Wilmot Zquick')
  const during: Promise<unknown>[] = []
  const writing = setInterval(() => during.push(log('Meanwhile')), 20)
  const made = (await (await owner.post('/api/safekeeping/backup', { data: {} })).json()) as Health
  clearInterval(writing)
  await Promise.all(during)
  expect(made.backup).toMatchObject({ failed: null, kept: [{ hasFiles: false }] })
  expect(during.length).toBeGreaterThan(1)

  // Wiped after the backup, which still holds it.
  const moved = await owner.post(`/api/cases/${gone.code}/move`, {
    data: { version: 1, to: 'closed', reason: 'came to nothing' },
  })
  expect(moved.status).toBe(200)
  const wiped = await owner.post(`/api/cases/${gone.code}/afterwards`, {
    data: { do: 'wipe', part: 'person', code: gone.code, reason: 'asked for it' },
  })
  expect(wiped.status, await wiped.text()).toBe(200)
  expect(readFileSync(join(place, 'wiped.jsonl'), 'utf8')).toContain(gone.code)

  const name = made.backup.kept[0]!.name
  const target = join(base, 'restored')
  const wrong = await command('restore.ts', [join(place, name), target], 'not the passphrase at all')
  expect([wrong.code, existsSync(target)]).toEqual([2, false])
  const restored = await command('restore.ts', [join(place, name), target], PASSPHRASE)
  expect(restored.said).toContain('entries fit')
  expect(restored.said).toContain('are done again')
  expect(restored.code).toBe(0)
  // The wipe is done before anybody opens the shop.
  for (const file of readdirSync(target, { recursive: true, encoding: 'utf8' }))
    if (file.startsWith('lantern.sqlite')) expect(readFileSync(join(target, file)).includes('Zquick'), file).toBe(false)
  expect(verifyCommand(target, {})).toHaveProperty('fits')

  const elsewhere = new Server({ LANTERN_DATA: target })
  await elsewhere.start()
  try {
    const there = await new Client(elsewhere.address).signIn('bram')
    for (const { code, client } of before) {
      const found = await (await there.get(`/api/cases/${code}`)).json()
      expect(found.case?.client.name, JSON.stringify(found).slice(0, 300)).toBe(client.name)
    }
    const scrubbed = await (await there.get(`/api/cases/${gone.code}`)).json()
    expect(scrubbed.case).toMatchObject({ client: { name: 'unknown' }, wiping: { person: { why: 'date' } } })
  } finally {
    await elsewhere.stop('SIGTERM')
  }
  const again = await command('restore.ts', [join(place, name), target], PASSPHRASE)
  expect(again.said).toContain('is not empty')
}, 180_000)

test('a backup that cannot be made is said, and the check finds a sound shop', async () => {
  rmSync(place, { recursive: true })
  await owner.post('/api/safekeeping/backup', { data: {} })
  const { backup } = await health()
  expect(backup.failed?.says).toContain('Is its disk connected?')
  expect(backup.last).not.toBeNull()
  expect(existsSync(place)).toBe(false)
  await owner.post('/api/safekeeping/check', { data: {} })
  const { check } = await health()
  expect(check, check?.says).toMatchObject({ isSound: true })
  expect(check!.says).toMatch(/entries fit/)
}, 60_000)

test('the command makes a backup of an open shop, too', async () => {
  const other = join(base, 'other')
  mkdirSync(other)
  const env = { LANTERN_DATA: server.data }
  const made = await command('backup.ts', [other, '--shelves'], '', env)
  expect(made.said).toContain('encrypted to the passphrase of the shop’s backups, with all files')
  expect(readdirSync(other).filter((name) => name.startsWith('shop-'))).toHaveLength(1)
  expect((await command('backup.ts', [join(base, 'nowhere')], '', env)).code).toBe(2)
}, 60_000)
