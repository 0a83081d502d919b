import { existsSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'

/** The programs that run beside the server's thread, by their folder in server/. */
export const JOBS = {
  'pass-process': 'passes',
  'help-scan': 'threads',
  'read-media': 'threads',
  'read-rows': 'threads',
  'read-file': 'threads',
  'read-archive': 'threads',
  'count-finds': 'listings',
  'hash-passwords': 'people',
  'unlock-volumes': 'threads',
  'make-pdf': 'handover',
  'read-bundle': 'exchange',
  'keep-safe': 'safekeeping',
  'try-playbook': 'playbook',
} as const
export type JobName = keyof typeof JOBS

/** The path of a program beside the built server. */
export function jobFile(name: JobName): string {
  const file = [
    join(dirname(process.argv[1] ?? ''), 'jobs', `${name}.mjs`),
    resolve('.output/server/jobs', `${name}.mjs`),
  ].find((one) => existsSync(one))
  if (!file) throw new Error('The jobs are missing; build the app again.')
  return file
}
