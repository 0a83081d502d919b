import { z } from 'zod'
import { ATTACHMENT_KINDS, Attachment, MAX_ATTACHMENT_BYTES } from '../../../../../core/handover/attachment'
import { faultsOf } from '../../../../../core/cases/shape/faults'
import { name, text } from '../../../../../core/cases/shape/fact'
import { invalid } from '../../../../failure'
import { attachFile } from '../../../../handover/attachments'
import { readLimited } from '../../../../http/limited-body'

const What = z.object({
  kind: z.enum(ATTACHMENT_KINDS).exclude(['signature']),
  part: text(60).default(''),
  name: name(120),
})

/** A picture or paper, as raw bytes. */
export default defineRoute({ answers: Attachment, may: 'log' }, async ({ event, param, writer }) => {
  const read = What.safeParse(getQuery(event))
  if (!read.success) throw invalid(faultsOf(read.error))
  const code = param('code')
  return attachFile(code, read.data, await readLimited(event.node.req, MAX_ATTACHMENT_BYTES), writer)
})
