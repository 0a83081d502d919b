import { createHash } from 'node:crypto'

/** A word for the state of a medium: what was found on it before it was changed is known by another. */
export const markOfStamp = (stamp: string) => createHash('sha256').update(stamp).digest('hex').slice(0, 8)
