import { startUpload, UploadStart } from '../../../../steps/uploads'

export default defineRoute({ may: 'work', body: UploadStart }, ({ body }) => startUpload(body))
