import { z } from 'zod'
import { faultySource } from '../../stand-ins/media/faulty-source'
import { Faults } from '../../stand-ins/media/faults'
import { openFile, type OpenFile } from '../../disk/file-source'

/** A medium as it is named to whoever reads it: a path, and of a stand-in what is wrong with it. */
export const MediumPlace = z.object({ path: z.string(), faults: Faults.nullable() })
export type MediumPlace = z.infer<typeof MediumPlace>

/** Opens a medium for reading only; throws what the system throws where it can not be opened. */
export function openMedium({ path, faults }: MediumPlace): OpenFile {
  const file = openFile(path)
  return faults ? { ...faultySource(file, faults), close: () => file.close() } : file
}
