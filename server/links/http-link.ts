import type { z } from 'zod'
import { ActionOffer, Task, type ActionName, type ActionParameters } from '../../core/bench/action'
import { LinkFault, linkFailure, LinkFailure } from '../../core/bench/fault'
import { ItemPage } from '../../core/bench/item'
import type { Link, PutBack } from '../../core/bench/link'
import { ITEM_HEADER, LinkList, PROTOCOL_HEADER, PROTOCOL_VERSION } from '../../core/bench/protocol'
import { LinkState, type Answer, type LinkSummary } from '../../core/bench/state'

/** The address of a helper, and the token by which it knows this bench. */
export interface Helper {
  readonly address: string
  readonly token: string
}

/** How long a helper may be silent, in ms. */
const PATIENCE_MS = 20_000

/** The links of a helper. */
export async function linksOf(helper: Helper): Promise<LinkSummary[]> {
  return (await asked(helper, LinkList, 'GET', '/links')).links
}

/** The driver for everything behind a helper, over HTTP by the protocol of docs/link-protocol.md. */
export function httpLink(helper: Helper, id: string): Link {
  const base = `/links/${encodeURIComponent(id)}`
  const itemPath = (keep: string, item: string) =>
    `${base}/keeps/${encodeURIComponent(keep)}/items/${encodeURIComponent(item)}`
  return {
    state: () => asked(helper, LinkState, 'GET', base),
    answer: (answer: Answer) => asked(helper, LinkState, 'POST', `${base}/answers`, answer),
    list: (keep, after) =>
      asked(helper, ItemPage, 'GET', `${base}/keeps/${encodeURIComponent(keep)}/items?after=${after}`),
    read: (keep, item, from = 0) => bytesFrom(helper, itemPath(keep, item), from),
    putBack: async (keep: string, { item, bytes }: PutBack) => {
      const response = await sent(helper, 'PUT', itemPath(keep, item.id), {
        body: bytes,
        headers: {
          [ITEM_HEADER]: encodeURIComponent(JSON.stringify(item)),
          'content-type': 'application/octet-stream',
        },
      })
      await response.body?.cancel()
    },
    offer: (action: ActionName, parameters: ActionParameters) =>
      asked(helper, ActionOffer, 'POST', `${base}/offers`, { action, parameters }),
    act: (action: ActionName, parameters: ActionParameters) =>
      asked(helper, Task, 'POST', `${base}/actions`, { action, parameters }),
    leave: async () => {
      await asked(helper, LinkState, 'POST', `${base}/answers`, { answer: 'sign-out', value: '' })
    },
  }
}

async function asked<Schema extends z.ZodType>(
  helper: Helper,
  schema: Schema,
  method: 'GET' | 'POST',
  path: string,
  body?: unknown,
): Promise<z.output<Schema>> {
  const response = await sent(
    helper,
    method,
    path,
    body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } },
  )
  const read = schema.safeParse(await response.json().catch(() => undefined))
  if (!read.success)
    throw linkFailure(
      'unknown-helper',
      `The helper’s answer does not follow the protocol (${read.error.issues[0]?.path.join('.')}).`,
    )
  return read.data
}

interface Sent {
  readonly body?: string | Uint8Array
  readonly headers?: Record<string, string>
}

/** Sends one request; every answer other than success is thrown as a LinkFailure. */
async function sent(helper: Helper, method: string, path: string, { body, headers = {} }: Sent): Promise<Response> {
  let response: Response
  try {
    response = await fetch(`${helper.address}${path}`, {
      method,
      body: body as BodyInit | undefined,
      headers: { authorization: `Bearer ${helper.token}`, [PROTOCOL_HEADER]: PROTOCOL_VERSION, ...headers },
      signal: AbortSignal.timeout(PATIENCE_MS),
    })
  } catch {
    throw linkFailure('lost', 'The helper does not answer. Nothing was changed. Check its cable and power.')
  }
  if (response.ok) return response
  const fault = LinkFault.safeParse(await response.json().catch(() => undefined))
  throw fault.success
    ? new LinkFailure(fault.data)
    : linkFailure('unknown-helper', `The helper answered with ${response.status}, which the protocol does not allow.`)
}

async function bytesFrom(helper: Helper, path: string, from: number): Promise<AsyncIterable<Uint8Array>> {
  let response: Response
  try {
    response = await fetch(`${helper.address}${path}`, {
      headers: {
        authorization: `Bearer ${helper.token}`,
        [PROTOCOL_HEADER]: PROTOCOL_VERSION,
        ...(from > 0 ? { range: `bytes=${from}-` } : {}),
      },
    })
  } catch {
    throw linkFailure('lost', 'The helper does not answer.')
  }
  if (!response.ok) {
    const fault = LinkFault.safeParse(await response.json().catch(() => undefined))
    throw fault.success
      ? new LinkFailure(fault.data)
      : linkFailure('unknown-helper', `The helper answered with ${response.status}.`)
  }
  if (from > 0 && response.status !== 206) throw linkFailure('unknown-helper', 'The helper cannot resume the transfer.')
  return partsOf(response)
}

async function* partsOf(response: Response): AsyncIterable<Uint8Array> {
  const told = Number(response.headers.get('content-length') ?? NaN)
  let size = 0
  try {
    for await (const part of response.body as unknown as AsyncIterable<Uint8Array>) {
      size += part.length
      yield part
    }
  } catch {
    throw linkFailure('interrupted', 'The transfer was interrupted. What arrived is kept; it resumes from there.')
  }
  if (Number.isFinite(told) && size < told)
    throw linkFailure('interrupted', 'The transfer was interrupted. What arrived is kept; it resumes from there.')
}
