import { join } from 'node:path'
import { safeName } from '../../core/bench/safe-path'

/** The folders of the data folder in which files of a case are, by room. Wiping and giving out read the same list. */
const ROOMS = {
  shelf: safeName,
  'by-hand': safeName,
  fetched: (code: string) => code.toLowerCase().replace(/[^a-z0-9-]/g, '-'),
  attachments: safeName,
} as const
export type CaseRoom = keyof typeof ROOMS

/** The folder of a case in a room, which may not be there. */
export const caseFolder = (room: CaseRoom, code: string): string => join(dataFolder(), room, ROOMS[room](code))
