import { startUpload, UploadStart } from '../../../../media/uploads'

export default defineRoute({ may: 'work', body: UploadStart }, ({ body }) => startUpload(body))
