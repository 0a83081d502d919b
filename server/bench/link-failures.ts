import { LinkFailure, type LinkFaultCode } from '../../core/links/fault'
import type { ErrorCode } from '../../core/errors'
import { Failure } from '../failure'

const CODE: Partial<Record<LinkFaultCode, ErrorCode>> = {
  'not-found': 'not-found',
  'bad-request': 'invalid',
}

/** Lets a failure between the bench and a link leave the server in the one shape of errors. */
export async function throughLink<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    throw asFailure(error)
  }
}

export function asFailure(error: unknown): unknown {
  if (!(error instanceof LinkFailure)) return error
  const { fault, says, triesLeft } = error.fault
  return new Failure(CODE[fault] ?? 'refused', says, {
    // Said once is enough.
    ...(says.includes('Nothing was changed') ? { safe: '' } : {}),
    fields: [
      { path: 'link', message: fault },
      ...(triesLeft === null ? [] : [{ path: 'triesLeft', message: String(triesLeft) }]),
    ],
  })
}

/** What to tell a person of anything that was thrown. */
export const faultWords = (error: unknown): string =>
  error instanceof LinkFailure
    ? error.fault.says
    : error instanceof Failure
      ? error.body.message
      : 'Something went wrong here.'
