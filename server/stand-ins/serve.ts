import { FAULT_STATUS, LinkFailure, linkFailure, type LinkFault } from '../../core/bench/fault'
import { ActionRequest, PutBackItem } from '../../core/bench/protocol'
import { Answer } from '../../core/bench/state'
import {
  act,
  answerTo,
  archiveToMake,
  bytesOf,
  offerOf,
  pageOf,
  putBack,
  stateOf,
  summaryOf,
  thingOf,
} from '../../stand-ins/helper/helper'
import { archiveOf } from './archive'
import type { StandInStore } from './store'

/** One request of the protocol, independent of HTTP. */
export interface HelperRequest {
  readonly method: string
  /** parts of the path after the helper's address, decoded */
  readonly path: readonly string[]
  readonly query: Readonly<Record<string, unknown>>
  /** the body as JSON, or the bytes of an item to restore */
  readonly body: unknown
  readonly range: number
  /** facts of an item to restore */
  readonly item: unknown
}

export type HelperAnswer =
  | { readonly status: number; readonly json: unknown }
  | {
      readonly status: 200 | 206
      readonly bytes: Uint8Array
      readonly dropAfter: number | null
      readonly bytesPerSecond: number | null
    }

/** Answers one request of the protocol as the stand-ins do; never throws for a bad request. */
export async function answerHelper(store: StandInStore, now: number, request: HelperRequest): Promise<HelperAnswer> {
  try {
    return await answered(store, now, request)
  } catch (error) {
    if (error instanceof LinkFailure) return faultAnswer(error.fault)
    throw error
  }
}

const faultAnswer = (fault: LinkFault): HelperAnswer => ({ status: FAULT_STATUS[fault.fault], json: fault })
const told = (json: unknown): HelperAnswer => ({ status: 200, json })

async function answered(store: StandInStore, now: number, request: HelperRequest): Promise<HelperAnswer> {
  const [root, id, what, keep, items, item] = request.path
  if (root !== 'links') throw linkFailure('not-found', 'There is no such address.')
  if (id === undefined)
    return told({ links: store.with(now, null, ({ things }) => [...things.values()].map(summaryOf)) })
  const { method } = request
  if (what === undefined && method === 'GET')
    return told(store.with(now, null, (world) => stateOf(world, thingOf(world, id))))
  if (what === 'answers' && method === 'POST') {
    const answer = parsed(Answer, request.body)
    return told(
      store.with(now, id, (world) => {
        const thing = thingOf(world, id)
        answerTo(world, thing, answer)
        return stateOf(world, thing)
      }),
    )
  }
  if ((what === 'offers' || what === 'actions') && method === 'POST') {
    const { action, parameters } = parsed(ActionRequest, request.body)
    return told(
      store.with(now, what === 'actions' ? id : null, (world) =>
        what === 'offers'
          ? offerOf(world, thingOf(world, id), action, parameters)
          : act(world, thingOf(world, id), action, parameters),
      ),
    )
  }
  if (what !== 'keeps' || keep === undefined || items !== 'items')
    throw linkFailure('not-found', 'There is no such address.')
  await makeArchive(store, now, id, keep)
  if (item === undefined && method === 'GET')
    return told(
      store.with(now, null, (world) => pageOf(world, thingOf(world, id), keep, Number(request.query.after) || 0)),
    )
  if (item !== undefined && method === 'GET') {
    const { bytes, dropAfter, bytesPerSecond } = store.with(now, null, (world) =>
      bytesOf(world, thingOf(world, id), keep, item),
    )
    const from = Math.min(request.range, bytes.length)
    return { status: from > 0 ? 206 : 200, bytes: bytes.subarray(from), dropAfter, bytesPerSecond }
  }
  if (item !== undefined && method === 'PUT') {
    const facts = parsed(PutBackItem, request.item)
    if (!(request.body instanceof Uint8Array)) throw linkFailure('bad-request', 'The bytes of the item are missing.')
    const bytes = request.body
    store.with(now, id, (world) => putBack(world, thingOf(world, id), keep, { item: facts, bytes }))
    return told({})
  }
  throw linkFailure('bad-request', 'That cannot be done there.')
}

function parsed<T>(
  schema: { safeParse(value: unknown): { success: true; data: T } | { success: false } },
  value: unknown,
): T {
  const read = schema.safeParse(value)
  if (!read.success) throw linkFailure('bad-request', 'The protocol does not allow that.')
  return read.data
}

/** An archive is made on the first request for it, outside any transaction. */
async function makeArchive(store: StandInStore, now: number, id: string, keep: string): Promise<void> {
  const backup = store.with(now, null, (world) => archiveToMake(thingOf(world, id), keep))
  if (!backup) return
  const { sha256, bytes } = await archiveOf(backup, store.contents)
  store.with(now, id, (world) => {
    const now = thingOf(world, id).backups.find((one) => one.id === backup.id)
    if (!now) throw linkFailure('not-found', 'That backup is no longer there.')
    now.archive = sha256
    now.archiveBytes = bytes
  })
}
