import { LinkFailure, type LinkFaultCode } from '../../core/bench/fault'
import type { ErrorCode } from '../../core/errors'
import { Failure } from '../failure'
import { asDiskFault, DiskFault } from './disk-fault'

const CODE: Partial<Record<LinkFaultCode, ErrorCode>> = {
  'not-found': 'not-found',
  'bad-request': 'invalid',
}

/** Turns a failure between the bench and a link into the one shape of errors. */
export async function throughLink<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    throw asFailure(error)
  }
}

export function asFailure(error: unknown): unknown {
  const disk = asDiskFault(error)
  if (disk instanceof DiskFault) return new Failure('refused', disk.message, { safe: 'What was saved before is safe.' })
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

/** The message for people of anything that was thrown. */
export function faultWords(error: unknown): string {
  const fault = asDiskFault(error)
  if (fault instanceof LinkFailure) return fault.fault.says
  if (fault instanceof Failure) return fault.body.message
  if (fault instanceof DiskFault) return fault.message
  return 'An unexpected fault stopped it; the server’s log has the details. What was saved before is safe.'
}
