import { fork } from 'node:child_process'
import { jobFile } from '../threads/files'
import type { SafeAnswer, SafeOrder } from './orders'

/** A fault in words for people. */
export class SafeFault extends Error {}

export const SAFE_CODES: Record<string, string> = {
  ENOSPC:
    'The disk of the backups is full, or that of the data folder: a backup needs room for a copy of the database.',
  EDQUOT: 'The disk of the backups is full.',
  ENOENT: 'The folder of the backups is not there. Is its disk connected?',
  EACCES: 'The server has no permission to write to the folder of the backups.',
  EPERM: 'The server has no permission to write to the folder of the backups.',
  EROFS: 'The folder of the backups is on a disk that is mounted read only.',
  EIO: 'A disk reported an error while it was read or written.',
}

/** Has the work done in a process of its own. */
export function ask<Result>(order: SafeOrder): Promise<Result> {
  return new Promise((done, failed) => {
    const child = fork(jobFile('keep-safe'), { stdio: ['ignore', 'inherit', 'inherit', 'ipc'] })
    child.once('message', (answer: SafeAnswer) => {
      if ('done' in answer) done(answer.done as Result)
      else
        failed(
          new SafeFault(answer.fault ?? SAFE_CODES[answer.code ?? ''] ?? `It failed (${answer.code ?? 'no code'}).`),
        )
    })
    child.once('error', failed)
    child.once('exit', () => failed(new SafeFault('The process that makes backups ended unexpectedly.')))
    child.send(order)
  })
}
