import { existsSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'

export const JOBS = [
  'pass-process',
  'read-media',
  'read-rows',
  'read-file',
  'read-archive',
  'count-finds',
  'hash-passwords',
] as const
export type JobName = (typeof JOBS)[number]

/** The programs that run beside the server's thread; they lie beside the built server. */
export function jobFile(name: JobName): string {
  const file = [
    join(dirname(process.argv[1] ?? ''), 'jobs', `${name}.mjs`),
    resolve('.output/server/jobs', `${name}.mjs`),
  ].find((one) => existsSync(one))
  if (!file) throw new Error('The jobs are missing; build the app again.')
  return file
}
