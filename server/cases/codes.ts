import { desc } from 'drizzle-orm'
import { cases } from '../db/tables'
import type { Handle } from './rows'

/** The next free code of a case: the shop's letters and a number that only grows. */
export function nextCode(handle: Handle, prefix: string): string {
  const last = handle.select({ id: cases.id }).from(cases).orderBy(desc(cases.id)).limit(1).get()
  return codeOf(prefix, (last?.id ?? 0) + 1)
}

export const codeOf = (prefix: string, number: number) => `${prefix}-${String(number).padStart(4, '0')}`
