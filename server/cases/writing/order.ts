import { Case } from '../../../core/cases/shape/case'
import type { Playbook } from '../../../core/playbook/playbook'
import { fullPlanOf } from '../../../core/ranking/explain/plan'
import type { Database } from '../../db/open'
import { invalid } from '../../failure'
import { readStored, updateCase, type Writer } from '../rows'
import { type Written, written, iso, writing } from './writing'

/** Stores somebody's own order in place of the best one, or restores the best one. */
export function overrideOrder(
  database: Database,
  code: string,
  { order, reason }: { readonly order: readonly string[] | null; readonly reason: string },
  playbook: Playbook,
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    if (order === null && before.case.override === null) return written(before)
    if (order !== null && reason.trim() === '')
      throw invalid([{ path: 'reason', message: 'is empty; give a reason for changing the order' }])
    if (order !== null) {
      const { plan } = fullPlanOf(before.case, playbook, writer.now, { depth: 'order' })
      const strange = order.find((id) => !plan.options.some((option) => option.id === id))
      if (strange) throw invalid([{ path: 'order', message: `names a route that the plan does not have (${strange})` }])
    }
    const override =
      order === null ? null : { order: [...order], reason: reason.trim(), by: writer.by, at: iso(writer.now) }
    const after = Case.parse({ ...before.case, override })
    return written(
      updateCase(
        handle,
        before,
        after,
        [{ kind: 'override', fact: 'override', was: before.case.override, is: override }],
        writer,
      ),
    )
  })
}
