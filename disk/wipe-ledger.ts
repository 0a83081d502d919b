import { closeSync, existsSync, fsyncSync, openSync, readFileSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import { WIPED_PARTS } from '../core/cases/shape/wiping'
import { instant } from '../core/cases/shape/moment'

/**
 * The list of wipes beside the database: a database put back from an older backup does not know them, and they are done again
 * before the shop opens. It holds identities and codes of cases, and no name.
 */
export const WIPE_LEDGER = 'wiped.jsonl'

const Line = z.object({ identity: z.uuid(), code: z.string(), part: z.enum(WIPED_PARTS), at: instant })
export type WipeLine = z.infer<typeof Line>

/** Every line that can be read: a line cut by a crash was never acknowledged. */
export function readLedger(folder: string): WipeLine[] {
  const path = join(folder, WIPE_LEDGER)
  if (!existsSync(path)) return []
  return readFileSync(path, 'utf8')
    .split('\n')
    .flatMap((text) => {
      try {
        const line = Line.safeParse(JSON.parse(text))
        return line.success ? [line.data] : []
      } catch {
        return []
      }
    })
}

/** Adds a line, on disk before this returns. It begins with a line break, so that a line that was cut before does no harm. */
export function addToLedger(folder: string, line: WipeLine): void {
  const file = openSync(join(folder, WIPE_LEDGER), 'a', 0o600)
  try {
    writeSync(file, `\n${JSON.stringify(line)}\n`)
    fsyncSync(file)
  } finally {
    closeSync(file)
  }
}

/**
 * Adds to the list of one folder what only that of another has: to the place of the backups, so that a shop put back from one of them on
 * another machine knows the wipes that were done since; and from there to the shop that is put back.
 */
export function addMissingWipes(from: string, to: string): void {
  const there = new Set(readLedger(to).map((line) => JSON.stringify(line)))
  for (const line of readLedger(from)) if (!there.has(JSON.stringify(line))) addToLedger(to, line)
}
