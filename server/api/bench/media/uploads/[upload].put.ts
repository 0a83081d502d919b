import { UploadStretch } from '../../../../../core/bench/answers'
import { z } from 'zod'
import { faultsOf } from '../../../../../core/cases/shape/faults'
import { invalid } from '../../../../failure'
import { appendUpload } from '../../../../steps/uploads'

const From = z.object({ from: z.coerce.number().int().min(0) })

/** A part of an image, as raw bytes from an offset on. It counts as use of the session by nobody. */
export default defineRoute({ answers: UploadStretch, may: 'work', goesOnIdle: true }, ({ event, param }) => {
  const read = From.safeParse(getQuery(event))
  if (!read.success) throw invalid(faultsOf(read.error))
  return appendUpload(param('upload'), read.data.from, event.node.req)
})
