import { z } from 'zod'

/** The faults between the bench and a link, by name. */
export const LINK_FAULTS = [
  'not-found',
  'not-ready',
  'wrong-passcode',
  'wrong-password',
  'wrong-code',
  'too-many-tries',
  'lost',
  'interrupted',
  'disturbed',
  'session-ended',
  'no-room',
  'not-met',
  'damaged',
  'unknown-helper',
  'bad-request',
] as const
export type LinkFaultCode = (typeof LINK_FAULTS)[number]

export const LinkFault = z.object({
  fault: z.enum(LINK_FAULTS),
  says: z.string().max(400),
  triesLeft: z.int().min(0).nullable().default(null),
})
export type LinkFault = z.infer<typeof LinkFault>

/** The HTTP status with which a helper answers each fault. */
export const FAULT_STATUS: Record<LinkFaultCode, number> = {
  'not-found': 404,
  'not-ready': 409,
  'wrong-passcode': 403,
  'wrong-password': 403,
  'wrong-code': 403,
  'too-many-tries': 429,
  lost: 503,
  interrupted: 503,
  disturbed: 409,
  'session-ended': 401,
  'no-room': 507,
  'not-met': 412,
  damaged: 422,
  'unknown-helper': 502,
  'bad-request': 400,
}

/** A fault with its message for people. */
export class LinkFailure extends Error {
  constructor(readonly fault: LinkFault) {
    super(fault.says)
    this.name = 'LinkFailure'
  }
}

/** A failure of a link, to be thrown: its code, a sentence, and the tries left where it counts them. */
export const linkFailure = (fault: LinkFaultCode, says: string, triesLeft: number | null = null) =>
  new LinkFailure({ fault, says, triesLeft })
