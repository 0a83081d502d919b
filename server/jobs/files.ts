import { existsSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'

/** The programs that run beside the server's thread; they lie beside the built server. */
export function jobFile(name: 'pass-process' | 'read-media' | 'count-finds'): string {
  const file = [
    join(dirname(process.argv[1] ?? ''), 'jobs', `${name}.mjs`),
    resolve('.output/server/jobs', `${name}.mjs`),
  ].find((one) => existsSync(one))
  if (!file) throw new Error('The jobs are missing; build the app again.')
  return file
}
