import type { Database } from '../../db/open'
import { invalid } from '../../failure'
import { readStored, updateCase, type Writer } from '../rows'
import { type Written, written, iso, writing } from './writing'

interface HoldChange {
  readonly hold: string
  readonly mark: 'ticked' | 'waived' | null
  readonly reason: string
}

/** Ticks or waives a hold, or reopens it. Two people who tick the same hold agree. */
export function markHold(
  database: Database,
  code: string,
  { hold, mark, reason }: HoldChange,
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const old = before.case.holds.find((one) => one.hold === hold) ?? null
    if (old === null && mark === null) return written(before)
    if (old && mark === old.mark && (mark === 'ticked' || reason === old.reason)) return written(before)
    if (mark === 'waived' && reason.trim() === '')
      throw invalid([{ path: 'reason', message: 'is empty; give a reason to waive a hold' }])
    const others = before.case.holds.filter((one) => one.hold !== hold)
    const next =
      mark === null ? null : { hold, mark, reason: mark === 'waived' ? reason : '', by: writer.by, at: iso(writer.now) }
    const after = { ...before.case, holds: next ? [...others, next] : others }
    return written(updateCase(handle, before, after, [{ kind: 'hold', fact: hold, was: old, is: next }], writer))
  })
}
