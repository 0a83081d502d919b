import type { z } from 'zod'
import { faultsOf } from '~~/core/cases/shape/faults'
import { ErrorShape, LEARNED_HEADER } from '~~/core/errors'
import { PERSON_HEADER, USED_HEADER } from '~~/core/people/session'

/** A failure as the server reports it, or a missing answer. */
export class ApiFailure extends Error {
  constructor(readonly error: ErrorShape) {
    super(error.message)
  }

  get isOffline(): boolean {
    return this.error.code === 'broken' && this.error.safe === OFFLINE_SAFE
  }

  /** the session of this page has ended, or another person has signed in */
  get isSignedOut(): boolean {
    return this.error.code === 'not-signed-in' || this.error.code === 'other-person'
  }
}

const OFFLINE_SAFE = 'What you typed is kept on this machine and sent when the server answers.'

const noAnswer = (): ErrorShape => ({
  code: 'broken',
  message: 'The server does not answer.',
  safe: OFFLINE_SAFE,
  fields: [],
})

/** The versions of playbook and evidence in the server's last answer; null before its first. */
export const learnedHeard = ref<string | null>(null)

/**
 * The person that this page was loaded for: each request names them, and the server refuses it under another session.
 */
export const pagePerson = ref<number | null>(null)

/** The last answer which said that the session of this page has ended. */
export const endHeard = shallowRef<ErrorShape | null>(null)

/** When the server was last asked, ms. */
export const lastAsked = { at: Date.now() }

type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'

/** An answer with the wrong shape: the page is older or newer than the server. */
const strangeAnswer = (error: z.ZodError): ErrorShape => ({
  code: 'broken',
  message: 'The server’s answer does not have the expected shape.',
  safe: `What was saved is safe. Reload the page; if that does not help, report “${faultWords(error)}”.`,
  fields: faultsOf(error),
})

function faultWords(error: z.ZodError): string {
  const [first] = faultsOf(error)
  return first ? `${first.path || 'answer'}: ${first.message}` : 'no reason'
}

/** Asks the server and parses its answer; every failure comes as an ApiFailure. */
export async function api<Schema extends z.ZodType>(
  schema: Schema,
  method: Method,
  path: string,
  body?: unknown,
): Promise<z.output<Schema>> {
  const read = schema.safeParse(await ask(method, path, body))
  if (!read.success) throw new ApiFailure(strangeAnswer(read.error))
  return read.data
}

/** Has the server do something whose answer is not needed; every failure is an ApiFailure. */
export async function apiDo(method: Method, path: string, body?: unknown): Promise<void> {
  await ask(method, path, body)
}

/** Bytes are sent as they are, anything else as JSON. */
async function ask(method: Method, path: string, body: unknown): Promise<unknown> {
  const isBytes = body instanceof Blob
  const headers: Record<string, string> = { [USED_HEADER]: String(sinceUsed()) }
  if (pagePerson.value !== null) headers[PERSON_HEADER] = String(pagePerson.value)
  if (body !== undefined) headers['content-type'] = isBytes ? 'application/octet-stream' : 'application/json'
  lastAsked.at = Date.now()
  let response: Response
  try {
    response = await fetch(path, {
      method,
      headers,
      body: body === undefined ? undefined : isBytes ? body : JSON.stringify(body),
    })
  } catch {
    throw new ApiFailure(noAnswer())
  }
  learnedHeard.value = response.headers.get(LEARNED_HEADER) ?? learnedHeard.value
  const answer: unknown = await response.json().catch(() => null)
  if (response.ok) return answer
  const error = ErrorShape.safeParse(answer)
  const failure = new ApiFailure(error.success ? error.data : noAnswer())
  if (failure.isSignedOut) endHeard.value = failure.error
  throw failure
}

/** The message of a failure, whatever was thrown. */
export function failureWords(error: unknown): string {
  return error instanceof ApiFailure
    ? `${error.error.message} ${error.error.safe}`
    : 'This page stopped working because of a fault in it. What was saved is safe. Reload the page.'
}
