import { createHash } from 'node:crypto'

/** Identifies the state of a medium, so that results from before a change are recognised as such. */
export const markOfStamp = (stamp: string) => createHash('sha256').update(stamp).digest('hex').slice(0, 8)
