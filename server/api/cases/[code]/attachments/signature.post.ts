import { SignatureWrite } from '../../../../../core/handover/answers'
import { Attachment } from '../../../../../core/handover/attachment'
import { attachSignature } from '../../../../handover/attachments'

/** A signature as it was drawn, in points. */
export default defineRoute(
  { answers: Attachment, may: 'log', body: SignatureWrite },
  ({ body: { signature, name }, param, writer }) => attachSignature(param('code'), signature, name, writer),
)
