import { join } from 'node:path'
import { buildSync } from 'esbuild'
import type { HelperProgram } from './helper-threads'

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
