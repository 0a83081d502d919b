import { z } from 'zod'
import { openFile, type OpenFile } from '../../disk/file-source'
import { faultySource } from '../../stand-ins/media/faulty-source'
import { Faults } from '../../stand-ins/media/faults'
import { unpackOnce } from './unpack'

/** How a medium is named to its reader: a path; for a stand-in also the packed image and its simulated faults. */
export const MediumPlace = z.object({
  path: z.string(),
  packed: z.object({ from: z.string(), days: z.int() }).nullable(),
  faults: Faults.nullable(),
})
export type MediumPlace = z.infer<typeof MediumPlace>

/** Opens a medium read only; throws the system's error where it cannot be opened. */
export function openMedium({ path, packed, faults }: MediumPlace): OpenFile {
  if (packed) unpackOnce(packed.from, path, packed.days)
  const file = openFile(path)
  return faults ? { ...faultySource(file, faults), close: () => file.close() } : file
}
