import { z } from 'zod'
import { openedSource, OpenedVolume } from '../../core/volumes/luks/opened'
import type { OpenFile } from '../../disk/file-source'
import { openImage } from '../../disk/split-parts'
import { faultySource } from '../../stand-ins/media/faulty-source'
import { Faults } from '../../stand-ins/media/faults'
import { unpackOnce } from './unpack'

/**
 * How a medium is named to its reader: a path; the volumes that a passphrase opened; for a stand-in also the packed image and its
 * simulated faults.
 */
export const MediumPlace = z.object({
  path: z.string(),
  packed: z.object({ from: z.string(), days: z.int() }).nullable(),
  faults: Faults.nullable(),
  opened: z.array(OpenedVolume),
})
export type MediumPlace = z.infer<typeof MediumPlace>

/** Opens a medium read only; throws the system's error where it cannot be opened. */
export function openMedium({ path, packed, faults, opened }: MediumPlace): OpenFile {
  if (packed) unpackOnce(packed.from, path, packed.days)
  const file = openImage(path)
  return openedSource(faults ? { ...faultySource(file, faults), close: () => file.close() } : file, opened)
}
