// Attacks on sign-ins, cookies and the front door, and many people at once; npm run attack -- people, or load.
import { appendFileSync, mkdirSync } from 'node:fs'
import { request as ask } from 'node:http'
import { join } from 'node:path'
import { imageBytes } from '../core/testing/media-images'
import { wrongRights } from '../tests/support/access'
import { opened, type Technician } from '../tests/support/carry'
import type { Client } from '../tests/support/client'
import { passwordOf } from '../tests/support/people'
import type { Server } from '../tests/support/server'

type Say = (words: string) => void
type Expect = (isTrue: boolean, words: string) => void

/** A plain request from one of this machine's loopback addresses, with whatever headers; answers status and text. */
function plain(
  { port }: Server,
  path: string,
  {
    from = '127.0.0.1',
    method = 'GET',
    headers = {},
    body = '',
  }: {
    from?: string
    method?: string
    headers?: Record<string, string>
    body?: string | Buffer
  } = {},
): Promise<{ status: number; text: string; ms: number }> {
  const began = performance.now()
  return new Promise((done) => {
    const asked = ask(
      { host: '127.0.0.1', port, path, method, headers, localAddress: from, agent: false },
      (answer) => {
        let text = ''
        answer.on('data', (part) => (text += part))
        answer.on('end', () => done({ status: answer.statusCode!, text, ms: performance.now() - began }))
      },
    )
    asked.on('error', (error) => done({ status: 0, text: error.message, ms: performance.now() - began }))
    asked.end(body)
  })
}
const guess = (server: Server, signIn: string, password: string, from?: string) =>
  plain(server, '/api/session', {
    ...(from && { from }),
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ signIn, password }),
  })
const count = (answers: readonly { status: number }[], status: number) =>
  answers.filter((one) => one.status === status).length

/** Floods, parallel guesses, foreign hosts, bodies without a length, old cookies, and every route by every role. */
export async function people(say: Say, expect: Expect): Promise<void> {
  await opened({}, async (tech, server) => {
    const guesses = await Promise.all(
      Array.from({ length: 120 }, (_, at) => guess(server, 'bram', at === 60 ? passwordOf('bram') : `guess ${at}`)),
    )
    expect(count(guesses, 401) === 5 && count(guesses, 200) === 0, `120 guesses: ${count(guesses, 401)} were examined`)
    say(`120 guesses at once: ${count(guesses, 401)} examined, ${count(guesses, 429)} turned away`)

    const flood = Promise.all(Array.from({ length: 64 }, (_, at) => guess(server, `name-${at}`, 'wrong', '127.0.0.9')))
    const right = await guess(server, 'suda', passwordOf('suda'), '127.0.0.10')
    expect(right.status === 200, `somebody at another address got ${right.status} during a flood`)
    const answers = await flood
    say(
      `64 wrong sign-ins at once: ${count(answers, 401)} examined; somebody at another address was in after ${Math.round(right.ms)} ms`,
    )

    for (let at = 0; at < 6; at++) await guess(server, 'ottilie', `guess ${at}`, '127.0.1.1')
    for (let at = 0; at < 10_000; at += 100)
      await Promise.all(
        Array.from({ length: 100 }, (_, next) =>
          guess(server, `name-${at + next}`, 'wrong', `127.0.2.${1 + (next % 4)}`),
        ),
      )
    const locked = await guess(server, 'ottilie', passwordOf('ottilie'), '127.0.1.1')
    expect(locked.status === 429, `after 10,000 other names the lock is gone: ${locked.status}`)
    const owner = await tech.request.post('/api/session', {
      data: { signIn: 'ottilie', password: passwordOf('ottilie') },
    })
    expect(owner.status === 200, `the owner is locked out by strangers: ${owner.status}`)
    say('10,000 other names: the lock holds, and the owner gets in at the own browser')

    for (const host of ['elsewhere.example', `localhost.elsewhere.example:${server.port}`, '192.0.2.1'])
      for (const [method, path] of [
        ['GET', '/'],
        ['POST', '/api/first-start'],
        ['GET', '/api/session'],
      ] as const) {
        const { status } = await plain(server, path, { method, headers: { host } })
        expect(status === 421, `${method} ${path} as ${host}: ${status}`)
      }
    say('foreign hosts: refused')

    const large = Buffer.alloc(8_000_000, 32)
    for (const headers of [{ 'transfer-encoding': 'chunked' }, {}] as Record<string, string>[]) {
      const { status, text } = await plain(server, '/api/session', { method: 'POST', headers, body: large })
      expect(status === 413 || /ECONNRESET|EPIPE/.test(text), `8 MB to the sign-in: ${status}`)
    }
    say('bodies that are too large: refused, with and without a length')

    const old = tech.request.copy()
    await tech.request.delete('/api/session')
    expect((await old.get('/api/cases')).status === 401, 'a cookie goes on working after signing out')
    say('old cookies: refused')
  })
  await opened({}, async (_, server) => {
    const wrong = await wrongRights(server.address)
    for (const one of wrong) expect(false, one)
    say(`every route by every role: ${wrong.length} otherwise than in docs/access.md`)
  })
}

