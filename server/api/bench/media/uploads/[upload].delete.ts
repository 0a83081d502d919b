import { UploadList } from '../../../../../core/bench/answers'
import { dropUpload, uploads } from '../../../../steps/uploads'

export default defineRoute({ answers: UploadList, may: 'work' }, async ({ param }) => {
  await dropUpload(param('upload'))
  return { uploads: await uploads() }
})
