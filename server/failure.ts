import type { Fault } from '../core/cases/shape/faults'
import type { ErrorCode, ErrorShape } from '../core/errors'

const STATUS: Record<ErrorCode, number> = {
  'not-signed-in': 401,
  'other-person': 401,
  'not-allowed': 403,
  'wrong-sign-in': 401,
  'too-many-tries': 429,
  'not-found': 404,
  invalid: 400,
  refused: 409,
  clash: 409,
  'too-large': 413,
  'foreign-origin': 403,
  'foreign-host': 421,
  broken: 500,
}

const NOTHING_CHANGED = 'Nothing was changed.'

/** An expected failure; it reaches the client in the one shape of errors. */
export class Failure extends Error {
  readonly body: ErrorShape

  constructor(code: ErrorCode, message: string, { safe = NOTHING_CHANGED, fields = [] as Fault[] } = {}) {
    super(message)
    this.name = 'Failure'
    this.body = { code, message, safe, fields: [...fields] }
  }

  get status(): number {
    return STATUS[this.body.code]
  }
}

export const notFound = (what: string) => new Failure('not-found', `There is no ${what}.`)
export const refused = (why: string) => new Failure('refused', why)

/** The request does not fit its schema; the first fault is the message, all of them are the fields. */
export function invalid(faults: readonly Fault[], what = 'What was sent'): Failure {
  const first = faults[0]
  const message = first
    ? `${first.path === '' ? what : first.path} ${first.message}.`.replace(/\.\.$/, '.')
    : `${what} cannot be read.`
  return new Failure('invalid', message, { fields: [...faults] })
}
