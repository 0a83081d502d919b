import { SHELF_AWAY } from '../../disk/shop-backup/contents'
import { askProcess } from '../threads/ask-process'
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
  [SHELF_AWAY]:
    'The disk that the shelf of a case is on is not connected. Connect it, or leave files out of the backups.',
  EIO: 'A disk reported an error while it was read or written.',
}

/** Has the work done in a process of its own. */
export async function ask<Result>(order: SafeOrder): Promise<Result> {
  const answer = await askProcess<SafeAnswer>('keep-safe', order)
  if ('done' in answer) return answer.done as Result
  throw new SafeFault(answer.fault ?? SAFE_CODES[answer.code ?? ''] ?? `It failed (${answer.code ?? 'no code'}).`)
}
