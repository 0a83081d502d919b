import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { openDatabase } from '../db/open'
import { contentsIn } from './contents'
import { makeStandIns } from './make'
import { answerHelper } from './serve'
import { StandInStore } from './store'

/** A request and its answer, as recorded. */
export interface Exchange {
  readonly request: { readonly method: string; readonly path: string; readonly body?: unknown; readonly range?: number }
  readonly response: { readonly status: number; readonly json?: unknown; readonly base64?: string }
}

/** The moment at which the exchanges were recorded. */
export const RECORDED_AT = Date.parse('2026-11-24T10:42:00Z')

/** The requests to the stand-ins, in this order: each kind of link, each kind of request, and the faults. */
export const ASKED: readonly Exchange['request'][] = [
  { method: 'GET', path: '/links' },
  { method: 'GET', path: '/links/nobody' },
  { method: 'GET', path: '/links/ostrel-mini' },
  { method: 'GET', path: '/links/ostrel-mini/keeps/sim/items' },
  { method: 'POST', path: '/links/ostrel-mini/answers', body: { answer: 'passcode', value: '0000' } },
  { method: 'POST', path: '/links/ostrel-mini/answers', body: { answer: 'sing', value: '' } },
  { method: 'POST', path: '/links/ostrel-mini/answers', body: { answer: 'passcode', value: '3317' } },
  { method: 'GET', path: '/links/ostrel-mini/keeps/sim/items?after=0' },
  { method: 'GET', path: '/links/ostrel-mini/keeps/photo-bin/items?after=0' },
  { method: 'POST', path: '/links/ostrel-mini/actions', body: { action: 'read-apps', parameters: {} } },
  { method: 'POST', path: '/links/lindqvist-old-account/answers', body: { answer: 'password', value: 'wrong' } },
  { method: 'POST', path: '/links/lindqvist-old-account/answers', body: { answer: 'password', value: 'saxifrage-8' } },
  { method: 'GET', path: '/links/lindqvist-old-account/keeps/contacts/items?after=0' },
  { method: 'GET', path: '/links/lindqvist-old-account/keeps/contacts/items/o0' },
  { method: 'GET', path: '/links/lindqvist-old-account/keeps/contacts/items/o0', range: 20 },
  {
    method: 'POST',
    path: '/links/lindqvist-old-account/offers',
    body: { action: 'turn-back', parameters: { from: 'lindqvist-old-account/contacts.20' } },
  },
  { method: 'POST', path: '/links/pelloon-leaf/answers', body: { answer: 'password', value: 'fen-skater' } },
  { method: 'GET', path: '/links/pelloon-leaf/keeps/snapshot.6/items?after=0' },
  { method: 'GET', path: '/links/pelloon-leaf/keeps/recovery/items/gone' },
]

/** Sends every request to fresh stand-ins and returns the exchanges. */
export async function exchangesOfStandIns(asked: readonly Exchange['request'][]): Promise<Exchange[]> {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-exchanges-'))
  try {
    const database = openDatabase(folder, resolve(import.meta.dirname, '../db/migrations'))
    const contents = contentsIn(join(folder, 'contents'))
    const store = new StandInStore(database, contents, () => 'Europe/London')
    store.put(
      await makeStandIns(
        contents,
        RECORDED_AT,
        'Europe/London',
        new Set(['ostrel-mini', 'lindqvist-old-account', 'pelloon-leaf']),
      ),
    )
    const exchanges: Exchange[] = []
    for (const request of asked) exchanges.push({ request, response: await responseTo(store, request) })
    database.$client.close()
    return exchanges
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

async function responseTo(
  store: StandInStore,
  { method, path, body, range }: Exchange['request'],
): Promise<Exchange['response']> {
  const url = new URL(path, 'http://helper')
  const answer = await answerHelper(store, RECORDED_AT, {
    method,
    path: url.pathname.slice(1).split('/').map(decodeURIComponent),
    query: Object.fromEntries(url.searchParams),
    body: body ?? null,
    range: range ?? 0,
    item: null,
  })
  if ('json' in answer) return { status: answer.status, json: JSON.parse(JSON.stringify(answer.json)) }
  return { status: answer.status, base64: Buffer.from(answer.bytes).toString('base64') }
}
