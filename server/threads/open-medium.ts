import { z } from 'zod'
import { openFile, type OpenFile } from '../../disk/file-source'
import { faultySource } from '../../stand-ins/media/faulty-source'
import { Faults } from '../../stand-ins/media/faults'
import { unpackOnce } from './unpack'

/** A medium as it is named to whoever reads it: a path; of a stand-in also what it is unpacked from, and what is wrong with it. */
export const MediumPlace = z.object({
  path: z.string(),
  packed: z.object({ from: z.string(), days: z.int() }).nullable(),
  faults: Faults.nullable(),
})
export type MediumPlace = z.infer<typeof MediumPlace>

/** Opens a medium for reading only; throws what the system throws where it cannot be opened. */
export function openMedium({ path, packed, faults }: MediumPlace): OpenFile {
  if (packed) unpackOnce(packed.from, path, packed.days)
  const file = openFile(path)
  return faults ? { ...faultySource(file, faults), close: () => file.close() } : file
}
