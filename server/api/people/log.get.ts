import { SecurityPage } from '../../../core/people/security-log'
import { z } from 'zod'
import { faultsOf } from '../../../core/cases/shape/faults'
import { invalid } from '../../failure'
import { securityEntries } from '../../people/security-log'

const Asked = z.object({
  before: z.coerce.number().int().min(1).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(50),
})

/** A page of the security log, the newest first. */
export default defineRoute({ answers: SecurityPage, may: 'people' }, ({ event }) => {
  const read = Asked.safeParse(getQuery(event))
  if (!read.success) throw invalid(faultsOf(read.error))
  return { entries: securityEntries(useLantern().database, read.data.before ?? null, read.data.limit) }
})
