import { UploadShape } from '../../../../../core/bench/medium'
import { startUpload, UploadStart } from '../../../../steps/uploads'

export default defineRoute({ answers: UploadShape, may: 'work', body: UploadStart }, ({ body }) => startUpload(body))
