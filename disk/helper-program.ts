import { join } from 'node:path'
import { buildSync } from 'esbuild'
import type { OpenedVolume } from '../core/volumes/luks/opened'
import { HelperThreads, type HelperProgram } from './helper-threads'

/** How the threads of the command line open an image. */
export interface HelpedImage {
  readonly path: string
  readonly opened: readonly OpenedVolume[]
}

/** Threads for a scan on the command line of an image of this size, in bytes. */
export const helpersFor = (size: number, image: HelpedImage) => HelperThreads.for(size, image, helperProgram)

/** The program of the threads of the command line, bundled: a thread cannot translate it while the scan waits for it. */
export function helperProgram(): HelperProgram {
  const { outputFiles } = buildSync({
    entryPoints: [join(import.meta.dirname, 'help-scan.ts')],
    bundle: true,
    write: false,
    platform: 'node',
    format: 'cjs',
  })
  return { text: outputFiles[0]!.text, isSource: true }
}
