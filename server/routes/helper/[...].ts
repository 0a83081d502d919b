import { Readable } from 'node:stream'
import { ITEM_HEADER } from '../../../core/bench/protocol'
import { answerHelper, type HelperAnswer } from '../../stand-ins/serve'

/**
 * The helper of the stand-ins: the protocol that a helper for real devices would speak, over the same wire. Only this
 * server's own bench knows its token.
 */
export default defineEventHandler(async (event) => {
  const { standIns, helperToken, clock, ready } = useLantern()
  await ready
  if (!standIns || getRequestHeader(event, 'authorization') !== `Bearer ${helperToken}`) {
    setResponseStatus(event, 403)
    return { fault: 'unknown-helper', says: 'This helper speaks to its own bench only.', triesLeft: null }
  }
  const url = getRequestURL(event)
  const path = url.pathname.split('/').slice(2).map(decodeURIComponent)
  const answer = await answerHelper(standIns, clock.now(), {
    method: event.method,
    path,
    query: getQuery(event),
    body:
      event.method === 'PUT'
        ? new Uint8Array((await readRawBody(event, false)) ?? [])
        : event.method === 'POST'
          ? await readBody(event)
          : null,
    range: rangeStart(getRequestHeader(event, 'range')),
    item: itemFacts(getRequestHeader(event, ITEM_HEADER)),
  })
  setResponseStatus(event, answer.status)
  if ('json' in answer) return answer.json
  setResponseHeader(event, 'content-type', 'application/octet-stream')
  setResponseHeader(event, 'content-length', answer.bytes.length)
  return sendStream(event, Readable.from(parts(answer)))
})

const rangeStart = (header: string | undefined) => Number(/^bytes=(\d+)-$/.exec(header ?? '')?.[1] ?? 0)

function itemFacts(header: string | undefined): unknown {
  try {
    return JSON.parse(decodeURIComponent(header ?? ''))
  } catch {
    return null
  }
}

const PART_BYTES = 4096

/** Bytes at the speed of the simulated connection, which drops where a fault says so. */
async function* parts({ bytes, dropAfter, bytesPerSecond }: Extract<HelperAnswer, { bytes: Uint8Array }>) {
  for (let at = 0; at < bytes.length; at += PART_BYTES) {
    if (dropAfter !== null && at >= dropAfter) throw new Error('The line was cut, as simulated.')
    const part = bytes.subarray(at, Math.min(at + PART_BYTES, dropAfter ?? Infinity))
    // Before the bytes: a client that has them all must not find the connection still in use.
    if (bytesPerSecond !== null) await new Promise((wait) => setTimeout(wait, (part.length / bytesPerSecond) * 1000))
    yield part
  }
}