const SESSIONS = 50
const SECONDS = 60
const READS = [
  ['counter', '/api/cases'],
  ['case', '/api/cases/SL-0012'],
  ['plan', '/api/cases/SL-0012/plan'],
  ['history', '/api/cases/SL-0012/history'],
  ['bench of a case', '/api/cases/SL-0012/bench'],
  ['bench', '/api/bench'],
  ['session', '/api/session'],
] as const

/** 50 sessions that read for a minute, each with an open event stream, beside two passes over media. */
export async function load(say: Say, expect: Expect): Promise<void> {
  await opened({ LANTERN_JOBS: '2' }, async (tech, server) => {
    const media = await largeMedia(tech)
    const taken = new Map<string, number[]>()
    const streams: AbortController[] = []
    const end = performance.now() + SECONDS * 1000
    const reading = Promise.all(media.map((link) => readUntil(tech, link, end)))
    const { cookie } = tech.request
    const one = async (at: number) => {
      const stream = new AbortController()
      streams.push(stream)
      void follow(`${server.address}/api/cases/SL-00${10 + (at % 5)}/bench/events`, cookie, stream.signal)
      while (performance.now() < end) await reads(tech.request, taken)
    }
    await Promise.all(Array.from({ length: SESSIONS }, (_, at) => one(at)))
    for (const stream of streams) stream.abort()
    for (const [name, times] of taken) {
      const sorted = times.sort((one, other) => one - other)
      const at = (part: number) => Math.round(sorted[Math.floor(sorted.length * part)]!)
      say(`  ${name.padEnd(16)} ${String(sorted.length).padStart(5)} reads, median ${at(0.5)} ms, p95 ${at(0.95)} ms`)
      expect(at(0.95) < 300, `${name}: p95 is ${at(0.95)} ms`)
    }
    const read = await reading
    say(`  read meanwhile: ${read.map((megabytes) => `${megabytes} MB`).join(' and ')}`)
    expect(read.length === 2, 'there were no two passes')
    say(`${SESSIONS} sessions for ${SECONDS} s beside two passes`)
  })
}

/** One round of a person who looks at a page every few seconds. */
async function reads(client: Client, taken: Map<string, number[]>): Promise<void> {
  for (const [name, path] of READS) {
    await new Promise((done) => setTimeout(done, 300 + Math.random() * 700))
    const began = performance.now()
    const answer = await client.get(path)
    await answer.arrayBuffer()
    taken.set(name, [...(taken.get(name) ?? []), performance.now() - began])
    if (!answer.ok) throw new Error(`${path}: ${answer.status}`)
  }
}

async function follow(url: string, cookie: string, signal: AbortSignal): Promise<void> {
  try {
    const answer = await fetch(url, { headers: { cookie }, signal })
    const reader = answer.body!.getReader()
    while (!(await reader.read()).done);
  } catch {
    // It is left at the end.
  }
}

const COPIES = 30

/** Two images of a card's photos, many times over. */
async function largeMedia(tech: Technician): Promise<string[]> {
  const card = imageBytes('camera-card')
  const folder = join(tech.server.data, 'media')
  mkdirSync(folder, { recursive: true })
  for (const name of ['large-1.img', 'large-2.img'])
    for (let copy = 0; copy < COPIES; copy++) appendFileSync(join(folder, name), card)
  const { media } = await tech.ask<{ media: { id: string; title: string }[] }>('GET', '/api/bench/media')
  return media.filter(({ title }) => title.startsWith('large')).map(({ id }) => id)
}

/** Deep scans of one medium, one after the other, until then; answers how many megabytes they have looked at. */
async function readUntil(tech: Technician, link: string, end: number): Promise<number> {
  const code = await tech.log({ 'client.name': 'Maud Oxley', 'devices.d1': { kind: 'card', condition: 'working' } })
  await tech.attach(code, 'd1', link)
  while (performance.now() < end) {
    await tech.ask('POST', `/api/cases/${code}/bench/links/${link}/pass`, { pass: 'both', types: [], isWhole: true })
    const isUnderWay = async () => (await tech.bench(code)).passes.some(({ state }) => /queued|running/.test(state))
    while (performance.now() < end && (await isUnderWay())) await new Promise((done) => setTimeout(done, 500))
  }
  const { passes } = await tech.bench(code)
  return Math.round(passes.reduce((sum, { progress }) => sum + (progress?.at ?? 0), 0) / 1e6)
}
